import { describe, expect, it } from 'vitest'
import { showMask } from '../src/workers/mask-view'

/** Two rows of three pixels of one colour; the mask lets through the right column, and half of the middle one. */
const colour = [0.8, 0.4, 0.2]
const from = Float32Array.from({ length: 24 }, (_, i) => (i % 4 === 3 ? 1 : colour[i % 4]!))
const plane = Float32Array.of(0, 0.4, 1, 0, 0.4, 1)
/** BT.709 luma by hand. */
const luma = 0.2126 * 0.8 + 0.7152 * 0.4 + 0.0722 * 0.2
const seen = (view: 'over' | 'within' | 'outline') => {
  const to = new Float32Array(24)
  showMask(view, plane, from, to, 3)
  return [0, 1, 2].map((x) => [...to.subarray(4 * x, 4 * x + 3)])
}

describe('a mask on its picture', () => {
  it('is the picture where it lets through, dim grey elsewhere, and mixed between', () => {
    const [none, part, all] = seen('within')
    none!.forEach((v) => expect(v).toBeCloseTo(0.6 * luma, 3))
    all!.forEach((v, k) => expect(v).toBeCloseTo(colour[k]!, 5))
    part!.forEach((v, k) => expect(v).toBeCloseTo(0.6 * (0.6 * luma) + 0.4 * colour[k]!, 3))
  })
  it('is a colour over grey, stronger where it lets more through', () => {
    const [none, part, all] = seen('over')
    none!.forEach((v) => expect(v).toBeCloseTo(luma, 3))
    const tinted = (p: readonly number[]): number => p[1]! - p[0]!
    expect(tinted(all!)).toBeGreaterThan(2 * tinted(part!))
    expect(tinted(part!)).toBeGreaterThan(0.1)
  })
  it('is an outline where it passes a half, and the picture elsewhere', () => {
    const [none, edge, inside] = seen('outline')
    for (const p of [none!, inside!]) p.forEach((v, k) => expect(v).toBeCloseTo(colour[k]!, 5))
    expect(edge![1]).toBeGreaterThan(0.9)
  })
})
