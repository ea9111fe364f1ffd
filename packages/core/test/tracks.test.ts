import { describe, expect, it } from 'vitest'
import { maskWork, newPart, withPart, type MaskPart } from '../src/masks'
import { between, warped } from '../src/numbers/warp'
import { goneOn, rebased, seenPart, warpAt, type Track } from '../src/tracking'

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
    // Taken up where it is seen again after it was lost: in between it stays, and nothing could be used.
    const later = goneOn(track, kept(7, 7, [70, 72]), 'forward')
    expect([lefts(later), later.used.slice(5)]).toEqual([
      [20, 21, 22, 23, 24, 24, 24, 24, 26],
      [0, 0, 0.9, 0.9],
    ])
  })

  it('can be begun with a shape as it is seen aslant, and ridden on by one that was drawn later', () => {
    const aslant = between(
      [{ x: 40, y: 40 }, { x: 60, y: 40 }, { x: 60, y: 60 }, { x: 40, y: 60 }],
      [{ x: 50, y: 42 }, { x: 72, y: 45 }, { x: 70, y: 66 }, { x: 49, y: 60 }],
    ) // oxfmt-ignore
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
    ) // oxfmt-ignore
    const drawn = newPart('ellipse', { x: 55, y: 48, width: 18, height: 10, turn: 30, edge: 0 })
    const [wanted, ridden] = [area(drawn), area({ ...rebased(drawn, gone, 16 / 9), warp: gone })]
    // Soft edges go along, so that they are not compared pixel by pixel.
    const apart = ridden.reduce((sum, v, i) => sum + Math.abs(v - wanted[i]!), 0)
    expect(apart / wanted.reduce((a, b) => a + b)).toBeLessThan(0.02)
  })
})
