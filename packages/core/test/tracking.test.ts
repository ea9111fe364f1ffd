import { describe, expect, it } from 'vitest'
import { newPart } from '../src/masks'
import { seededRandom } from '../src/numbers'
import { ALL_MOTIONS, ShapeTrack, type Grey, type Motion, type Tracked } from '../src/tracking'
import { H, W, frameOf, mean, offOf, part, surface } from './moving'

function tracked(frames: readonly number[], passing: boolean, motions: readonly Motion[] = ALL_MOTIONS): Tracked[] {
  const track = new ShapeTrack(part, frameOf(0, false), motions)
  return frames.flatMap((frame) => track.next(frame, frameOf(frame, passing)) ?? [])
}
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
