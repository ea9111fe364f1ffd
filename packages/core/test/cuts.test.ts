import { describe, expect, it } from 'vitest'
import { CUT_DEFAULTS, CutFinder } from '../src/edits'
import { seededRandom } from '../src/numbers'

const [WIDE, HIGH] = [64, 36]
type Picture = Float32Array
/** Four pictures wide, and goes on behind its end as it begins: the camera looks at a part of it. */
type Scene = Float32Array
const ROUND = 4 * WIDE

/** Soft patches of colour over a ground, as rooms and skies are. */
function scene(random: () => number): Scene {
  const ground = [0, 1, 2].map(() => 0.15 + 0.55 * random())
  const patches = Array.from({ length: 30 }, () => ({
    x: ROUND * random(),
    y: HIGH * random(),
    size: WIDE * (0.06 + 0.25 * random()),
    colour: [0, 1, 2].map(() => random() - 0.5),
  }))
  const seen = new Float32Array(3 * ROUND * HIGH)
  for (let i = 0; i < ROUND * HIGH; i++) {
    for (let k = 0; k < 3; k++) seen[3 * i + k] = ground[k]!
    for (const p of patches) {
      const across = Math.abs((i % ROUND) - p.x)
      const far = (Math.min(across, ROUND - across) ** 2 + (Math.floor(i / ROUND) - p.y) ** 2) / p.size ** 2
      const much = far < 9 ? Math.exp(-far) : 0
      for (let k = 0; k < 3; k++) seen[3 * i + k]! += much * p.colour[k]!
    }
  }
  return seen
}

interface Shot {
  readonly scene: Scene
  readonly count: number
  /** Widths of the picture that it moves in a frame. */
  readonly pan: number
  /** Frames from `at` on that are brighter. */
  readonly flash: { at: number; count: number } | null
  /** Frames over which it comes out of the one before; 0 for a cut. */
  readonly dissolve: number
}

function frameOf({ scene, pan, flash }: Shot, n: number, random: () => number): Picture {
  const lit = flash && n >= flash.at && n < flash.at + flash.count ? 0.45 : 0
  const out = new Float32Array(3 * WIDE * HIGH)
  const from = Math.round(pan * n * WIDE)
  for (let y = 0, i = 0; y < HIGH; y++)
    for (let x = 0; x < WIDE; x++) {
      const at = 3 * (y * ROUND + ((((x + from) % ROUND) + ROUND) % ROUND))
      for (let k = 0; k < 3; k++, i++) out[i] = Math.min(1, Math.max(0, scene[at + k]! + lit + 0.03 * (random() - 0.5)))
    }
  return out
}

/** An edit of some shots, with the first frames of those that begin with a cut. */
function edit(
  seed: number,
  of: (random: () => number, i: number) => Partial<Shot>,
): { frames: Picture[]; cuts: number[] } {
  const random = seededRandom(seed)
  const frames: Picture[] = []
  const cuts = [0]
  let before: Shot | null = null
  for (let i = 0; i < 10; i++) {
    const count = 14 + Math.floor(40 * random())
    const shot: Shot = { scene: scene(random), count, pan: 0, flash: null, dissolve: 0, ...of(random, i) }
    const last: Shot | null = before
    if (last && shot.dissolve === 0) cuts.push(frames.length)
    for (let n = 0; n < shot.count; n++) {
      const own = frameOf(shot, n, random)
      const share = n < shot.dissolve ? (n + 1) / (shot.dissolve + 1) : 1
      const old = share < 1 && last ? frameOf(last, last.count + n, random) : own
      frames.push(own.map((v, j) => share * v + (1 - share) * old[j]!))
    }
    before = shot
  }
  return { frames, cuts }
}
function found(frames: readonly Picture[], options = CUT_DEFAULTS): number[] {
  const finder = new CutFinder()
  for (const frame of frames) finder.add(frame, WIDE, HIGH, 1)
  return finder.end(options)
}

const SEEDS = [1, 2]
const KINDS: Readonly<Record<string, (random: () => number, i: number) => Partial<Shot>>> = {
  'hard cuts': () => ({}),
  'slow and fast pans': (random) => ({ pan: (random() < 0.5 ? 0.004 : 0.05) * (random() < 0.5 ? -1 : 1) }),
  flashes: (random) => ({
    count: 40,
    flash: { at: 10 + Math.floor(20 * random()), count: 1 + Math.floor(3 * random()) },
  }),
  dissolves: (random, i) => ({ count: 50, dissolve: i % 2 === 1 ? 8 + Math.floor(24 * random()) : 0 }),
}

describe('cuts', () => {
  it('are found, and nothing else: of all kinds at least 0.97 of them, and 0.95 of what is found', () => {
    let [right, wanted, told] = [0, 0, 0]
    const wrong: string[] = []
    for (const [name, of] of Object.entries(KINDS))
      for (const seed of SEEDS) {
        const { frames, cuts } = edit(seed, of)
        const shots = found(frames)
        const both = shots.filter((n) => cuts.includes(n))
        right += both.length
        wanted += cuts.length
        told += shots.length
        if (both.length < shots.length || both.length < cuts.length)
          wrong.push(
            `${name} ${seed}: ${shots.filter((n) => !cuts.includes(n)).join()} for ${cuts.filter((n) => !shots.includes(n)).join()}`,
          )
      }
    expect(right / wanted, wrong.join('; ')).toBeGreaterThanOrEqual(0.97)
    expect(right / told, wrong.join('; ')).toBeGreaterThanOrEqual(0.95)
    expect(wanted).toBeGreaterThan(50)
  })

  it('between two greys are found from the threshold on; shots are as long as the least', () => {
    const grey = (v: number, count: number): Picture[] =>
      new Array<Picture>(count).fill(new Float32Array(3 * WIDE * HIGH).fill(v))
    // Greys that lie 0.2 apart: so much in their fields, and as much in how they are spread.
    const frames = [...grey(0.3, 20), ...grey(0.5, 9), ...grey(0.8, 20)]
    expect(found(frames)).toEqual([0, 20, 29])
    expect(found(frames, { threshold: 19, least: 6 })).toEqual([0, 20, 29])
    expect(found(frames, { threshold: 22, least: 6 })).toEqual([0, 29])
    expect(found(frames, { threshold: 6, least: 10 })).toEqual([0, 20])
    expect(found(frames, { threshold: 6, least: 21 })).toEqual([0])
    expect(found([])).toEqual([])
    expect(found(grey(0.5, 1))).toEqual([0])
  })

  it('are refused a threshold or a length that is none', () => {
    expect(() => found([], { threshold: 101, least: 6 })).toThrow(/threshold of cuts is 101; it must be from 0 to 100/)
    expect(() => found([], { threshold: 6, least: 0 })).toThrow(/least of cuts is 0/)
  })
})
