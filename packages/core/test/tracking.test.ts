import { describe, expect, it } from 'vitest'
import { maskWork, newPart, withPart, type MaskPart } from '../src/masks'
import { seededRandom } from '../src/numbers'
import { between, warped } from '../src/numbers/warp'
import {
  ALL_MOTIONS,
  ShapeTrack,
  goneOn,
  rebased,
  seenPart,
  warpAt,
  type Grey,
  type Motion,
  type Track,
  type Tracked,
} from '../src/tracking'

const [W, H] = [960, 540]

/** Finer than the pictures by so much, and wider by so many of their pixels on each side. */
const [FINE, ROUND] = [2, 160]

/** A made-up surface, waves of many lengths and ways, drawn once and finely. */
function surface(seed: number): (x: number, y: number) => number {
  const random = seededRandom(seed)
  const waves = Array.from({ length: 24 }, () => {
    const [way, length] = [2 * Math.PI * random(), 12 + 90 * random()]
    return { u: (Math.cos(way) * 2 * Math.PI) / length, v: (Math.sin(way) * 2 * Math.PI) / length, at: 7 * random() }
  })
  const [w, h] = [FINE * (W + 2 * ROUND), FINE * (H + 2 * ROUND)]
  const drawn = Float32Array.from({ length: w * h }, (_, i) => {
    const [x, y] = [(i % w) / FINE - ROUND, Math.floor(i / w) / FINE - ROUND]
    return 0.45 + waves.reduce((sum, { u, v, at }) => sum + Math.sin(u * x + v * y + at), 0) * 0.025
  })
  return (x, y) => {
    const [p, q] = [FINE * (x + ROUND), FINE * (y + ROUND)]
    const [i, j] = [Math.floor(p), Math.floor(q)]
    const at = (n: number): number => drawn[n]! + (p - i) * (drawn[n + 1]! - drawn[n]!)
    return at(j * w + i) + (q - j) * (at((j + 1) * w + i) - at(j * w + i))
  }
}
const LOOK = surface(4)

/** Where a point of the surface is seen in a frame: it wanders, turns, grows and leans. */
type Seen = (frame: number, x: number, y: number) => readonly [number, number]
const seen: Seen = (frame, x, y) => {
  const [s, turn] = [1 + 0.002 * frame, 0.002 * frame]
  const [u, v] = [x - W / 2, y - H / 2]
  const w = 1 + 3e-6 * frame * u - 2e-6 * frame * v
  const [c, n] = [s * Math.cos(turn), s * Math.sin(turn)]
  return [W / 2 + (c * u - n * v) / w + 40 * Math.sin(frame / 15), H / 2 + (n * u + c * v) / w + 0.4 * frame]
}
/** The point of the surface that is seen at a place, by Newton's method on {@link seen}. */
function surfaceAt(frame: number, x: number, y: number): readonly [number, number] {
  let [p, q] = [x, y]
  for (let i = 0; i < 6; i++) {
    const [u, v] = seen(frame, p, q)
    const [ux, vx] = seen(frame, p + 0.01, q).map((w, k) => (w - [u, v][k]!) / 0.01) as [number, number]
    const [uy, vy] = seen(frame, p, q + 0.01).map((w, k) => (w - [u, v][k]!) / 0.01) as [number, number]
    const d = ux * vy - uy * vx
    ;[p, q] = [p + (vy * (x - u) - uy * (y - v)) / d, q + (ux * (y - v) - vx * (x - u)) / d]
  }
  return [p, q]
}

/** Where the shape comes to, in tens of pixels; the rest is left black. */
const [LEFT, RIGHT, TOP, BOTTOM] = [18, 82, 5, 54]

/** A frame with grain, an exposure that drifts, and something that passes before the surface. */
function frameOf(frame: number, passing: boolean): Grey {
  const random = seededRandom(90 + frame)
  const pixels = new Float32Array(W * H)
  // Places between a grid are straight between its corners: the motion bends by far less than a hundredth of a pixel there.
  for (let y = 10 * TOP; y < 10 * BOTTOM; y += 10)
    for (let x = 10 * LEFT; x < 10 * RIGHT; x += 10) {
      const [a, b, c] = [surfaceAt(frame, x, y), surfaceAt(frame, x + 10, y), surfaceAt(frame, x, y + 10)]
      for (let j = 0; j < 10; j++)
        for (let i = 0; i < 10; i++) {
          const [s, t] = [(i + 0.5) / 10, (j + 0.5) / 10]
          const [p, q] = [0, 1].map((k) => a[k]! + s * (b[k]! - a[k]!) + t * (c[k]! - a[k]!)) as [number, number]
          pixels[(y + j) * W + x + i] = (1 - 0.002 * frame) * LOOK(p, q) + 0.05 * (random() - 0.5)
        }
    }
  if (passing)
    for (let y = 200; y < 330; y++) for (let x = 0; x < 95; x++) pixels[y * W + 300 + 6 * frame + x] = 0.9 - 0.002 * x
  return { pixels, width: W, height: H }
}

