import { bt709ToLab, chroma } from '../../colour/lab'
import { dot, transform, type Matrix3, type Triple } from '../../colour/matrix'
import { LUMA_709 } from '../../colour/spaces'
import { MONO_PRINT, SEPARATION, curveTable, exposureTable } from '../../film/curve'
import { PLAIN_LIGHT, bisect } from '../../film/plain-levels'
import { makeProjector, type Projector } from '../../film/projection'
import { recordOf } from '../../film/records'
import { timeToGrey } from '../../film/timing'
import type { PointFunction } from '../../kernels/lut3d'
import { IMBIBITION_DYES, TWO_COLOUR_DYES } from '../../spectra/dyes'
import { bells, passBand } from '../../spectra/grid'
import type { TwoStripSettings } from './settings'

/** Records behind their taking filters (from memory), and the blue one that recovery borrows from. */
export const TWO_STRIP_RECORDS: Matrix3 = [
  recordOf(
    bells([
      [1, 610, 80],
      [1, 660, 90],
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
  const out = new Float64Array(3)
  const chromaAt = (ratio: number): number => {
    const light = (a: number): number => {
      project([a, a * ratio, 0], out)
      return dot(LUMA_709, [out[0]!, out[1]!, out[2]!])
    }
    light(bisect(light, 0.18, 0, 6))
    return chroma(bt709ToLab([out[0]!, out[1]!, out[2]!]))
  }
  let [low, high] = [0.3, 3]
  for (let i = 0; i < 40; i++) {
    const [a, b] = [low + 0.382 * (high - low), low + 0.618 * (high - low)]
    if (chromaAt(a) < chromaAt(b)) high = b
    else low = a
  }
  return (low + high) / 2
}

/** Red and blue-green light of additive projection as linear BT.709; together they are white. */
const RED_LIGHT: Triple = [1, 0.27, 0.07]
const GREEN_LIGHT: Triple = [0, 0.73, 0.93]

export interface TwoStripFilm {
  readonly point: PointFunction
  /** Display-linear light of two print densities; the palette is drawn with it. */
  readonly show: (red: number, green: number, out: Float64Array) => void
}

export function makeTwoStrip(s: TwoStripSettings): TwoStripFilm {
  const prints = [s.contrastRed, s.contrastGreen, 100].map((c) =>
    curveTable({ ...MONO_PRINT, gamma: (MONO_PRINT.gamma * c) / 100 }),
  )
  const negative = exposureTable(SEPARATION)
  const project = makeProjector({
    components: [...TWO_COLOUR_DYES, IMBIBITION_DYES[2]],
    lamp: s.lamp,
    flare: s.flare / 100,
    clear: [0, 0, 0],
  })
  const ratio = neutralRatio(project)
  const tilt = s.balance / 100
  const amount = s.density / 100
  const share = unitShare(project, ratio)
  const dyes = (red: number, green: number, blue: number, out: Float64Array): void => {
    const yellow = (s.blueRecovery / 100) * (blue - (red + green) / 2)
    project([red * share * amount * (1 - tilt), green * share * ratio * amount * (1 + tilt), yellow], out)
  }
  const added = (red: number, green: number, _blue: number, out: Float64Array): void => {
    const [r, g] = [10 ** (-red * amount) * (1 + tilt), 10 ** (-green * amount) * (1 - tilt)]
    for (let k = 0; k < 3; k++) out[k] = r * RED_LIGHT[k]! + g * GREEN_LIGHT[k]! + (s.flare - 0.15) / 100
  }
  const combine = s.assembly === 'dyes' ? dyes : added
  const printAt =
    (light: number): PointFunction =>
    (r, g, b, out) => {
      const exposures = transform(TWO_STRIP_RECORDS, [r, g, b])
      const d = exposures.map((e, k) => prints[k]!(light - negative(e)) - MONO_PRINT.dmin)
      combine(d[0]!, d[1]!, d[2]!, out)
    }
  const light = s.holdGrey ? timeToGrey(printAt) : PLAIN_LIGHT
  return { point: printAt(light), show: (red, green, out) => combine(red, green, (red + green) / 2, out) }
}

/** Blue-green dye that makes, with its share of orange-red, a visual density of 1. */
function unitShare(project: Projector, ratio: number): number {
  const out = new Float64Array(3)
  return bisect(
    (a) => {
      project([a, a * ratio, 0], out)
      return dot(LUMA_709, [out[0]!, out[1]!, out[2]!])
    },
    0.1,
    0,
    6,
  )
}
