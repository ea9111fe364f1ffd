import { type Three } from '../../colour/matrix'
import Type, { type Static } from 'typebox'
import { monotoneCircle, monotoneCubic } from '../../numbers/spline'
import { cacheKey, type PointStage } from '../../stages/stage'
import { number, points, type Points } from '../fields'
import { ring, stroke } from '../emblem'
import { defineKind } from '../kind'
import { shade } from './codes'
import { COLOUR } from './families'

const SIXTHS: Points = [0, 1, 2, 3, 4, 5].map((i) => [i / 6, 0] as const)
const THIRDS: Points = [0, 1, 2, 3].map((i) => [i / 3, 0] as const)

const curve = (start: Points, title: string, description: string) =>
  points([-1, 1], start, { title, description, group: 'Hues' })

const HuesSettings = Type.Object(
  {
    turns: curve(SIXTHS, 'Hue by hue', 'Turns hues, up to 60 degrees either way.'),
    chromas: curve(SIXTHS, 'Saturation by hue', 'From drained to twice as colourful.'),
    lights: curve(SIXTHS, 'Light by hue', 'Darker or lighter, as soon as there is some colour.'),
    densities: curve(SIXTHS, 'Density by hue', 'Darker the more colourful it gets, as dyes are.'),
    byLight: curve(THIRDS, 'Saturation by light', 'From drained to twice as colourful, from black to white.'),
    byChroma: curve(THIRDS, 'Saturation by saturation', 'From drained to twice as colourful, from pale to strong.'),
    skin: number(-100, 100, 0, {
      title: 'Skin warmth',
      description: 'Hues near skin, fuller and drawn to the line on which skin lies, or paler along it.',
      group: 'Skin',
      unit: '%',
      step: 1,
      first: true,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof HuesSettings>

export const HUE_CURVES = ['turns', 'chromas', 'lights', 'densities', 'byLight', 'byChroma'] as const
export type HueCurve = (typeof HUE_CURVES)[number]
/** These run over light and over chroma, the others around the circle of hues. */
const isCircle = (name: HueCurve): boolean => name !== 'byLight' && name !== 'byChroma'

export const hueCurveOf = (s: Settings, name: HueCurve): ((x: number) => number) =>
  isCircle(name) ? monotoneCircle(s[name]) : monotoneCubic(s[name])

const isFlat = (list: Points): boolean => list.every(([, y]) => y === 0)

/** Hue on which skin lies whatever its depth, in the plane of colour/chroma.ts (own, from the skins of the charts). */
const SKIN = 20 / 360
const SKIN_REACH = 35 / 360

/** How much a hue is skin, and how far it is from its line. */
function skinAt(turn: number): { share: number; off: number } {
  const off = ((turn - SKIN + 1.5) % 1) - 0.5
  const t = Math.max(0, 1 - (off / SKIN_REACH) ** 2)
  return { share: t * t, off }
}

const TURN = 1 / 6
const LIGHT = 0.6
const DENSITY = 0.7
/** Chroma at which light by hue works in full. */
const SOME = 0.15

function turned(s: Settings): (turn: number, out: Three) => void {
  const [turn, chroma, density] = [hueCurveOf(s, 'turns'), hueCurveOf(s, 'chromas'), hueCurveOf(s, 'densities')]
  const warmth = s.skin / 100
  return (at, out) => {
    const { share, off } = skinAt(at)
    out[0] = TURN * turn(at) - 0.6 * Math.abs(warmth) * share * off
    out[1] = (1 + chroma(at)) * (1 + 0.5 * warmth * share)
    out[2] = -DENSITY * density(at)
  }
}

function stages(s: Settings): PointStage[] {
  const { turns, chromas, lights, densities, byLight, byChroma, skin } = s
  const found: PointStage[] = []
  if (![turns, chromas, densities, byChroma].every(isFlat) || skin !== 0) {
    const gain = hueCurveOf(s, 'byChroma')
    const tone = {
      key: cacheKey('by chroma', byChroma),
      axis: { nodes: 'even', from: 0, to: 1.5, steps: 1024 } as const,
      f: (c: number) => 1 + gain(c),
    }
    const key = cacheKey('hues', turns, chromas, densities, skin)
    found.push({ at: 'hues', hues: { key, f: turned(s), gain: isFlat(byChroma) ? null : tone, full: 1 } })
  }
  if (!isFlat(lights)) {
    const light = hueCurveOf(s, 'lights')
    const f = (at: number, out: Three): void => void out.set([0, 1, LIGHT * light(at)])
    found.push({ at: 'hues', hues: { key: cacheKey('light by hue', lights), f, gain: null, full: SOME } })
  }
  if (!isFlat(byLight)) {
    const gain = hueCurveOf(s, 'byLight')
    found.push(
      shade(cacheKey('chroma by light', byLight), (luma, out) => {
        const times = 1 + gain(luma)
        out.fill(times, 0, 3).fill((1 - times) * luma, 3)
      }),
    )
  }
  return found
}

function fault(s: Settings) {
  for (const setting of HUE_CURVES) {
    const list = s[setting]
    const at = list.findIndex(([x], i) => i > 0 && x <= list[i - 1]![0])
    if (at > 0)
      return {
        setting,
        rule: `point ${at + 1} of '${setting}' stands at ${list[at]![0]}, which is not to the right of the point before it at ${list[at - 1]![0]}; points of a curve go from left to right.`,
      }
    if (isCircle(setting) && list.length > 1 && list.at(-1)![0] - list[0]![0] >= 1)
      return {
        setting,
        rule: `the first and the last point of '${setting}' are the same hue (0 and 1); leave one of them out.`,
      }
  }
  return null
}

/** What becomes of a colour by its hue. */
export const hueResponse = defineKind({
  id: 'hue-response',
  label: 'Hue response',
  short: 'Hue response',
  family: { name: COLOUR, emblem: [ring(8, 8, 5.6), stroke('M2.4 8c2-3 3.6 3 5.6 0s3.6 3 5.6 0')] },
  stretch: 'finish',
  summary: 'Hues turned, drained, lightened or made denser, each by itself; saturation by light and by itself; skin.',
  notes: {
    recipe: 'red-poster',
    about: 'Curves over the circle of hues.',
    model:
      'In luma and the hexagon’s plane: hue turned by up to 60°; chroma times 1 + y; light: all channels times 1 + 0.6·y, rising up to a chroma of 0.15; density: times 1 - 0.7·y·chroma. Curves are monotone cubics (Fritsch and Carlson 1980), around the circle joined. Skin: within 35° of 20°, drawn to that line by 0.6 of the way and chroma times 1 + 0.5·w at 100 %.',
  },
  schema: HuesSettings,
  takes: 'line',
  sample: {
    chromas: [
      [0, 0.4],
      [0.15, -0.3],
      [0.4, -0.8],
      [0.62, 0.4],
      [0.85, 0],
    ],
    turns: [
      [0, 0],
      [0.3, 0.3],
      [0.6, -0.4],
    ],
  },
  fault,
  stages,
  idle: (s) => (stages(s).length === 0 ? 'all its curves are level' : null),
  views: () => [],
})
