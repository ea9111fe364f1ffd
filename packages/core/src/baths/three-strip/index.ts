import Type, { type Static } from 'typebox'
import { transform, type Matrix3, type Triple } from '../../colour/matrix'
import { MONO_PRINT, SEPARATION, curveTable, exposureTable } from '../../film/curve'
import { amountAt, neutralScale } from '../../film/neutral'
import { PLAIN_LIGHT } from '../../film/plain-levels'
import { makeProjector } from '../../film/projection'
import { recordOf } from '../../film/records'
import { timeToGrey } from '../../film/timing'
import { DENSITY, SCENE } from '../../kernels/domain'
import type { PointFunction } from '../../kernels/lut3d'
import { IMBIBITION_DYES, SILVER } from '../../spectra/dyes'
import { bells, nmAt, passBand } from '../../spectra/grid'
import { choice, holdGreyToggle, number, percent, projectionFields } from '../fields'
import { defineKind, type Stage } from '../kind'
import { sampleLine, type View } from '../views'

const DYES = ['cyan', 'magenta', 'yellow'] as const
const RECORDS = ['red', 'green', 'blue'] as const

const contrast = (dye: string) =>
  number(60, 150, 100, {
    title: `Contrast, ${dye}`,
    description: `Slope of the ${dye} matrix.`,
    group: 'Matrices',
    unit: '%',
    step: 1,
  })
const amount = (dye: string) =>
  number(50, 150, 100, {
    title: `Amount, ${dye}`,
    description: `How much ${dye} dye the blank takes up.`,
    group: 'Dyes',
    unit: '%',
    step: 1,
    first: true,
  })
const bleed = (dye: string) =>
  number(0, 3, 0.25, {
    title: `Bleed, ${dye}`,
    description: `Softness of the ${dye} image, in per mille of the picture’s width.`,
    group: 'Dyes',
    unit: '‰',
    step: 0.05,
  })
const shift = (record: string, axis: 'across' | 'down') =>
  number(-10, 10, 0, {
    title: `Shift ${axis}, ${record}`,
    description: `The ${record} record’s place, in per mille of the picture’s width.`,
    group: 'Registration',
    unit: '‰',
    step: 0.05,
  })
const turn = (record: string) =>
  number(-1, 1, 0, {
    title: `Turn, ${record}`,
    description: `The ${record} record’s rotation.`,
    group: 'Registration',
    unit: '°',
    step: 0.01,
  })

export const ThreeStripSettings = Type.Object(
  {
    show: choice(
      ['print', 'red', 'green', 'blue'],
      ['The print', 'Red separation', 'Green separation', 'Blue separation'],
      'print',
      {
        title: 'Show',
        description: 'The print, or one separation in black and white.',
        group: 'Matrices',
        first: true,
      },
    ),
    amountCyan: amount('cyan'),
    amountMagenta: amount('magenta'),
    amountYellow: amount('yellow'),
    key: percent(
      12,
      {
        title: 'Key image',
        description: 'A weak silver image of the green record under the dyes: firmer blacks, calmer colour.',
        group: 'Dyes',
        first: true,
      },
      50,
    ),
    contrastCyan: contrast('cyan'),
    contrastMagenta: contrast('magenta'),
    contrastYellow: contrast('yellow'),
    interImage: percent(
      100,
      {
        title: 'Inter-image effect',
        description: 'How strongly the records are purified of each other.',
        group: 'Matrices',
      },
      150,
    ),
    bleedCyan: bleed('cyan'),
    bleedMagenta: bleed('magenta'),
    bleedYellow: bleed('yellow'),
    acrossRed: shift('red', 'across'),
    downRed: shift('red', 'down'),
    turnRed: turn('red'),
    acrossGreen: shift('green', 'across'),
    downGreen: shift('green', 'down'),
    turnGreen: turn('green'),
    acrossBlue: shift('blue', 'across'),
    downBlue: shift('blue', 'down'),
    turnBlue: turn('blue'),
    holdGrey: holdGreyToggle('Matrices'),
    ...projectionFields(),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof ThreeStripSettings>

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

interface Film {
  /** Scene light to the densities of the three dye images. */
  readonly densities: PointFunction
  /** Dye densities to display-linear light. */
  readonly assemble: PointFunction
}

function makeFilm(s: Settings): Film {
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

function stages(s: Settings): readonly Stage[] {
  const film = makeFilm(s)
  const shifts = [
    { x: s.acrossRed, y: s.downRed, rotation: s.turnRed },
    { x: s.acrossGreen, y: s.downGreen, rotation: s.turnGreen },
    { x: s.acrossBlue, y: s.downBlue, rotation: s.turnBlue },
  ] as const
  const sigmas = [s.bleedCyan, s.bleedMagenta, s.bleedYellow] as const
  const space: Stage[] = []
  if (shifts.some((v) => v.x !== 0 || v.y !== 0 || v.rotation !== 0))
    space.push({ at: 'space', space: { kind: 'shift', records: shifts } })
  if (sigmas.some((v) => v > 0)) space.push({ at: 'space', space: { kind: 'blur', sigmas } })
  return [
    { at: 'point', takes: SCENE, point: film.densities, records: THREE_STRIP_RECORDS },
    ...space,
    { at: 'point', takes: DENSITY, point: film.assemble },
  ]
}

function views(s: Settings): View[] {
  const film = makeFilm(s)
  const out = new Float64Array(3)
  const density = (k: number) => (x: number) => {
    const light = 0.18 * 10 ** x
    film.densities(light, light, light, out)
    return out[k]! * [s.amountCyan, s.amountMagenta, s.amountYellow][k]! * 0.01
  }
  return [
    {
      view: 'curves',
      title: 'Matrices: density of each dye image',
      xTitle: 'log exposure of the scene, 0 = mid grey',
      yTitle: 'density',
      lines: DYES.map((style, k) => ({ label: style, style, points: sampleLine(density(k), -3, 2) })),
      handles: (['contrastCyan', 'contrastMagenta', 'contrastYellow'] as const).map((setting, k) => ({
        label: setting,
        x: -0.4 - 0.25 * k,
        y: density(k)(-0.4 - 0.25 * k),
        onY: { setting, perUnit: 60 },
      })),
    },
    {
      view: 'mixes',
      title: 'What the separations see',
      rows: RECORDS.map((label, k) => ({ label, mix: THREE_STRIP_RECORDS[k]! })),
    },
    {
      view: 'curves',
      title: 'Imbibition dyes',
      xTitle: 'wavelength, nm',
      yTitle: 'density per unit',
      lines: DYES.map((style, k) => ({
        label: style,
        style,
        points: Array.from(IMBIBITION_DYES[k]!, (v, i) => [nmAt(i), v] as const),
      })),
    },
  ]
}

/**
 * Three-strip dye transfer. Purer dyes and separated records give more saturated colour than a print that develops its
 * dyes; each dye takes away only its complementary light (cyan red, magenta green, yellow blue), so amounts act on one
 * primary. Where the records do not lie exactly over each other coloured fringes stand at edges.
 */
export const threeStrip = defineKind({
  id: 'three-strip',
  label: 'Three-strip dye transfer',
  family: 'Dye transfer',
  stretch: 'process',
  summary: 'Three separations printed one over the other in pure dyes, with a silver key image.',
  schema: ThreeStripSettings,
  takes: 'camera',
  stages,
  idle: () => null,
  views,
})
