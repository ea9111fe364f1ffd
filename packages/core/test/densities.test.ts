import { describe, expect, it } from 'vitest'
import { newBath, type Recipe } from '../src/line'
import { readWedge } from '../src/readings'
import { SHIPPED_RECIPES } from '../src/recipes'
import { STATUS, nmAt } from '../src/spectra'

const line = (kind: string, settings: Record<string, unknown> = {}): Recipe => ({
  ...SHIPPED_RECIPES[0]!,
  baths: [newBath(kind, 'b', settings)],
})
const mid = (recipe: Recipe) => readWedge(recipe).find((s) => Math.abs(s.stops) < 0.01)!

describe('the densitometer on the grey wedge', () => {
  it('answers most where ISO 5-3 has them', () => {
    const peaks = (status: 'A' | 'M') => STATUS[status].map((band) => nmAt(band.indexOf(Math.max(...band))))
    expect(peaks('A')).toEqual([620, 530, 440])
    expect(peaks('M')).toEqual([640, 540, 450])
  })
  it('reads a silver print as grey, at the density that the eye sees', () => {
    for (const { print, lab } of readWedge(line('black-and-white'))) {
      const seen = -Math.log10(lab[0] > 8 ? ((lab[0] + 16) / 116) ** 3 : lab[0] / 903.3)
      // Lights and blacks are drawn out to the display's own white and black, densities are not.
      if (seen < 0.25 || seen > 1.6) continue
      const { A, M } = print!
      expect(Math.max(...A, ...M) - Math.min(...A, ...M)).toBeLessThan(0.12)
      expect(Math.abs(A[1] - seen)).toBeLessThan(0.1)
    }
  })
  it('rises with every step towards black', () => {
    for (const id of ['colour-print', 'three-strip', 'two-strip', 'instant', 'aged-print']) {
      const greens = readWedge(line(id)).map((s) => s.print!.A[1])
      greens.forEach((d, i) => i > 0 && expect(d, id).toBeGreaterThanOrEqual(greens[i - 1]! - 1e-9))
      expect(greens.at(-1)! - greens[0]!).toBeGreaterThan(1.2)
    }
  })
  it('sees what toning does: sulphide holds blue light back and lets red through', () => {
    const [red, green, blue] = mid(line('black-and-white', { toner1: 'sulphide' })).print!.A
    expect(blue).toBeGreaterThan(green + 0.1)
    expect(green).toBeGreaterThan(red + 0.1)
  })
  it('sees a tinted base in clear film', () => {
    const clear = (settings: Record<string, unknown>) => readWedge(line('black-and-white', settings))[0]!.print!.A
    const amber = SHIPPED_RECIPES.find((r) => r.id === 'tint-amber')!.baths[0]!.settings
    expect(clear(amber)[2]).toBeGreaterThan(clear({})[2] + 0.2)
    expect(clear(amber)[0]).toBeLessThan(clear({})[0] + 0.1)
  })
  it('has no print to read where no bath makes one', () => {
    expect(readWedge(line('contrast')).every((s) => s.print === null)).toBe(true)
  })
})
