import { displayCode } from '../colour/transfer'
import { halation, ringRadius, spreadOfResolution } from '../film/emulsion'
import { memoized } from '../numbers/memoized'
import { grainPlain, type Grain } from '../stages/grain'
import { emulsionOf, type EmulsionSettings } from './emulsion'
import { sampleLine, type View } from './views'

/** Pixels of a swatch, and the width of the picture of which it is a part, pixel for pixel. */
const SWATCH = { width: 84, height: 56, of: 1920 } as const
/** The densities that swatches are drawn at. */
const DENSITIES = [0.3, 0.75, 1.5] as const

/** What grain looks like, and how its noise falls with fineness. */
export const grainViews = (grain: Grain): View[] => [swatches(grain), spectrum(grain)]

/** The last ones are kept: they take longer than a picture, and most settings of a process leave its grain alone. */
const swatches = memoized(8, (grain: Grain): View => {
  const { width, height, of } = SWATCH
  const grained = grainPlain(grain, of, 0)
  const picture = (d: number): Float32Array => {
    const codes = new Float32Array(3 * width * height)
    for (let i = 0; i < width * height; i++) {
      const densities = grained([d, d, d], i % width, Math.floor(i / width))
      codes.set(
        densities.map((v) => displayCode(10 ** -Math.max(0, v))),
        3 * i,
      )
    }
    return codes
  }
  return {
    view: 'swatches',
    title: `Grain at three densities, pixel for pixel of a picture ${of} wide`,
    width,
    height,
    pictures: DENSITIES.map((d) => ({ label: `density ${d}`, codes: picture(d) })),
  }
})

const spectrum = ({ clump, rms }: Grain): View => ({
  view: 'curves',
  title: 'Spectrum of the grain',
  xTitle: 'cycles a millimetre on the film',
  yTitle: 'noise, 1 = through a wide aperture',
  lines: [
    {
      label: `RMS ${rms.toFixed(1)}`,
      style: 'accent',
      points: sampleLine((f) => Math.exp(-2 * (Math.PI * clump * 1e-3 * f) ** 2), 0, 150),
    },
  ],
})

/** What is drawn of the emulsions that are at work. */
export function emulsionViews(s: EmulsionSettings): View[] {
  const e = emulsionOf(s)
  const grain = e.grainNegative ?? e.grainPrint
  return [
    ...(grain ? grainViews(grain) : []),
    ...(s.resolvesNegative > 0 || s.resolvesPrint > 0 ? [transfer(s)] : []),
    ...(s.halation > 0 ? [halationView(s)] : []),
  ]
}

/** Contrast left by fineness: of each film, and of all together. */
function transfer(s: EmulsionSettings): View {
  const of = (cycles: number, times = 1) => {
    const sigma = spreadOfResolution(cycles) * Math.sqrt(times)
    return (f: number): number => Math.exp(-2 * (Math.PI * sigma * 1e-3 * f) ** 2)
  }
  const [negative, print] = [of(s.resolvesNegative), of(s.resolvesPrint, Number(s.generations))]
  return {
    view: 'curves',
    title: 'Contrast that is left of fine detail',
    xTitle: 'cycles a millimetre on the film',
    yTitle: 'modulation transfer',
    lines: [
      { label: 'negative', style: 'plain', points: sampleLine(negative, 0, 120) },
      { label: 'print', style: 'dashed', points: sampleLine(print, 0, 120) },
      { label: 'both', style: 'accent', points: sampleLine((f) => negative(f) * print(f), 0, 120) },
    ],
  }
}

/** What comes back around a point of light, by its distance from it. */
export function halationView(s: Pick<EmulsionSettings, 'halation' | 'baseThickness'>): View {
  const radius = ringRadius(1000 * s.baseThickness)
  const { copies, amounts } = halation(s.halation / 100, radius)
  const gauss = (r: number, sigma: number): number => Math.exp(-(r * r) / (2 * sigma * sigma)) / sigma ** 2
  const shape = (r: number): number => copies.reduce((sum, c) => sum + c.share * gauss(r, c.sigma), 0)
  const most = shape(radius)
  const line = (label: 'red' | 'green' | 'blue', k: 0 | 1 | 2) => ({
    label,
    style: label,
    points: sampleLine((r) => (100 * amounts[k] * shape(1000 * r)) / most, 0, (3 * radius) / 1000),
  })
  return {
    view: 'curves',
    title: `Halation: a ring of ${(radius / 1000).toFixed(2)} mm`,
    xTitle: 'distance from the light, mm on the film',
    yTitle: 'light sent back, per cent',
    lines: [line('red', 0), line('green', 1), line('blue', 2)],
  }
}
