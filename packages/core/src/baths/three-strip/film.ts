import { transform, type Matrix3, type Triple } from '../../colour/matrix'
import { MONO_PRINT, SEPARATION, curveTable, exposureTable } from '../../film/curve'
import { amountAt, neutralScale } from '../../film/neutral'
import { PLAIN_LIGHT } from '../../film/plain-levels'
import { makeProjector } from '../../film/projection'
import { recordOf } from '../../film/records'
import { timeToGrey } from '../../film/timing'
import type { PointFunction } from '../../kernels/lut3d'
import { IMBIBITION_DYES, SILVER } from '../../spectra/dyes'
import { bells, passBand } from '../../spectra/grid'
import type { ThreeStripSettings } from './settings'

export const RECORDS = ['red', 'green', 'blue'] as const

/** Separation records (from memory). */
export const THREE_STRIP_RECORDS: Matrix3 = [
  recordOf(bells([[1, 640, 70]]), passBand(600, 720)),
  recordOf(bells([[1, 540, 60]])),
  recordOf(bells([[1, 440, 70]])),
]

const INTER_IMAGE: Matrix3 = [
  [1.3, -0.18, -0.12],
  [-0.14, 1.3, -0.16],
  [-0.08, -0.2, 1.28],
]

function interImage(share: number): Matrix3 {
  const row = (i: 0 | 1 | 2): Triple => {
    const at = (j: 0 | 1 | 2) => (i === j ? 1 : 0) + share * (INTER_IMAGE[i][j] - (i === j ? 1 : 0))
    return [at(0), at(1), at(2)]
  }
  return [row(0), row(1), row(2)]
}

export interface ThreeStripFilm {
  /** Scene light to the densities of the three dye images. */
  readonly densities: PointFunction
  /** Dye densities to display-linear light. */
  readonly assemble: PointFunction
}

export function makeThreeStrip(s: ThreeStripSettings): ThreeStripFilm {
  const negative = exposureTable(SEPARATION)
  const matrix = interImage(s.interImage / 100)
  const curves = [s.contrastCyan, s.contrastMagenta, s.contrastYellow].map((c) =>
    curveTable({ ...MONO_PRINT, gamma: (MONO_PRINT.gamma * c) / 100 }),
  )
  const scale = neutralScale(IMBIBITION_DYES)
  const amounts = [s.amountCyan / 100, s.amountMagenta / 100, s.amountYellow / 100]
  const project = makeProjector({
    components: [...IMBIBITION_DYES, SILVER],
    lamp: s.lamp,
    flare: s.flare / 100,
    clear: [0, 0, 0, 0],
  })
  const held = new Float64Array(4)
  const densitiesAt =
    (light: number): PointFunction =>
    (r, g, b, out) => {
      const [er, eg, eb] = transform(THREE_STRIP_RECORDS, [r, g, b])
      const d = transform(matrix, [negative(er), negative(eg), negative(eb)])
      for (let k = 0; k < 3; k++) out[k] = curves[k]!(light - d[k]!) - MONO_PRINT.dmin
    }
  const assemble: PointFunction = (c, m, y, out) => {
    if (s.show !== 'print') {
      out.fill(10 ** -[c, m, y][RECORDS.indexOf(s.show as (typeof RECORDS)[number])]!)
      return
    }
    // The key image is made from the green record, whose dye is magenta; the dyes give way to it.
    const key = (s.key / 100) * m
    const rest = 1 - s.key / 100
    const dyes = [c * rest, m * rest, y * rest]
    for (const k of [0, 1, 2] as const) held[k] = amountAt(scale, k, dyes[k]!) * amounts[k]!
    held[3] = key
    project(held, out)
  }
  const whole = (light: number): PointFunction => {
    const first = densitiesAt(light)
    return (r, g, b, out) => {
      first(r, g, b, out)
      assemble(out[0]!, out[1]!, out[2]!, out)
    }
  }
  const light = s.holdGrey ? timeToGrey(whole) : PLAIN_LIGHT
  return { densities: densitiesAt(light), assemble }
}
