import Type, { type Static } from 'typebox'
import { IDENTITY, multiply, transform, type Matrix3, type Triple } from '../../colour/matrix'
import { NEGATIVE_RECORDS, UNWANTED } from '../../film/layers'
import { tableOfLight } from '../../stages/nodes'
import { cacheKey, mix, type PointStage, type Stage } from '../../stages/stage'
import { defaultsOf } from '../defaults'
import { wholeOf } from '../../film/emulsion'
import { makeColourPrint } from '../colour-print/film'
import { ColourPrintSettings } from '../colour-print/settings'
import { choice, holdGreyToggle, number, percent, toggle } from '../fields'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { infraredLight } from './infrared'

const entry = (layer: string, record: string, fallback: number) =>
  number(-2, 2, fallback, {
    title: `${layer} from ${record}`,
    description: `How much ${record} light drives the ${layer} layer of a free stock.`,
    group: 'Free matrix',
    step: 0.01,
  })

const FalseColourSettings = Type.Object(
  {
    stock: choice(['violet', 'infrared', 'free'], ['Violet', 'Infrared', 'Free matrix'], 'violet', {
      title: 'Stock',
      description: 'Which light drives which dye.',
      group: 'Records',
      first: true,
    }),
    amount: percent(100, {
      title: 'Shift',
      description: 'From ordinary records (0 %) to those of the stock.',
      group: 'Records',
      first: true,
    }),
    infrared: number(0, 2, 1, {
      title: 'Infrared',
      description: 'How brightly leaves stand out on infrared stock.',
      group: 'Records',
      step: 0.05,
      first: true,
    }),
    push: number(-2, 3, 0, {
      title: 'Push or pull',
      description: 'Development of the negative.',
      group: 'Development',
      unit: 'stop',
      step: 0.25,
    }),
    bleachPrint: percent(100, {
      title: 'Bleach, print',
      description: 'Silver kept in the print greys and hardens.',
      group: 'Development',
    }),
    redRed: entry('red', 'red', 1),
    redGreen: entry('red', 'green', 0),
    redBlue: entry('red', 'blue', 0),
    greenRed: entry('green', 'red', 0),
    greenGreen: entry('green', 'green', 1),
    greenBlue: entry('green', 'blue', 0),
    blueRed: entry('blue', 'red', 0),
    blueGreen: entry('blue', 'green', 0),
    blueBlue: entry('blue', 'blue', 1),
    holdSum: toggle(true, {
      title: 'Keep greys grey',
      description: 'Rows of the free matrix are scaled to a sum of 1.',
      group: 'Free matrix',
    }),
    holdGrey: holdGreyToggle('Development', { first: true }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof FalseColourSettings>

/** Common practice: yellow goes to pink, blue to green, green to purple; greys and reds stay. */
const VIOLET: Matrix3 = [
  [0.67, 0.33, 0],
  [0.2, 0.1, 0.7],
  [0, 0.8, 0.2],
]

/** Infrared stock shows infrared (of a grey as much as red) as red, red as green, green as blue; what little blue its yellow glass lets by, the layer for red sees. */
const INFRARED: Matrix3 = [
  [1, 0, 0],
  [0.78, 0, 0.22],
  [-0.06, 1.06, 0],
]

function freeOf(s: Settings): Matrix3 {
  const row = (values: Triple): Triple => {
    const sum = values[0] + values[1] + values[2]
    const scale = s.holdSum && Math.abs(sum) > 0.05 ? 1 / sum : 1
    return [values[0] * scale, values[1] * scale, values[2] * scale]
  }
  return [
    row([s.redRed, s.redGreen, s.redBlue]),
    row([s.greenRed, s.greenGreen, s.greenBlue]),
    row([s.blueRed, s.blueGreen, s.blueBlue]),
  ]
}

/** The stock's matrix over the three records, mixed in from ordinary ones. */
function stockMatrix(s: Settings): Matrix3 {
  const full = s.stock === 'violet' ? VIOLET : s.stock === 'infrared' ? INFRARED : freeOf(s)
  const share = s.amount / 100
  const row = (i: 0 | 1 | 2): Triple => {
    const at = (j: 0 | 1 | 2) => (i === j ? 1 - share : 0) + share * full[i][j]
    return [at(0), at(1), at(2)]
  }
  return [row(0), row(1), row(2)]
}

/**
 * Light to what infrared stock takes for red, green and blue, by a table over light as it is held. It comes before the
 * records: a layer sees of its neighbours' light what it sees of it in ordinary stock, so a sky keeps its hue.
 */
function infraredStages(s: Settings): PointStage[] {
  const [share, rows] = [s.amount / 100, stockMatrix(s)]
  return tableOfLight(cacheKey('infrared', share, s.infrared), (r, g, b, out) => {
    const beyond = share * (infraredLight(transform(NEGATIVE_RECORDS, [r, g, b]), s.infrared) - r)
    for (let k = 0; k < 3; k++) out[k] = rows[k]![0] * r + rows[k]![1] * g + rows[k]![2] * b
    out[0] += beyond
  })
}

/** Records that can go below nothing are held softly at this share of the colour's mean. */
const FLOOR = 0.2

/** Scene light to what drives each layer. */
function exposed(s: Settings): readonly PointStage[] {
  if (s.stock === 'infrared')
    return [mix(IDENTITY, [0, 0, 0], UNWANTED), ...infraredStages(s), mix(NEGATIVE_RECORDS, [0, 0, 0], UNWANTED)]
  const records = multiply(stockMatrix(s), NEGATIVE_RECORDS)
  const canGoBelow = records.some((row) => row.some((v) => v < 0))
  return [mix(records, [0, 0, 0], canGoBelow ? FLOOR : UNWANTED)]
}

function stages(s: Settings): readonly Stage[] {
  const settings = {
    ...(defaultsOf(ColourPrintSettings) as ColourPrintSettings),
    push: s.push,
    bleachPrint: s.bleachPrint,
    holdGrey: s.holdGrey,
  }
  return wholeOf(makeColourPrint(settings, { exposed: exposed(s) }).parts)
}

/** False-colour stock: the ordinary chain with its records driven by other light. Greys stay, because rows sum to 1. */
export const falseColour = defineKind({
  id: 'false-colour',
  label: 'False-colour stock',
  short: 'False colour',
  family: { name: 'False colour', emblem: [stroke('M8 14c-5-3-5-9 0-12 5 3 5 9 0 12zM8 14V5')] },
  notes: {
    recipe: 'violet-stock',
    about: 'Stock whose records drive the wrong dyes.',
    model:
      'A matrix over the three records before the ordinary chain; the violet one is common practice. Infrared is estimated, because footage holds none: leaves, told by how far green stands above red and blue, send several times their red, a clear sky less than its red, all else and all that is near white as much as red; each then stands for the next colour of ordinary stock. Negative shares are held softly above nothing.',
  },
  stretch: 'process',
  summary: 'Records that drive the wrong dyes: violet meadows, red leaves, or a matrix of your own.',
  schema: FalseColourSettings,
  takes: 'camera',
  stages,
  idle: () => null,
  views: (s) => [
    {
      view: 'mixes',
      title: 'Which record drives which layer',
      rows: (['red layer', 'green layer', 'blue layer'] as const).map((label, i) => ({
        label,
        mix: stockMatrix(s)[i]!,
      })),
    },
  ],
})
