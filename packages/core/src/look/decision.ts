import { decisionOf } from '../baths/preparing/cdl'
import { kindById } from '../baths/kinds'
import { FogBathError } from '../errors'
import { decisionToCc, decisionToCdl } from '../formats/cdl'
import { atWork } from '../line/bath'
import type { Recipe } from '../line/recipe'

const ON = {
  log: 'ACEScct code values',
  video: 'video code values of gamma 2.4',
  linear: 'scene-linear light',
} as const

/** A line that is one colour correction, as such a file. Throws for any other line, naming what else it does. */
export function decisionText(recipe: Recipe, format: 'cc' | 'cdl'): string {
  const baths = recipe.baths.filter(atWork)
  const [only] = baths
  const other = baths.find((b) => b.kind !== 'cdl')
  const refuse = (why: string): never => {
    throw new FogBathError('format', 'baths', `A .${format} holds one slope, offset, power and saturation; ${why}.`)
  }
  if (other) refuse(`the bath '${other.name || kindById(other.kind).label}' does more than that`)
  if (!only) refuse('this line has no such bath at work')
  if (baths.length > 1) refuse(`this line has ${baths.length} of them, one after the other`)
  if (recipe.strength < 100 || only!.strength < 100 || only!.lay !== 'normal' || only!.under)
    refuse('this line’s is laid at less than full strength or in another mode')
  const note = `Acts on ${ON[only!.settings['on'] as keyof typeof ON]}.`
  const write = format === 'cc' ? decisionToCc : decisionToCdl
  return write(decisionOf(only!.settings), recipe.id, note)
}
