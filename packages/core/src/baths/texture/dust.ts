import Type, { type Static } from 'typebox'
import type { Triple } from '../../colour/matrix'
import { hash32, seededRandom } from '../../numbers/random'
import type { CoverShape } from '../../stages/cover'
import type { Stage } from '../../stages/stage'
import { disc, stroke } from '../emblem'
import { number, percent } from '../fields'
import { defineKind } from '../kind'
import { TEXTURE } from './family'

const group = 'Dust'
const DustSettings = Type.Object(
  {
    specks: number(0, 60, 6, {
      title: 'Specks',
      description: 'How many lie on a frame in the mean; each frame has its own.',
      group,
      step: 1,
      first: true,
    }),
    size: number(0.2, 8, 1, {
      title: 'Size',
      description: 'Radius of a common speck, in per mille of the width; a few are three times as large.',
      group,
      unit: '‰',
      step: 0.1,
      first: true,
    }),
    light: percent(20, {
      title: 'Light ones',
      description: 'Share that is white, as dust on a negative prints; the others are dark, as dust on a print.',
      group,
      first: true,
    }),
    scratches: number(0, 12, 1, {
      title: 'Scratches',
      description: 'How many run along the film at once at most; they come and go.',
      group,
      step: 1,
      first: true,
    }),
    strength: percent(70, {
      title: 'Strength',
      description: 'How much of the picture they hide.',
      group,
      first: true,
    }),
    seed: number(0, 9999, 1, { title: 'Seed', description: 'Another number, other dust.', group, step: 1 }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof DustSettings>

const DARK: Triple = [0.02, 0.02, 0.02]
const LIGHT: Triple = [0.96, 0.96, 0.94]

/** @param height in per mille of the width */
function specksAt(s: Settings, frame: number, height: number): CoverShape[] {
  const random = seededRandom(hash32(hash32(Math.round(s.seed)) + frame))
  // Between none and twice as many, evenly.
  const count = Math.round(2 * s.specks * random())
  return Array.from({ length: count }, () => {
    const [x, y] = [1000 * random(), height * random()]
    // Many small ones, few large ones.
    const radius = s.size * (0.35 + 2.6 * random() ** 4)
    const light = random() < s.light / 100
    return {
      shape: 'speck',
      x,
      y,
      radius,
      longer: 1 + 2.5 * random() ** 3,
      turn: Math.PI * random(),
      colour: light ? LIGHT : DARK,
      opacity: (s.strength / 100) * (0.5 + 0.5 * random()),
    }
  })
}

/** Frames for which a scratch stays, the shortest. */
const STAYS = 14

function scratchesAt(s: Settings, frame: number): CoverShape[] {
  return Array.from({ length: Math.round(s.scratches) }, (_, k): CoverShape | null => {
    const own = hash32(hash32(Math.round(s.seed) + 7919) + k)
    const stays = STAYS + (own % 40)
    const random = seededRandom(hash32(own + Math.floor((frame + (own % stays)) / stays)))
    // It is there for about half of the time.
    if (random() < 0.5) return null
    const x = 1000 * random()
    return {
      shape: 'scratch',
      x,
      breadth: 0.4 + 0.9 * random() ** 2,
      strays: 2 * random(),
      phase: 6.3 * random(),
      colour: random() < s.light / 100 ? LIGHT : DARK,
      opacity: (s.strength / 100) * (0.25 + 0.5 * random()),
    }
  }).filter((shape) => shape !== null)
}

const stages = (s: Settings): Stage[] =>
  isClean(s)
    ? []
    : [
        {
          at: 'space',
          space: {
            kind: 'moving',
            at: (frame) => [
              { kind: 'cover', shapes: (height) => [...scratchesAt(s, frame), ...specksAt(s, frame, height)] },
            ],
          },
        },
      ]

const isClean = (s: Settings): boolean => s.strength === 0 || (s.specks === 0 && s.scratches === 0)

/** What lies on a film that was shown often. */
export const dust = defineKind({
  id: 'dust',
  label: 'Dust and scratches',
  short: 'Dust, scratches',
  family: {
    name: TEXTURE,
    emblem: [disc(4.5, 5, 0.9), disc(10.4, 10.4, 1.2), disc(5.2, 12, 0.6), stroke('M12.2 2v12', 0.9)],
  },
  stretch: 'finish',
  summary: 'Specks and scratches of a film that was shown often, others in every frame.',
  notes: {
    recipe: 'silent-era',
    about: 'Uneven specks and long scratches painted over.',
    model:
      'Places, sizes and shades from a seeded generator for each frame; a scratch stays for 14 to 53 frames, and is there for half of the time (own design).',
  },
  schema: DustSettings,
  takes: 'line',
  stages,
  idle: (s: Settings) => (isClean(s) ? 'there are no specks and no scratches' : null),
  views: () => [],
})