const rectangle = newPart('rectangle')
const part = {
  ...rectangle,
  settings: { ...rectangle.settings, x: 50, y: 50, width: 40, height: 25 },
} as typeof rectangle
/** The shape's corners by its own settings: 40 % of the width, and 25 % of the width high. */
const CORNERS = [
  [288, 150],
  [672, 150],
  [672, 390],
  [288, 390],
] as const

function tracked(frames: readonly number[], passing: boolean, motions: readonly Motion[] = ALL_MOTIONS): Tracked[] {
  const track = new ShapeTrack(part, frameOf(0, false), motions)
  return frames.flatMap((frame) => track.next(frame, frameOf(frame, passing)) ?? [])
}
const offOf = ({ frame, corners }: Tracked): number[] =>
  CORNERS.map(([x, y], k) => {
    const [u, v] = seen(frame, x, y)
    return Math.hypot((corners[k]!.x * W) / 100 - u, (corners[k]!.y * H) / 100 - v)
  })
const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length

describe('a shape that is tracked', () => {
  it('stays within half a pixel over a hundred frames with grain, a drifting exposure, and a tenth of it covered', () => {
    const frames = Array.from({ length: 100 }, (_, i) => i + 1)
    const found = tracked(frames, true)
    expect(found.map((t) => t.frame)).toEqual(frames)
    const off = found.flatMap(offOf)
    expect(mean(off)).toBeLessThan(0.5)
    expect(Math.max(...off)).toBeLessThan(1.5)
    for (const { used } of found) expect(used).toBeGreaterThan(0.5)
  })
  it('moves only as it may: a shape that may only move stays as large as it was', () => {
    const [found] = tracked([1, 2, 3, 4, 5], false, ['move']).slice(-1)
    const side = Math.hypot(found!.corners[1]!.x - found!.corners[0]!.x, found!.corners[1]!.y - found!.corners[0]!.y)
    expect(side).toBeCloseTo(40, 6)
  })
  it('is lost, and says so, where the picture becomes another; what came before is kept', () => {
    const track = new ShapeTrack(part, frameOf(0, false), ALL_MOTIONS)
    expect(track.next(1, frameOf(1, false))).not.toBeNull()
    const other = surface(77)
    const grey = {
      width: W,
      height: H,
      pixels: Float32Array.from({ length: W * H }, (_, i) => other(i % W, Math.floor(i / W))),
    }
    expect(track.next(2, grey)).toBeNull()
    expect(track.lost).toBe(true)
    expect(track.next(3, frameOf(3, false))).toBeNull()
  })
  it('is lost where nothing holds it any more, before its frame is turned over', () => {
    // A surface with nothing on it but grain: no place is like another for longer than a frame.
    const bare = (frame: number): Grey => {
      const random = seededRandom(300 + frame)
      return { width: W, height: H, pixels: Float32Array.from({ length: W * H }, () => 0.5 + 0.1 * (random() - 0.5)) }
    }
    const track = new ShapeTrack(part, bare(0), ALL_MOTIONS)
    for (let frame = 1; frame < 20 && !track.lost; frame++) track.next(frame, bare(frame))
    expect(track.lost).toBe(true)
  })
  it('is refused where it is no shape, or too small', () => {
    const grey = frameOf(0, false)
    expect(() => new ShapeTrack(newPart('tone'), grey, ALL_MOTIONS)).toThrow(/'tone' cannot be tracked/)
    const tiny = { ...part, settings: { ...part.settings, width: 1, height: 1 } } as typeof part
    expect(() => new ShapeTrack(tiny, grey, ALL_MOTIONS)).toThrow(/covers \d+ pixels/)
  })
})

