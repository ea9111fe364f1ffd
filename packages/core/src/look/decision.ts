import { decisionOf } from '../baths/preparing/cdl'
import { kindById } from '../baths/kinds'
import { FogBathError } from '../errors'
import { decisionToCc, decisionToCdl } from '../formats/cdl'
import { atWork } from '../line/bath'
import type { Bath, Recipe } from '../line/recipe'

const ON = {
  log: 'ACEScct code values',
  video: 'video code values of gamma 2.4',
  linear: 'scene-linear light',
} as const

/**
 * A bath of slope, offset, power and saturation as such a file.
 * @param id told by the file @param measured what is said of how near it comes to the bath
 */
export function decisionFile({ settings }: Bath, id: string, format: 'cc' | 'cdl', measured = ''): string {
  const note = `Acts on ${ON[settings['on'] as keyof typeof ON]}.${measured && ` ${measured}`}`
  return (format === 'cc' ? decisionToCc : decisionToCdl)(decisionOf(settings), id, note)
}

/** The bath of a line that is one colour correction. Throws for any other line, naming what else it does. */
export function decisionBath(recipe: Recipe, format: 'cc' | 'cdl'): Bath {
  const baths = recipe.baths.filter(atWork)
  const [only] = baths
  const other = baths.find((b) => b.kind !== 'cdl')
  const refuse = (why: string): FogBathError =>
    new FogBathError('format', 'baths', `A .${format} holds one slope, offset, power and saturation; ${why}.`)
  if (other) throw refuse(`the bath '${other.name || kindById(other.kind).label}' does more than that`)
  if (!only) throw refuse('this line has no such bath at work')
  if (baths.length > 1) throw refuse(`this line has ${baths.length} of them, one after the other`)
  if (recipe.strength < 100 || only.strength < 100 || only.lay !== 'normal' || only.under)
    throw refuse('this line’s is laid at less than full strength or in another mode')
  return only
}
