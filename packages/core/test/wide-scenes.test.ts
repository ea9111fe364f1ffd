import { describe, expect, it } from 'vitest'
import { bt709ToLab, chroma, displayLight, hue, type Triple, three } from '../src/colour'
import { NOTHING_AROUND, plainLine } from '../src/line'
import { PROCESS_RECIPES } from '../src/recipes'

/** A hue of scene light whose weakest channel has a fifth of the strongest. */
const hueOf = (degrees: number): Triple => {
  const channel = (n: number): number => {
    const k = (n + degrees / 60) % 6
    return 1 - 0.8 * Math.max(0, Math.min(k, 4 - k, 1))
  }
  return [channel(5), channel(3), channel(1)]
}
/** Eighths of a stop, from six stops under mid grey to six over it. */
const STOPS = Array.from({ length: 97 }, (_, i) => -6 + i / 8)

describe.each(PROCESS_RECIPES.map((r) => [r.id, r] as const))('%s', (_, recipe) => {
  it('takes lights six stops over grey: nothing falls, breaks or jumps, in twelve hues', () => {
    const line = plainLine(recipe, NOTHING_AROUND, 'scene')
    const out = three()
    for (let degrees = 0; degrees < 360; degrees += 30) {
      const colour = hueOf(degrees)
      const labs = STOPS.map((stops) => {
        const [r, g, b] = colour.map((v) => v * 0.18 * 2 ** stops) as [number, number, number]
        line(r, g, b, out)
        return bt709ToLab([displayLight(out[0]!), displayLight(out[1]!), displayLight(out[2]!)])
      })
      labs.slice(1).forEach((now, i) => {
        const before = labs[i]!
        expect(now[0]).toBeGreaterThan(before[0] - 0.01)
        expect(Math.hypot(now[0] - before[0], now[1] - before[1], now[2] - before[2])).toBeLessThan(16)
        if (Math.min(chroma(now), chroma(before)) < 10) return
        const turned = Math.abs(hue(now) - hue(before))
        expect(Math.min(turned, 360 - turned)).toBeLessThan(12)
      })
    }
  })
})
