import Type, { type Static } from 'typebox'
import { towards } from '../../colour/chroma'
import { keyOf } from '../../stages/stage'
import { hueAngle, number, percent, toggle } from '../fields'
import { ring, stroke } from '../emblem'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { GREY_CODE, cleanEnds, rise, shade } from './codes'
import { COLOUR } from './families'

const side = (title: string, fallback: number) => ({
  hue: hueAngle(fallback, { title: `${title}, hue`, description: 'Towards which colour.', group: title, first: true }),
  amount: percent(40, { title: `${title}, amount`, description: 'How far towards it.', group: title, first: true }),
})
const [lights, darks] = [side('Lights', 42), side('Darks', 222)]

const SplitSettings = Type.Object(
  {
    ...{ lightsHue: lights.hue, lightsAmount: lights.amount, darksHue: darks.hue, darksAmount: darks.amount },
    balance: number(-100, 100, 0, {
      title: 'Balance',
      description: 'Moves the middle, which has no colour: towards white (above 0) or black.',
      ...{ group: 'Split', unit: '%', step: 1, first: true },
    }),
    mids: percent(20, {
      title: 'Untouched mids',
      description: 'How wide the range about the middle is that takes no colour.',
      group: 'Split',
      first: true,
    }),
    clean: toggle(true, {
      title: 'Clean ends',
      description: 'Black and white stay without colour.',
      group: 'Split',
    }),
    holdLight: toggle(true, {
      title: 'Hold light',
      description: 'Every tone keeps its luma; else a colour lightens what it goes to.',
      group: 'Split',
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof SplitSettings>

/** Chroma of an amount of 100 %. */
const FULL = 0.3

/** How much of either colour a tone takes. */
export function splitShares(s: Settings, luma: number): { lights: number; darks: number } {
  const middle = GREY_CODE + (s.balance / 100) * 0.4
  const half = (0.35 * s.mids) / 100
  const ends = s.clean ? cleanEnds(luma) : 1
  return {
    lights: ends * rise(luma, middle + half, middle + half + 0.3),
    darks: ends * (1 - rise(luma, middle - half - 0.3, middle - half)),
  }
}

function shadeOf(s: Settings): (luma: number, out: Float64Array) => void {
  const colourOf = (turn: number, amount: number) => {
    const added = towards(turn / 360, (FULL * amount) / 100)
    const least = s.holdLight ? 0 : Math.min(...added)
    return added.map((v) => v - least)
  }
  const [light, dark] = [colourOf(s.lightsHue, s.lightsAmount), colourOf(s.darksHue, s.darksAmount)]
  return (luma, out) => {
    const shares = splitShares(s, luma)
    for (let k = 0; k < 3; k++) {
      out[k] = 1
      out[k + 3] = shares.lights * light[k]! + shares.darks * dark[k]!
    }
  }
}

const views = (s: Settings): View[] => [
  {
    view: 'curves',
    title: 'How much colour each tone takes',
    xTitle: 'code value',
    yTitle: 'share',
    lines: [
      { label: 'darks', style: 'plain', points: sampleLine((x) => splitShares(s, x).darks, 0, 1) },
      { label: 'lights', style: 'accent', points: sampleLine((x) => splitShares(s, x).lights, 0, 1) },
    ],
  },
]

/** One colour into the lights, another into the darks. */
export const splitByHand = defineKind({
  id: 'split-by-hand',
  label: 'Split tone by hand',
  short: 'Split by hand',
  family: { name: COLOUR, emblem: [ring(8, 8, 5.6), stroke('M4 12 12 4')] },
  stretch: 'finish',
  summary: 'One colour for the lights, one for the darks, a middle without any; ends clean, light held.',
  notes: {
    recipe: 'two-tone-by-hand',
    about: 'Two colours by tone, laid on by hand.',
    model:
      'Code values of luma 0 in the direction of each hue, chroma 0.3 at 100 %, times smoothsteps by luma away from the middle (18 % grey, moved by the balance); clean ends fade them out below 18 and above 80 % of code values.',
  },
  schema: SplitSettings,
  takes: 'line',
  stages: (s) => [shade(keyOf('split by hand', s), shadeOf(s))],
  idle: (s) => (s.lightsAmount === 0 && s.darksAmount === 0 ? 'neither side has a colour' : null),
  views,
})
