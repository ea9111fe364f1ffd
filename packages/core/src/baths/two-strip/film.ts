import { bt709ToLab, chroma } from '../../colour/lab'
import { dot, type Matrix3, type Triple, three, type Three } from '../../colour/matrix'
import { LUMA_709 } from '../../colour/spaces'
import {
  MONO_PRINT,
  SEPARATION,
  DENSITIES,
  carried,
  dmaxOf,
  exposureTone,
  printTone,
  type Curve,
} from '../../film/curve'
import type { FilmParts } from '../../film/emulsion'
import { densityPlaces } from '../../film/places'
import { PLAIN_LIGHT, bisect } from '../../film/plain-levels'
import { throughNegative, timeStages } from '../../film/printing'
import { makeProjection, projectPlain, type Projector } from '../../film/projection'
import type { Projection } from '../../spectra/projection'
import { recordOf } from '../../film/records'
import { IMBIBITION_DYES, TWO_COLOUR_DYES } from '../../spectra/dyes'
import { memoized } from '../../numbers/memoized'
import { bells, passBand } from '../../spectra/grid'
import { plainStages } from '../../stages/plain'
import { curves, evenCurves, cacheKey, mix, type PointStage, type Tone } from '../../stages/stage'
import type { TwoStripSettings } from './settings'

/**
 * Records behind their taking filters (from memory, then fitted with the dyes so that skin and leaves come out as such prints
 * show them), and the blue one that recovery borrows from.
 */
export const TWO_STRIP_RECORDS: Matrix3 = [
  recordOf(
    bells([
      [1, 627, 80],
      [1, 677, 90],
    ]),
    passBand(590, 720),
  ),
  recordOf(
    bells([
      [1, 530, 90],
      [0.5, 470, 80],
    ]),
    passBand(440, 600),
  ),
  recordOf(bells([[1, 445, 60]])),
]

/**
 * Amounts of orange-red for one of blue-green at which mid grey is as neutral as two dyes can be: least chroma at a
 * luminance of 0.18, by golden section over the ratio.
 */
function neutralRatio(project: Projector): number {
  const out = three()
  const chromaAt = (ratio: number): number => {
    const light = (a: number): number => {
      project([a, a * ratio, 0], out)
      return dot(LUMA_709, [out[0], out[1], out[2]])
    }
    light(bisect(light, 0.18, 0, 6))
    return chroma(bt709ToLab([out[0], out[1], out[2]]))
  }
  let [low, high] = [0.3, 3]
  for (let i = 0; i < 40; i++) {
    const [a, b] = [low + 0.382 * (high - low), low + 0.618 * (high - low)]
    if (chromaAt(a) < chromaAt(b)) high = b
    else low = a
  }
  // A minimum is found to half of the digits only: rounded, so that every machine takes the same.
  return Math.round(1e6 * ((low + high) / 2)) / 1e6
}

/** Orange-red beyond the most neutral share: greys of such prints are warm (from memory). */
const WARMTH = 1.13

/** Red and blue-green light of additive projection as linear BT.709; together they are white. */
const RED_LIGHT: Triple = [1, 0.27, 0.07]
const GREEN_LIGHT: Triple = [0, 0.73, 0.93]

export interface TwoStripFilm {
  readonly parts: FilmParts
  /** Display-linear light of two print densities; the palette is drawn with it. */
  readonly show: (red: number, green: number, out: Three) => void
}

