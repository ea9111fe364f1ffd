import { three } from '../colour/matrix'
import { PATCHES } from '../charts/charts'
import { bt709ToLab, chroma } from '../colour/lab'
import { displayLight } from '../colour/transfer'
import { plainLine } from '../line/plain'
import type { Recipe } from '../line/recipe'

/** How coloured and how light a line shows the patches: means of C*ab and L*. */
export function measuresOf(recipe: Recipe): { readonly colourfulness: number; readonly lightness: number } {
  const line = plainLine(recipe)
  const out = three()
  const labs = PATCHES.map(({ light }) => {
    line(...light, out)
    return bt709ToLab([displayLight(out[0]), displayLight(out[1]), displayLight(out[2])])
  })
  const mean = (f: (lab: (typeof labs)[number]) => number): number =>
    labs.reduce((sum, c) => sum + f(c), 0) / labs.length
  return { colourfulness: mean(chroma), lightness: mean(([l]) => l) }
}
