import { describe, expect, it } from 'vitest'
import { bt709ToLab, ciede2000, type Triple } from '../src/colour'
import { compileLine } from '../src/line'
import { SHIPPED_RECIPES } from '../src/recipes'
import { Treatment } from '../src/treat'

const [WIDTH, HEIGHT] = [480, 270]

/** A picture with soft hills of colour, a dark and a light edge, as code values of 16 bits. */
function drawn(width: number, height: number): Uint16Array {
  const codes = new Uint16Array(3 * width * height)
  for (let i = 0; i < width * height; i++) {
    const [u, v] = [((i % width) + 0.5) / width, (Math.floor(i / width) + 0.5) / height]
    const edge = 0.35 * (1 / (1 + Math.exp(-60 * (u - 0.7)))) - 0.2 * (1 / (1 + Math.exp(-60 * (v - 0.75))))
    const hills = [Math.sin(7 * u), Math.sin(5 * v + 2), Math.sin(4 * (u + v) + 4)]
    for (const [k, hill] of hills.entries())
      codes[3 * i + k] = Math.round(65_535 * Math.min(1, Math.max(0, 0.42 + 0.14 * hill + edge)))
  }
  return codes
}

const lightOf = (code: number): number => Math.max(0, code) ** 2.4
/** Lab of a picture worked at a size, each value the mean light of `by` x `by` pixels. */
function seen(recipe: (typeof SHIPPED_RECIPES)[number], width: number, height: number, by: number): Triple[] {
  const treatment = new Treatment()
  const order = { preparation: [], recipe, after: [], encoding: 'bt1886' }
  const frame = { data: drawn(width, height), format: 'u16' as const, width, height, frame: 3 }
  const pixels = treatment.run(frame, order).pixels.slice()
  treatment.release()
  const labs: Triple[] = []
  for (let y = 0; y + by <= height; y += 2 * by)
    for (let x = 0; x + by <= width; x += 2 * by) {
      const sum = [0, 0, 0]
      for (let i = 0; i < by * by; i++) {
        const at = 4 * ((y + Math.floor(i / by)) * width + x + (i % by))
        for (const k of [0, 1, 2]) sum[k]! += lightOf(pixels[at + k]!)
      }
      labs.push(bt709ToLab(sum.map((v) => v / by / by) as unknown as Triple))
    }
  return labs
}
/** Texture of single pixels averages away where a picture is made smaller: it is looked for in what is to be done. */
const isTextured = (recipe: (typeof SHIPPED_RECIPES)[number]): boolean =>
  /"(do|kind)":"grain"/.test(JSON.stringify(compileLine(recipe, { refers: 'display' })))

describe('a picture that is worked small', () => {
  const pairs = SHIPPED_RECIPES.map((recipe) => {
    const [full, small] = [seen(recipe, WIDTH, HEIGHT, 2), seen(recipe, WIDTH / 2, HEIGHT / 2, 1)]
    const apart = full.map((lab, i) => ciede2000(lab, small[i]!))
    return { recipe, full, small, mean: apart.reduce((sum, v) => sum + v, 0) / apart.length }
  })
  it('is that which is worked whole and made smaller, to the eye', () => {
    const others = pairs.filter(({ recipe }) => !isTextured(recipe))
    expect(others.length).toBeGreaterThan(40)
    expect(others.filter(({ mean }) => mean > 1).map(({ recipe, mean }) => `${recipe.id} ${mean.toFixed(2)}`)).toEqual(
      [],
    )
  })
  it('has more of the grain, and on the whole the same colours', () => {
    const textured = pairs.filter(({ recipe }) => isTextured(recipe))
    expect(textured.length).toBeGreaterThan(4)
    const means = (labs: readonly Triple[]): Triple =>
      [0, 1, 2].map((k) => labs.reduce((sum, lab) => sum + lab[k]!, 0) / labs.length) as unknown as Triple
    for (const { recipe, full, small } of textured)
      expect(ciede2000(means(full), means(small)), recipe.id).toBeLessThan(1)
  })
})
