import Type, { type Static } from 'typebox'
import type { Triple } from '../../colour/matrix'
import { hash32, seededRandom } from '../../numbers/random'
import type { CoverShape, Wave } from '../../stages/cover'
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

type Random = () => number
const wave = (random: Random, amount: number): Wave => [amount * random(), 2 * Math.PI * random()]

/** Dirt on the negative prints white, and as softly as the print sees it; that on the print is black and sharp. */
const paintOf = (s: Settings, random: Random) =>
  random() < s.light / 100 ? { colour: LIGHT, soft: 0.5 } : { colour: DARK, soft: 0 }

/** @param height in per mille of the width */
function specksAt(s: Settings, frame: number, height: number): CoverShape[] {
  const random = seededRandom(hash32(hash32(Math.round(s.seed)) + frame))
  // Between none and twice as many, evenly.
  const count = Math.round(2 * s.specks * random())
  return Array.from({ length: count }, () => {
    const place = [1000 * random(), height * random()] as const
    const painted = { ...paintOf(s, random), opacity: (s.strength / 100) * (0.5 + 0.5 * random()) }
    return random() < FIBRES
      ? { ...fibreFrom(place, s.size, random), ...painted }
      : { ...speckAt(place, s.size, random), ...painted }
  })
}

/** Of what lies on a frame, hairs and threads (from memory). */
const FIBRES = 0.15

function speckAt([x, y]: readonly [number, number], size: number, random: Random) {
  return {
    shape: 'speck',
    x,
    y,
    // Many small ones, few large ones.
    radius: size * (0.35 + 2.6 * random() ** 4),
    longer: 1 + 2.5 * random() ** 3,
    turn: Math.PI * random(),
    bends: [0.3, 0.3, 0.18, 0.14, 0.1].map((amount) => wave(random, amount)),
  } as const
}

/** Stretches of a fibre. */
const STRETCHES = 12

/** A thread from a place on: 8 to 40 times as long as broad, curling more and less. */
function fibreFrom([x, y]: readonly [number, number], size: number, random: Random) {
  const breadth = size * (0.25 + 0.35 * random())
  const step = (breadth * (8 + 32 * random() ** 2)) / STRETCHES
  const [bend, waver] = [0.5 * (random() - 0.5), wave(random, 0.4)]
  const points: [number, number][] = [[x, y]]
  let heading = 2 * Math.PI * random()
  for (let i = 0; i < STRETCHES; i++) {
    heading += bend + waver[0] * Math.sin((2 * Math.PI * i) / STRETCHES + waver[1])
    const [lastX, lastY] = points[i]!
    points.push([lastX + step * Math.cos(heading), lastY + step * Math.sin(heading)])
  }
  return { shape: 'fibre', points, breadth } as const
}

/** Frames for which a scratch stays, the shortest. */
const STAYS = 14
/** How far the film lies from its place in the gate as it is scratched, to either side, per mille. */
const UNSTEADY = 0.35

function scratchesAt(s: Settings, frame: number): CoverShape[] {
  return Array.from({ length: Math.round(s.scratches) }, (_, k): CoverShape | null => {
    const own = hash32(hash32(Math.round(s.seed) + 7919) + k)
    const stays = STAYS + (own % 40)
    const random = seededRandom(hash32(own + Math.floor((frame + (own % stays)) / stays)))
    // It is there for about half of the time.
    if (random() < 0.5) return null
    const x = 1000 * random()
    const lasting = { breadth: 0.4 + 0.9 * random() ** 2, strays: 2 * random(), phase: 6.3 * random() }
    const { colour } = paintOf(s, random)
    const opacity = (s.strength / 100) * (0.25 + 0.5 * random())
    // Each frame has another stretch of it.
    const here = seededRandom(hash32(own + 31 * frame))
    return {
      shape: 'scratch',
      ...lasting,
      x: x + UNSTEADY * (2 * here() - 1),
      depth: [0.55, 0.5, 0.4, 0.3].map((amount) => wave(here, amount)),
      colour,
      opacity,
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
    about: 'Uneven specks, hairs and long scratches painted over.',
    model:
      'Places, outlines and shades from a seeded generator for each frame; about a seventh are hairs. White dirt lay on the negative and is as soft as it printed, black dirt lies on the print. A scratch stays for 14 to 53 frames, is there for half of the time, strays by a third of a per mille from frame to frame and changes its depth along the film (own design).',
  },
  schema: DustSettings,
  takes: 'line',
  stages,
  idle: (s: Settings) => (isClean(s) ? 'there are no specks and no scratches' : null),
  views: () => [],
})
