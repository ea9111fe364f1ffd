import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bt709ToLab, ciede2000, displayLight, type Triple, three } from '@fogbath/core/colour'
import { encodingById, lightOfColour } from '@fogbath/core/encodings'
import { plainLine, type Recipe } from '@fogbath/core/line'
import { makeLook, wideColours, withoutNotHeld } from '@fogbath/core/look'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, describe, expect, it } from 'vitest'
import { throughOcio } from './ocio'

/** Files of looks, read by OpenColorIO from Debian and compared with the process in double precision. */

const folder = mkdtempSync(join(tmpdir(), 'fogbath-look-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const shipped = (id: string): Recipe => withoutNotHeld(SHIPPED_RECIPES.find((r) => r.id === id)!)
const lab = (codes: Triple) => bt709ToLab(codes.map(displayLight) as unknown as Triple)

/** CIEDE2000 of a file, as OpenColorIO reads it, from the process: mean and 99th percentile. */
function apart(recipe: Recipe, takes: string, codes: readonly Triple[]): { mean: number; most: number; told: number } {
  const { text, errors } = makeLook(recipe, { format: 'clf', takes })
  const path = join(folder, `${recipe.id}-${takes}.clf`)
  writeFileSync(path, text)
  const read = throughOcio(`t = o.FileTransform('${path}', interpolation=o.INTERP_BEST)`, codes)
  const encoding = encodingById(takes)
  const line = plainLine(recipe, undefined, encoding.refers)
  const out = three()
  const off = codes
    .map((c, i) => {
      const taken = takes === 'bt1886' ? c : lightOfColour(encoding, c)
      line(...taken, out)
      return ciede2000(lab([out[0]!, out[1]!, out[2]!]), lab(read[i]!))
    })
    .sort((a, b) => a - b)
  return {
    mean: off.reduce((a, b) => a + b) / off.length,
    most: off[Math.floor(0.99 * (off.length - 1))]!,
    told: errors!.wide.mean,
  }
}

describe('a .clf', () => {
  it.each([
    ['plain', 'bt1886'],
    ['two-strip', 'bt1886'],
    ['sepia', 'bt1886'],
    // Laid on each other in another mode: a grid of its own.
    ['bypass-added', 'bt1886'],
    ['infrared', 'bt1886'],
    // Wide colours of camera light lie far outside of what a screen shows.
    ['three-strip', 'acescct', 2],
    ['plain', 'linear', 2],
  ])(
    'of %s for %s does in OpenColorIO what the process does, and is as far off as it says',
    (id, takes, limit = 0.8) => {
      const { mean, most, told } = apart(shipped(id), takes, wideColours(encodingById(takes)))
      expect(mean).toBeLessThan(limit / 8)
      expect(most).toBeLessThan(limit)
      expect(Math.abs(mean - told)).toBeLessThan(0.02)
    },
  )
})
