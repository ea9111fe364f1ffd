import Type, { type Static } from 'typebox'
import { transform, type Matrix3, type Triple } from '../../colour/matrix'
import { curveTable, type Curve } from '../../film/curve'
import { NEGATIVE_RECORDS } from '../../film/layers'
import { amountAt, neutralScale } from '../../film/neutral'
import { makeProjector } from '../../film/projection'
import { timeToGrey } from '../../film/timing'
import { DENSITY, SCENE } from '../../kernels/domain'
import type { PointFunction } from '../../kernels/lut3d'
import { seededRandom } from '../../kernels/random'
import { PRINT_DYES, STAIN } from '../../spectra/dyes'
import { holdGreyToggle, number, percent, toggle } from '../fields'
import { defineKind, type Field, type Stage } from '../kind'
import { sampleLine, type View } from '../views'

export const InstantSettings = Type.Object(
  {
    temperature: number(0, 40, 21, {
      title: 'Temperature',
      description: 'While it develops. Cold stays thin and blue, warm goes dense and yellow-red.',
      group: 'Development',
      unit: '°C',
      step: 0.5,
      first: true,
    }),
    time: number(50, 150, 100, {
      title: 'Development time',
      description: 'In per cent of what the pack says. Short stays thin, long goes dense.',
      group: 'Development',
      unit: '%',
      step: 1,
      first: true,
    }),
    mixing: percent(
      25,
      {
        title: 'Layers see each other',
        description: 'How much the records mix: more greys the colours.',
        group: 'Development',
        first: true,
      },
      150,
    ),
    contrast: number(60, 150, 120, {
      title: 'Contrast',
      description: 'Slope of all layers.',
      group: 'Development',
      unit: '%',
      step: 1,
    }),
    warmBase: number(0, 0.2, 0.035, {
      title: 'Warm base',
      description: 'Yellowish density of the white.',
      group: 'Print',
      step: 0.005,
    }),
    surfaceFlare: number(0, 5, 1.2, {
      title: 'Surface flare',
      description: 'Light mirrored by the card’s surface, in per cent of white.',
      group: 'Print',
      unit: '%',
      step: 0.1,
      first: true,
    }),
    softness: number(0, 4, 0.7, {
      title: 'Softness',
      description: 'Spread of the dyes on their way to the receiving layer, in per mille of the width.',
      group: 'Lens and spread',
      unit: '‰',
      step: 0.05,
    }),
    falloff: percent(
      22,
      { title: 'Falloff', description: 'How much less light the corners get.', group: 'Lens and spread', first: true },
      80,
    ),
    uneven: percent(6, {
      title: 'Uneven spread',
      description: 'Streaks and clouds where the paste lies thicker or thinner.',
      group: 'Lens and spread',
    }),
    seed: number(0, 9999, 7, {
      title: 'Spread, seed',
      description: 'Another number, another spread.',
      group: 'Lens and spread',
      step: 1,
    }),
    card: toggle(false, {
      title: 'Card frame',
      description: 'A square picture on its white card, the lower margin wide.',
      group: 'Print',
    }),
    holdGrey: holdGreyToggle('Development'),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof InstantSettings>

/** Layers of an instant print; they are positives, so the curves are read at -x (from memory, tuned on photographs). */
const LAYERS: readonly [Curve, Curve, Curve] = [
  { gamma: 1.45, start: -0.55, end: 0.5, toe: 0.14, shoulder: 0.3, dmin: 0 },
  { gamma: 1.4, start: -0.52, end: 0.52, toe: 0.14, shoulder: 0.3, dmin: 0 },
  { gamma: 1.15, start: -0.6, end: 0.55, toe: 0.16, shoulder: 0.3, dmin: 0.05 },
]
const MIXING: Matrix3 = [
  [0.82, 0.13, 0.05],
  [0.1, 0.8, 0.1],
  [0.08, 0.24, 0.68],
]
/** Log exposures are carried as densities, moved up so that they are positive. */
const LIFT = 3

/** The records, each mixed with the others to the wished degree; rows keep their sum of 1. */
function recordsOf(mixing: number): Matrix3 {
  const row = (i: 0 | 1 | 2): Triple => {
    const mixed: Triple = [0, 1, 2].map(
      (j) => (i === j ? 1 : 0) + (mixing / 100) * (MIXING[i][j]! - (i === j ? 1 : 0)),
    ) as unknown as Triple
    return [0, 1, 2].map(
      (j) =>
        mixed[0] * NEGATIVE_RECORDS[0][j]! + mixed[1] * NEGATIVE_RECORDS[1][j]! + mixed[2] * NEGATIVE_RECORDS[2][j]!,
    ) as unknown as Triple
  }
  return [row(0), row(1), row(2)]
}

/**
 * Development: cold (below 21 °C) and short leave all dyes thin and the yellow thinnest, warm and long make them dense,
 * yellow and magenta most. Factors a degree from memory.
 */
function dyeFactors(s: Settings): Triple {
  const warm = (s.temperature - 21) / 10
  const long = (s.time - 100) / 100
  const factor = (each: number) => Math.min(1.6, Math.max(0.45, 1 + each * warm + 0.35 * long))
  return [factor(0.04), factor(0.09), factor(0.17)]
}

interface Film {
  readonly records: Matrix3
  readonly expose: PointFunction
  readonly develop: PointFunction
  readonly view: PointFunction
  readonly printerLight: number
  readonly factors: Triple
}

function makeFilm(s: Settings): Film {
  const records = recordsOf(s.mixing)
  const factors = dyeFactors(s)
  const curves = LAYERS.map((c) => curveTable({ ...c, gamma: (c.gamma * s.contrast) / 100 }))
  const scale = neutralScale(PRINT_DYES)
  const clear = ([0, 1, 2] as const).map((k) => amountAt(scale, k, 0))
  const project = makeProjector({
    components: [...PRINT_DYES],
    lamp: 'd65',
    flare: 0.0015 + s.surfaceFlare / 100,
    clear,
    base: STAIN.map((v) => v * s.warmBase * 2),
  })
  const held = new Float64Array(3)
  const exposeAt =
    (light: number): PointFunction =>
    (r, g, b, out) => {
      const e = transform(records, [r, g, b])
      for (let k = 0; k < 3; k++) out[k] = LIFT + light + Math.log10(Math.max(e[k]!, 1e-5) / 0.18)
    }
  const develop: PointFunction = (x, y, z, out) => {
    const [a, b, c] = [curves[0]!(LIFT - x), curves[1]!(LIFT - y), curves[2]!(LIFT - z)]
    out[0] = a * factors[0]
    out[1] = b * factors[1]
    out[2] = c * factors[2]
  }
  const view: PointFunction = (c, m, y, out) => {
    const d = [c, m, y]
    for (const k of [0, 1, 2] as const) held[k] = amountAt(scale, k, Math.max(0, d[k]!))
    project(held, out)
  }
  const whole =
    (light: number): PointFunction =>
    (r, g, b, out) => {
      exposeAt(light)(r, g, b, out)
      develop(out[0]!, out[1]!, out[2]!, out)
      view(out[0]!, out[1]!, out[2]!, out)
    }
  const light = s.holdGrey ? timeToGrey(whole) : 0
  return { records, expose: exposeAt(light), develop, view, printerLight: light, factors }
}

/** Exposure that the corners lose, as log exposure: the square of the distance from the middle. */
const falloffField =
  (share: number): Field =>
  (u, v, aspect, out) => {
    const [x, y] = [2 * u - 1, (2 * v - 1) / aspect]
    const r2 = (x * x + y * y) / (1 + 1 / (aspect * aspect))
    const loss = Math.log10(Math.max(0.05, 1 - (share / 100) * r2))
    out.fill(1, 0, 3)
    out.fill(loss, 3, 6)
  }

/** Paste that lies unevenly: broad clouds and streaks along the rollers' path, multiplying the dyes. */
function spreadField(amount: number, seed: number): Field {
  const random = seededRandom(Math.round(seed))
  const waves = Array.from({ length: 9 }, (_, i) => ({
    fx: (1 + 5 * random()) * (i % 3 === 0 ? 3 : 1),
    fy: 0.3 + 2.2 * random(),
    phase: 6.283 * random(),
    tint: random() - 0.5,
  }))
  return (u, v, _aspect, out) => {
    let common = 0
    let tint = 0
    for (const w of waves) {
      const wave = Math.sin(6.283 * (w.fx * u + w.fy * v) + w.phase)
      common += wave
      tint += wave * w.tint
    }
    const strength = amount / 100
    out[0] = 1 + strength * (0.1 * common + 0.16 * tint)
    out[1] = 1 + strength * 0.1 * common
    out[2] = 1 + strength * (0.1 * common - 0.16 * tint)
    out.fill(0, 3, 6)
  }
}

/** White of the card in display code values; the picture's window is square, its lower margin three times the upper. */
const CARD: Triple = [0.93, 0.92, 0.885]
const cardField: Field = (u, v, aspect, out) => {
  const side = 0.78
  const [x, y] = [Math.abs((u - 0.5) * aspect), v - 0.055]
  const inside = x < side / 2 && y > 0 && y < side
  const onCard = x < side / 2 + 0.055
  out.fill(inside ? 1 : 0, 0, 3)
  for (let k = 0; k < 3; k++) out[3 + k] = inside ? 0 : onCard ? CARD[k]! : 0.05
}

function stages(s: Settings): readonly Stage[] {
  const film = makeFilm(s)
  const field = (f: Field, smooth = true): Stage => ({ at: 'space', space: { kind: 'field', field: f, smooth } })
  const list: Stage[] = [{ at: 'point', takes: SCENE, point: film.expose, records: film.records }]
  if (s.falloff > 0) list.push(field(falloffField(s.falloff)))
  list.push({ at: 'point', takes: DENSITY, point: film.develop })
  if (s.softness > 0) list.push({ at: 'space', space: { kind: 'blur', sigmas: [s.softness, s.softness, s.softness] } })
  if (s.uneven > 0) list.push(field(spreadField(s.uneven, s.seed)))
  list.push({ at: 'point', takes: DENSITY, point: film.view })
  if (s.card) list.push(field(cardField, false))
  return list
}

function views(s: Settings): View[] {
  const film = makeFilm(s)
  const out = new Float64Array(3)
  const layer = (k: number) => (x: number) => {
    film.develop(LIFT + film.printerLight + x, LIFT + film.printerLight + x, LIFT + film.printerLight + x, out)
    return out[k]!
  }
  return [
    {
      view: 'curves',
      title: 'Layers of the instant print',
      xTitle: 'log exposure of the scene, 0 = mid grey',
      yTitle: 'density',
      lines: (['cyan', 'magenta', 'yellow'] as const).map((style, k) => ({
        label: style,
        style,
        points: sampleLine(layer(k), -2, 1.5),
      })),
      handles: [{ label: 'contrast', x: -0.6, y: layer(1)(-0.6), onY: { setting: 'contrast', perUnit: 70 } }],
    },
    {
      view: 'mixes',
      title: 'What the layers see',
      rows: (['red', 'green', 'blue'] as const).map((label, k) => ({ label, mix: film.records[k]! })),
    },
  ]
}

/**
 * Instant film, seen on paper: short scale, weak black under the surface's mirror light, a warm white, layers that see
 * each other's light (colours greyed), dyes that spread on their way, and a development that follows the weather.
 */
export const instant = defineKind({
  id: 'instant',
  label: 'Instant film',
  family: 'Instant',
  stretch: 'process',
  summary: 'A print that develops in the hand: soft, low in black, warm in white, at the mercy of the weather.',
  schema: InstantSettings,
  takes: 'camera',
  stages,
  idle: () => null,
  views,
})