export function makeTwoStrip(s: TwoStripSettings): TwoStripFilm {
  const prints = [s.contrastRed, s.contrastGreen, 100].map((c): Curve => ({
    ...MONO_PRINT,
    gamma: (MONO_PRINT.gamma * c) / 100,
  })) as [Curve, Curve, Curve]
  const exposed = [mix(TWO_STRIP_RECORDS)]
  const negative = [evenCurves(exposureTone(SEPARATION))]
  const image = (curve: Curve): Tone => carried(printTone(curve), 'image', (d) => d - MONO_PRINT.dmin)
  const images = curves(image(prints[0]), image(prints[1]), image(prints[2]))
  const shown = s.assembly === 'dyes' ? dyedStages(s, Math.max(...prints.map(dmaxOf))) : addedStages(s)
  const light = s.holdGrey ? timeStages([...exposed, ...negative], [images, ...shown]) : PLAIN_LIGHT
  const show = plainStages(shown)
  return {
    parts: { exposed, negative, print: [throughNegative([light, light, light]), images], shown },
    show: (red, green, out) => show(red, green, (red + green) / 2, out),
  }
}

/** Image densities of the records (red, green, blue) to light through the two dyes, and the yellow one that recovery takes away. */
function dyedStages(s: TwoStripSettings, highest: number): PointStage[] {
  const { share, ratio } = balanced(s.lamp, s.flare)
  const tilt = s.balance / 100
  const amount = s.density / 100
  const places = densityPlaces(0, highest)
  const solid = {
    key: cacheKey('two-strip', s.lamp, s.flare, s.balance, s.density, s.blueRecovery, places.box.to),
    ...places.box,
    projection: projectionOf(s.lamp, s.flare),
    amounts: (red: number, green: number, bluer: number, out: Float64Array): void => {
      out[0] = red * share * amount * (1 - tilt)
      out[1] = green * share * ratio * amount * (1 + tilt)
      out[2] = (-s.blueRecovery / 100) * bluer
    },
  }
  return [mix(THAN_BOTH), curves(null, null, BLUER), evenCurves(places.tone), { at: 'solid', solid }]
}

/** The blue record's density in place of the two others' mean. */
const THAN_BOTH: Matrix3 = [
  [1, 0, 0],
  [0, 1, 0],
  [-0.5, -0.5, 1],
]
/** Density over which blue that is lent sets in. */
const SETS_IN = 0.2
/** What is bluer than two records hold loses the dyes' own density in blue; what is less blue, skin above all, stays. */
const BLUER: Tone = {
  key: 'bluer',
  axis: { nodes: 'even', from: -8, to: 8, steps: 4096 },
  f: (density) => (density < 0 ? (density * density) / (SETS_IN - density) : 0),
}

/** Image densities to the sum of two lights. */
function addedStages(s: TwoStripSettings): PointStage[] {
  const tilt = s.balance / 100
  const amount = s.density / 100
  const [red, green] = [1 + tilt, 1 - tilt]
  const row = (k: 0 | 1 | 2): Triple => [red * RED_LIGHT[k], green * GREEN_LIGHT[k], 0]
  const flare = (s.flare - 0.15) / 100
  const passed: Tone = { key: cacheKey('passed', amount), axis: DENSITIES, f: (d) => 10 ** (-d * amount) }
  return [evenCurves(passed), mix([row(0), row(1), row(2)], [flare, flare, flare])]
}

/** The two dyes and the yellow one of recovery in the light of a lamp. */
const projectionOf = (lamp: TwoStripSettings['lamp'], flare: number): Projection =>
  makeProjection({
    components: [...TWO_COLOUR_DYES, IMBIBITION_DYES[2]],
    lamp,
    flare: flare / 100,
    clear: [0, 0, 0],
  })

/** Blue-green dye that makes, with its share of orange-red, a visual density of 1, and that share. */
const balanced = memoized(8, (lamp: TwoStripSettings['lamp'], flare: number) => {
  const project = projectPlain(projectionOf(lamp, flare))
  const ratio = WARMTH * neutralRatio(project)
  return { ratio, share: unitShare(project, ratio) }
})

function unitShare(project: Projector, ratio: number): number {
  const out = three()
  return bisect(
    (a) => {
      project([a, a * ratio, 0], out)
      return dot(LUMA_709, [out[0], out[1], out[2]])
    },
    0.1,
    0,
    6,
  )
}
