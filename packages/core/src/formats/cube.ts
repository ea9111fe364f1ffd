import { FogBathError } from '../errors'
import { Pictures } from '../cpu/pictures'
import { atWork } from '../line/bath'
import { allBaths } from '../line/complete'
import { compileLine } from '../line/compile'
import type { Recipe } from '../line/recipe'
import { PlanRunner } from '../plan/run'
import { fitNodes, type Grid } from './cube-fit'

const CUBE_SIZES = { lowest: 2, highest: 129 } as const

/**
 * The look of a recipe from BT.1886 display values to BT.1886 display values as a .cube text (the open LUT form that
 * many programs read: LUT_3D_SIZE, red running fastest, values 0..1). Nodes are fitted so that the colours between them
 * are followed as well, see cube-fit.ts.
 */
export function recipeToCube(recipe: Recipe, size: number): string {
  const { lowest, highest } = CUBE_SIZES
  if (!Number.isInteger(size) || size < lowest || size > highest)
    throw new FogBathError(
      'range',
      'size',
      `The LUT size is ${size}; it must be a whole number from ${lowest} to ${highest}.`,
    )
  const masked = allBaths(recipe).find((b) => b.mask && atWork(b))
  if (masked)
    throw new FogBathError(
      'recipe',
      'mask',
      `The bath '${masked.name || masked.id}' has a mask, which depends on places; a LUT knows only colours. Remove the mask or render the shot.`,
    )
  const { values } = fitNodes(nodesOf(recipe, size), nodesOf(recipe, 2 * size - 1))
  const rows = [
    `# Fog Bath, recipe ${recipe.id.replace(/[\r\n]/g, ' ')}`,
    '# Takes and gives display code values: BT.1886 (gamma 2.4), BT.709 colours, 0..1 from black to white.',
    `TITLE "${recipe.name.replace(/["\r\n]/g, ' ')}"`,
    `LUT_3D_SIZE ${size}`,
    'DOMAIN_MIN 0 0 0',
    'DOMAIN_MAX 1 1 1',
  ]
  for (let i = 0; i < values.length; i += 3)
    rows.push(`${values[i]!.toFixed(6)} ${values[i + 1]!.toFixed(6)} ${values[i + 2]!.toFixed(6)}`)
  return rows.join('\n') + '\n'
}

/** The line at so many even places a side; work on neighbouring pixels, which a LUT does not know, is left out. */
function nodesOf(recipe: Recipe, side: number): Grid {
  const plan = { ops: compileLine(recipe, { refers: 'display' }).ops.filter(({ op }) => op !== 'space') }
  const runner = new PlanRunner()
  const pictures = new Pictures()
  const codes = pictures.take('camera', side ** 3)
  let at = 0
  for (let b = 0; b < side; b++)
    for (let g = 0; g < side; g++)
      for (let r = 0; r < side; r++, at += 4) codes.pixels.set([r / (side - 1), g / (side - 1), b / (side - 1), 1], at)
  const { pixels } = runner.run(plan, codes, side * side, side)
  const values = Float64Array.from({ length: 3 * side ** 3 }, (_, i) => pixels[4 * Math.floor(i / 3) + (i % 3)]!)
  runner.release()
  pictures.release()
  return { side, values }
}
