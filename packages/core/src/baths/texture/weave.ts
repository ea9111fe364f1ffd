import Type, { type Static } from 'typebox'
import { noiseOfFrame, slowNoise } from '../../numbers/frame-noise'
import type { SpaceStep } from '../../stages/space'
import type { Stage } from '../../stages/stage'
import { stroke } from '../emblem'
import { number, percent } from '../fields'
import { defineKind } from '../kind'
import { sampleLine, type View } from '../views'
import { TEXTURE } from './family'

const group = 'Movement'
const reach = (title: string, fallback: number, direction: string) =>
  number(0, 10, fallback, {
    title,
    description: `How far the picture strays ${direction}, in per mille of its width.`,
    group,
    unit: '‰',
    step: 0.1,
    first: true,
  })

const WeaveSettings = Type.Object(
  {
    across: reach('Weave, across', 0.8, 'to either side'),
    down: reach('Weave, up and down', 0.5, 'up and down'),
    turn: number(0, 1, 0, {
      title: 'Weave, turning',
      description: 'How far it turns to either side.',
      group,
      unit: '°',
      step: 0.02,
    }),
    flicker: percent(
      4,
      {
        title: 'Flicker',
        description: 'How far a frame’s exposure strays to either side.',
        group,
        step: 0.5,
        first: true,
      },
      40,
    ),
    slow: percent(60, {
      title: 'Slowness',
      description: '0: each frame strays for itself, as in a worn gate. 100: it drifts over half a second.',
      group,
      first: true,
    }),
    seed: number(0, 9999, 1, {
      title: 'Seed',
      description: 'Another number, another movement.',
      group,
      step: 1,
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof WeaveSettings>

/** Frames over which slow movement passes from one place to the next; movements begin that many apart, so that none stops with another. */
const [DRIFT, APART] = [12, 5]
/** Share of a movement that the sprocket makes, frames to a turn of it (16 teeth, four a frame), and frames over which its phase strays. */
const [SPROCKET, TURN, PHASE] = [0.2, 4, 48]

/** A stray of -1..1 at a frame. @param of which of the movements */
function strayAt(s: Settings, of: number, frame: number): number {
  const slow = s.slow / 100
  return slow * slowNoise(s.seed, of, frame + APART * of, DRIFT) + (1 - slow) * noiseOfFrame(s.seed, of + 100, frame)
}

/** The same of film that a sprocket pulls. */
function pulledAt(s: Settings, of: number, frame: number): number {
  const turn = frame / TURN + slowNoise(s.seed, of + 200, frame, PHASE) / 4
  return (1 - SPROCKET) * strayAt(s, of, frame) + SPROCKET * Math.cos(2 * Math.PI * turn)
}

/** The movement of a frame. */
function at(s: Settings, frame: number): SpaceStep[] {
  const moved = {
    x: s.across * pulledAt(s, 1, frame),
    y: s.down * pulledAt(s, 2, frame),
    rotation: s.turn * pulledAt(s, 3, frame),
  }
  const factor = Math.max(0.05, 1 + (s.flicker / 100) * strayAt(s, 4, frame)) ** (1 / 2.4)
  const still = s.across === 0 && s.down === 0 && s.turn === 0
  return [
    ...(still ? [] : [{ kind: 'shift', records: [moved, moved, moved] } as const]),
    ...(s.flicker === 0 ? [] : [{ kind: 'spread', spread: times(factor) } as const]),
  ]
}

/** Every code value times a factor. */
const times = (factor: number) => ({
  copies: [
    { sigma: 0, share: 1 },
    { sigma: 0, share: 0 },
  ] as const,
  keep: [factor, factor, factor] as const,
  amounts: [0, 0, 0] as const,
})

const stages = (s: Settings): Stage[] =>
  isStill(s) ? [] : [{ at: 'space', space: { kind: 'moving', at: (frame) => at(s, frame) } }]

const isStill = (s: Settings): boolean => s.across === 0 && s.down === 0 && s.turn === 0 && s.flicker === 0

const views = (s: Settings): View[] => [
  {
    view: 'curves',
    title: 'The first four seconds',
    xTitle: 'frame',
    yTitle: 'stray, per mille; flicker, per cent',
    lines: [
      {
        label: 'across',
        style: 'plain',
        points: sampleLine((f) => s.across * pulledAt(s, 1, Math.round(f)), 0, 96, 97),
      },
      { label: 'down', style: 'dashed', points: sampleLine((f) => s.down * pulledAt(s, 2, Math.round(f)), 0, 96, 97) },
      {
        label: 'flicker',
        style: 'accent',
        points: sampleLine((f) => s.flicker * strayAt(s, 4, Math.round(f)), 0, 96, 97),
      },
    ],
  },
]

/** A picture that does not stand still. */
export const weave = defineKind({
  id: 'weave',
  label: 'Weave and flicker',
  short: 'Weave, flicker',
  family: { name: TEXTURE, emblem: [stroke('M4 3.5h8v9H4z'), stroke('M2 5.5v5M14 5.5v5')] },
  stretch: 'finish',
  summary: 'The film strays in the gate and its exposure in the camera, frame by frame.',
  notes: {
    recipe: 'silent-era',
    about: 'A displacement, a turn and a factor for each frame.',
    model:
      'Numbers -1..1 from a hash of seed and frame, evenly spread with a mean of 0, partly smoothed over twelve frames, each movement at its own time; a fifth of the movement is a turn in four frames, as a sprocket of sixteen teeth makes it, whose phase strays (own design); moved by cubic interpolation (R. Keys 1981), the edge’s colour goes on outside; exposure by a factor on code values to the power of 1 / 2.4.',
  },
  schema: WeaveSettings,
  takes: 'line',
  stages,
  idle: (s: Settings) => (isStill(s) ? 'nothing moves at these settings' : null),
  views,
})
