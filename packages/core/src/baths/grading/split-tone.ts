import Type, { type Static } from 'typebox'
import { towards } from '../../colour/chroma'
import { cacheKey } from '../../stages/stage'
import { hueAngle, number, percent, toggle } from '../fields'
import { ring, stroke } from '../emblem'
import { defineKind } from '../kind'
import type { Shade } from '../../stages/stage'
import type { View } from '../views'
import { GREY_CODE, cleanEnds, rise, shade } from './codes'
import { COLOUR } from './families'
import { hill, wedgeView } from './wedge'

const side = (title: string, fallback: number) => ({
  hue: hueAngle(fallback, { title: `${title}, hue`, description: 'Towards which colour.', group: title, first: true }),
  amount: percent(40, { title: `${title}, amount`, description: 'How far towards it.', group: title, first: true }),
})
const [darks, lights] = [side('Shadows', 222), side('Lights', 42)]

const SplitSettings = Type.Object(
  {
    darksHue: darks.hue,
    darksAmount: darks.amount,
    lightsHue: lights.hue,
    lightsAmount: lights.amount,
    lean: number(-100, 100, 0, {
      title: 'Balance',
      description: 'Which side takes more of the tones: the lights (above 0) or the shadows.',
      group: 'Split',
      unit: '%',
      step: 1,
      first: true,
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

/** How far a balance of 100 % moves the middle, and how far the untouched mids of 100 % reach to either side of it. */
const [LEAN, WIDEST] = [0.4, 0.35]
const valleyOf = (s: Settings): { middle: number; half: number } => ({
  middle: GREY_CODE - (s.lean / 100) * LEAN,
  half: (WIDEST * s.mids) / 100,
})

/** How much of either colour a tone takes. */
function splitShares(s: Settings, luma: number): { lights: number; darks: number } {
  const { middle, half } = valleyOf(s)
  const ends = s.clean ? cleanEnds(luma) : 1
  return {
    lights: ends * rise(luma, middle + half, middle + half + 0.3),
    darks: ends * (1 - rise(luma, middle - half - 0.3, middle - half)),
  }
}

function shadeOf(s: Settings): Shade['f'] {
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

function views(s: Settings): View[] {
  const { middle, half } = valleyOf(s)
  return [
    wedgeView(shadeOf(s), FULL, {
      hills: [
        hill({ label: 'Shadows', hue: 'darksHue', amount: 'darksAmount' }, (x) => splitShares(s, x).darks),
        hill({ label: 'Lights', hue: 'lightsHue', amount: 'lightsAmount' }, (x) => splitShares(s, x).lights),
      ],
      limits: [
        {
          label: 'Untouched mids',
          widthLabel: 'width',
          at: middle,
          wide: 2 * half,
          bare: true,
          place: { setting: 'lean', perUnit: -100 / LEAN },
          width: { setting: 'mids', perUnit: 50 / WIDEST },
        },
      ],
    }),
  ]
}

/** One colour into the shadows, another into the lights. */
export const splitByHand = defineKind({
  id: 'split-by-hand',
  label: 'Split tone by hand',
  short: 'Split by hand',
  family: { name: COLOUR, emblem: [ring(8, 8, 5.6), stroke('M4 12 12 4')] },
  stretch: 'finish',
  summary: 'One colour for the shadows, one for the lights, a middle without any; ends clean, light held.',
  notes: {
    recipe: 'two-tone-by-hand',
    about: 'Two colours by tone, laid on by hand.',
    model:
      'Code values of luma 0 in the direction of each hue, chroma 0.3 at 100 %, times smoothsteps by luma away from the middle (18 % grey, moved away from the side that the balance leans to); clean ends fade them out below 18 and above 80 % of code values.',
  },
  schema: SplitSettings,
  takes: 'line',
  // Until the balance leaned the way it says, it was kept as the middle's own move.
  earlier: ({ balance, ...rest }) => (typeof balance === 'number' ? { ...rest, lean: -balance } : rest),
  stages: (s) => [shade(cacheKey('split by hand', s), shadeOf(s))],
  idle: (s) => (s.lightsAmount === 0 && s.darksAmount === 0 ? 'neither side has a colour' : null),
  views,
})
