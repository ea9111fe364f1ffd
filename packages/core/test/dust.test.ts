import { describe, expect, it } from 'vitest'
import { kindById } from '../src/baths'
import { paintShapes } from '../src/cpu/cover'
import type { CoverShape } from '../src/stages/cover'
import type { Stage } from '../src/stages/stage'
import { settingsOf } from './helpers'

/** Per mille of the width, of a frame of 16:9. */
const HEIGHT = 562.5
const shapesOf = (settings: object, frame: number): readonly CoverShape[] => {
  const [stage] = kindById('dust').stages(settingsOf('dust', { ...settings })) as readonly Stage[]
  if (stage?.at !== 'space' || stage.space.kind !== 'moving') throw new Error('dust does not move')
  const [cover] = stage.space.at(frame)
  if (cover?.kind !== 'cover') throw new Error('dust covers nothing')
  return cover.shapes(HEIGHT)
}
const frames = (n: number): number[] => Array.from({ length: n }, (_, i) => i)
const median = (values: readonly number[]): number => [...values].sort((a, b) => a - b)[values.length >> 1]!

/** How much of each pixel shapes cover, on an empty plane. */
function painted(shapes: readonly CoverShape[], width: number, height: number): Float32Array {
  const pixels = new Float32Array(4 * width * height)
  paintShapes(() => shapes, pixels, width, height)
  return pixels.filter((_, i) => i % 4 === 3)
}

describe('scratches', () => {
  const [W, H] = [1000, 562]
  const settings = { specks: 0, scratches: 1, strength: 100, seed: 3 }
  /** Of a frame with one scratch: its middle in per mille at a height, and how much of each row it covers. */
  const seen = frames(60).flatMap((frame) => {
    const scratches = shapesOf(settings, frame)
    if (scratches.length === 0) return []
    const share = painted(scratches, W, H)
    const rows = frames(H).map((y) => share.subarray(y * W, (y + 1) * W))
    const covers = rows.map((row) => row.reduce((sum, v) => sum + v, 0))
    const deepest = covers.indexOf(Math.max(...covers))
    const middle = rows[deepest]!.reduce((sum, v, x) => sum + v * (x + 0.5), 0) / covers[deepest]!
    return [{ frame, covers, deepest, middle: (1000 * middle) / W }]
  })
  it('stray by a tenth to a half of a per mille from frame to frame', () => {
    expect(seen.length).toBeGreaterThan(12)
    const steps = seen
      .slice(1)
      .map((s, i) => Math.abs(shapeAt(s.frame) - shapeAt(seen[i]!.frame)))
      .filter((step) => step < 5)
    expect(median(steps)).toBeGreaterThan(0.1)
    expect(median(steps)).toBeLessThan(0.5)
    // The painted line lies where its way says it does.
    for (const { middle, frame } of seen) expect(Math.abs(middle - shapeAt(frame))).toBeLessThan(2.5)
  })
  function shapeAt(frame: number): number {
    const [scratch] = shapesOf(settings, frame)
    return scratch?.shape === 'scratch' ? scratch.x : NaN
  }
  it('vary by more than a fifth along their length', () => {
    for (const { covers } of seen) {
      const mean = covers.reduce((sum, v) => sum + v, 0) / H
      const deviation = Math.sqrt(covers.reduce((sum, v) => sum + (v - mean) ** 2, 0) / H)
      expect(deviation / mean).toBeGreaterThan(0.2)
    }
  })
})

describe('specks', () => {
  const lying = frames(200).flatMap((frame) => shapesOf({ specks: 20, scratches: 0, light: 40 }, frame))
  const fibres = lying.filter((shape) => shape.shape === 'fibre')
  it('are fibres by 10 to 20 %', () => {
    expect(lying.length).toBeGreaterThan(2000)
    expect(fibres.length / lying.length).toBeGreaterThan(0.1)
    expect(fibres.length / lying.length).toBeLessThan(0.2)
  })
  it('are fibres at least five times as long as broad, by what they cover, and curved', () => {
    // Drawn eight times as large, a pixel a per mille.
    const [W, H, large] = [1000, 560, 8]
    const curved = fibres.slice(0, 15).map((fibre) => {
      const breadth = large * fibre.breadth
      const points = fibre.points.map(([x, y]): [number, number] => [
        large * (x - fibre.points[0]![0]) + 500,
        large * (y - fibre.points[0]![1]) + 280,
      ])
      const area = painted([{ ...fibre, opacity: 1, soft: 0, points, breadth }], W, H).reduce((sum, v) => sum + v, 0)
      expect(area / breadth / breadth).toBeGreaterThan(5)
      const [first, last] = [points[0]!, points.at(-1)!]
      return Math.hypot(last[0] - first[0], last[1] - first[1]) / (area / breadth)
    })
    // The way from end to end is shorter than the fibre is long.
    expect(median(curved)).toBeLessThan(0.95)
  })
  it('have outlines of their own', () => {
    const N = 64
    const outlines = lying
      .filter((shape) => shape.shape === 'speck')
      .slice(0, 12)
      .map((speck) =>
        painted(
          [{ ...speck, x: 500, y: 500, radius: 250, longer: 1, turn: 0, opacity: 1, soft: 0 } as CoverShape],
          N,
          N,
        ),
      )
    outlines.forEach((one, i) =>
      outlines.slice(i + 1).forEach((other) => {
        const apart = one.reduce((sum, v, k) => sum + Math.abs(v - other[k]!), 0)
        expect(apart / one.reduce((sum, v) => sum + v, 0)).toBeGreaterThan(0.03)
      }),
    )
  })
  it('are soft and white on the negative, sharp and black on the print', () => {
    for (const shape of lying) {
      if (shape.shape !== 'speck' && shape.shape !== 'fibre') continue
      expect(shape.soft > 0).toBe(shape.colour[0] > 0.5)
    }
    const light = lying.filter((shape) => shape.colour[0] > 0.5).length / lying.length
    expect(Math.abs(light - 0.4)).toBeLessThan(0.03)
  })
})
