import { FogBathError } from '../errors'
import { atWork } from '../line/bath'
import { plainLine } from '../line/plain'
import type { Recipe } from '../line/recipe'
import { NO_TRIMS } from '../line/trims'

const CUBE_SIZES = { lowest: 2, highest: 129 } as const

/**
 * The look of a recipe from BT.1886 display values to BT.1886 display values as a .cube text (the open LUT form that
 * many programs read: LUT_3D_SIZE, red running fastest, values 0..1). Each node is worked out by the plain form.
 */
export function recipeToCube(recipe: Recipe, size: number): string {
  const { lowest, highest } = CUBE_SIZES
  if (!Number.isInteger(size) || size < lowest || size > highest)
    throw new FogBathError(
      'range',
      'size',
      `The LUT size is ${size}; it must be a whole number from ${lowest} to ${highest}.`,
    )
  const masked = recipe.baths.find((b) => b.mask && atWork(b))
  if (masked)
    throw new FogBathError(
      'recipe',
      'mask',
      `The bath '${masked.name || masked.id}' has a mask, which depends on places; a LUT knows only colours. Remove the mask or render the shot.`,
    )
  const line = plainLine(recipe, NO_TRIMS, 'display')
  const axis = Array.from({ length: size }, (_, i) => i / (size - 1))
  const out = new Float64Array(3)
  const rows = [
    `# Fog Bath, recipe ${recipe.id.replace(/[\r\n]/g, ' ')}`,
    '# Takes and gives display code values: BT.1886 (gamma 2.4), BT.709 colours, 0..1 from black to white.',
    `TITLE "${recipe.name.replace(/["\r\n]/g, ' ')}"`,
    `LUT_3D_SIZE ${size}`,
    'DOMAIN_MIN 0 0 0',
    'DOMAIN_MAX 1 1 1',
  ]
  for (const b of axis)
    for (const g of axis)
      for (const r of axis) {
        line(r, g, b, out)
        rows.push(`${out[0]!.toFixed(6)} ${out[1]!.toFixed(6)} ${out[2]!.toFixed(6)}`)
      }
  return rows.join('\n') + '\n'
}