describe('a track that is kept', () => {
  const square = (x: number, y = 20): number[] => [x, y, x + 10, y, x + 10, y + 20, x, y + 20]
  const kept = (frame: number, first: number, xs: readonly number[], more: Partial<Track> = {}): Track => ({
    id: 'lantern12',
    frame,
    motions: ['move'],
    first,
    corners: xs.map((x) => square(x)),
    used: xs.map(() => 0.9),
    lost: [],
    smooth: 0,
    ...more,
  })

  it('brings shapes from where they are drawn to where it has gone, and stays at its ends', () => {
    const track = kept(11, 10, [20, 21, 23, 26])
    const shift = (frame: number): number => warped(warpAt(track, frame), 50, 50)[0] - 50
    ;[-1, 0, 2, 5, 5, -1].forEach((by, i) => expect(shift([10, 11, 12, 13, 90, 0][i]!)).toBeCloseTo(by, 9))
  })

  it('is smoothed over time without moving what goes evenly, or its own frame', () => {
    const even = kept(
      5,
      0,
      Array.from({ length: 11 }, (_, i) => 20 + 2 * i),
      { smooth: 2 },
    )
    for (let f = 0; f < 11; f++) expect(warped(warpAt(even, f), 50, 50)[0]).toBeCloseTo(50 + 2 * (f - 5), 6)
    const shaky = kept(
      0,
      0,
      Array.from({ length: 41 }, (_, i) => 20 + (i % 2)),
      { smooth: 3 },
    )
    const steps = [18, 19, 20, 21].map((f) => warped(warpAt(shaky, f), 50, 50)[0])
    expect(Math.max(...steps) - Math.min(...steps)).toBeLessThan(0.1)
    expect(warped(warpAt(shaky, 0), 50, 50)[0]).toBeCloseTo(50, 9)
  })

  it('goes on from any frame, forward or back, and keeps the rest', () => {
    const track = kept(2, 0, [20, 21, 22, 23, 24], { lost: [5] })
    // Taken up again in frame 3, where a shape of any form stands, and moved twice as fast from there.
    const on = kept(3, 3, [70, 72, 74, 76, 78])
    const lefts = (t: Track): number[] => t.corners.map((c) => c[0]!)
    const forward = goneOn(track, on, 'forward')
    expect([forward.frame, forward.first, lefts(forward), forward.lost]).toEqual([
      2,
      0,
      [20, 21, 22, 23, 25, 27, 29, 31],
      [],
    ])
    const back = goneOn(track, kept(3, 1, [66, 68, 70], { lost: [0] }), 'back')
    expect([back.first, lefts(back), back.lost]).toEqual([1, [19, 21, 23, 24], [5, 0]])
    expect(lefts(goneOn(track, on, 'both'))).toEqual([23, 25, 27, 29, 31])
  })

  it('can be begun with a shape as it is seen aslant, and ridden on by one that was drawn later', () => {
    const aslant = between(
      [{ x: 40, y: 40 }, { x: 60, y: 40 }, { x: 60, y: 60 }, { x: 40, y: 60 }],
      [{ x: 50, y: 42 }, { x: 72, y: 45 }, { x: 70, y: 66 }, { x: 49, y: 60 }],
    ) // prettier-ignore
    const ellipse = newPart('ellipse', { x: 50, y: 50, width: 20, height: 12, edge: 0 })
    const area = (part: MaskPart): Float32Array => maskWork(withPart(null, part))(null, 320, 180).slice()
    const [there, seen] = [area({ ...ellipse, warp: aslant }), area(seenPart({ ...ellipse, warp: aslant }, 16 / 9))]
    const off = there.reduce((sum, v, i) => sum + Math.abs(v - seen[i]!), 0)
    expect(off / there.reduce((a, b) => a + b)).toBeLessThan(0.04)
    // Moved, turned by 20 degrees and made half as large again: what is drawn there is found there again.
    const [c, n] = [1.5 * Math.cos(0.35), 1.5 * Math.sin(0.35)]
    const gone = between(
      [[0, 0], [16, 0], [16, 9], [0, 9]].map(([x, y]) => ({ x: (100 * x!) / 16, y: (100 * y!) / 9 })),
      [[0, 0], [16, 0], [16, 9], [0, 9]].map(([x, y]) => ({ x: 12 + (100 * (c * x! - n * y!)) / 16, y: -9 + (100 * (n * x! + c * y!)) / 9 })),
    ) // prettier-ignore
    const drawn = newPart('ellipse', { x: 55, y: 48, width: 18, height: 10, turn: 30, edge: 0 })
    const [wanted, ridden] = [area(drawn), area({ ...rebased(drawn, gone, 16 / 9), warp: gone })]
    // Soft edges go along, so that they are not compared pixel by pixel.
    const apart = ridden.reduce((sum, v, i) => sum + Math.abs(v - wanted[i]!), 0)
    expect(apart / wanted.reduce((a, b) => a + b)).toBeLessThan(0.02)
  })
})
