import { newPart, type MaskPart } from '@fogbath/core/masks'
import { describe, expect, it } from 'vitest'
import { deleted, dragged, drawingOf, inserted } from '../src/bench/maskGeometry'

/** Height of a 16:9 picture in per cent of its width. */
const TALL = 56.25
const part = (type: MaskPart['type'], settings: object = {}): MaskPart => newPart(type, settings as never)
const moved = (p: MaskPart, id: string, x: number, y: number): MaskPart =>
  ({ ...p, settings: { ...p.settings, ...dragged(p, id, x, y, TALL) } }) as MaskPart
const handle = (p: MaskPart, id: string) => drawingOf(p, TALL)!.handles.find((h) => h.id === id)!

const shapes = [
  part('ellipse', { x: 30, y: 60, turn: 35 }),
  part('rectangle', { x: 70, y: 20, width: 12, turn: -110 }),
  part('gradient', { x0: 10, y0: 10, x1: 70, y1: 40 }),
  part('outline', { round: false }),
  part('outline'),
]

describe('handles of a mask', () => {
  it('change nothing when they are put where they are', () => {
    for (const p of shapes)
      for (const h of drawingOf(p, TALL)!.handles.filter((x) => x.look !== 'insert')) {
        const after = moved(p, h.id, h.x, h.y)
        for (const [name, v] of Object.entries(p.settings))
          if (typeof v === 'number') expect((after.settings as Record<string, unknown>)[name]).toBeCloseTo(v, 1)
      }
  })
  it('lie where they are put', () => {
    for (const p of shapes)
      for (const h of drawingOf(p, TALL)!.handles.filter((x) => x.look === 'move')) {
        const at = handle(moved(p, h.id, 44, 25), h.id)
        expect(at.x).toBeCloseTo(44, 1)
        expect(at.y).toBeCloseTo(25, 1)
      }
    const corner = handle(moved(part('outline'), 'p2', 80, 50), 'p2')
    expect(corner.x).toBe(80)
    expect(corner.y).toBeCloseTo(50, 2)
    const [from, to] = ['from', 'to'].map((id) => handle(moved(shapes[2]!, id, 33, 12), id))
    expect(from!.x).toBeCloseTo(33, 1)
    expect(to!.y).toBeCloseTo(12, 1)
  })
  it('size a turned shape along its own axes', () => {
    const straight = part('rectangle', { x: 50, y: 50, width: 20, height: 10 })
    expect(moved(straight, 'width', 65, 40).settings).toMatchObject({ width: 30, height: 10 })
    const upright = part('rectangle', { x: 50, y: 50, width: 20, height: 10, turn: 90 })
    // Turned by a right angle its width runs down the picture.
    expect(moved(upright, 'width', 50, TALL / 2 + 18).settings).toMatchObject({ width: 36, height: 10 })
  })
  it('turn clockwise from straight up', () => {
    const p = part('ellipse')
    expect(moved(p, 'turn', 80, TALL / 2).settings).toMatchObject({ turn: 90 })
    expect(moved(p, 'turn', 20, TALL / 2).settings).toMatchObject({ turn: -90 })
  })
  it('hold settings within their ranges', () => {
    expect(moved(part('ellipse'), 'width', 20, 20).settings).toMatchObject({ width: 0.5 })
    expect(moved(part('ellipse'), 'move', 900, -900).settings).toMatchObject({ x: 150, y: -50 })
    for (const p of (moved(part('outline'), 'move', 900, 0).settings as { points: number[][] }).points)
      expect(p[0]).toBeLessThanOrEqual(150)
  })
  it('make and remove points of an outline, three at least', () => {
    const square = part('outline', { round: false })
    if (square.type !== 'outline') throw new Error()
    const more = inserted(square.settings, 0, 50, 10, TALL) as { points: number[][] }
    expect(more.points).toHaveLength(5)
    expect(more.points[1]).toEqual([50, 17.78])
    const three = deleted(square.settings, 3) as { points: number[][] }
    expect(three.points).toHaveLength(3)
    expect(deleted({ ...square.settings, ...three }, 0)).toEqual({})
  })
  it('selections of tone and colour have none', () => {
    expect(drawingOf(part('tone'), TALL)).toBeNull()
    expect(drawingOf(part('colour'), TALL)).toBeNull()
  })
})
