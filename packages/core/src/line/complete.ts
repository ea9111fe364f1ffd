import { defaultsOf } from '../baths/defaults'
import { kindById } from '../baths/kinds'
import type { Kind } from '../baths/kind'
import { FogBathError } from '../errors'
import { completeMask } from '../masks/edit'
import { RECIPE_VERSION, type Bath, type Recipe } from './recipe'

type Loose = Record<string, unknown>

/** A new bath of a kind, all settings at their defaults. @param id unique in its line */
export function newBath(kindId: string, id: string, settings: Loose = {}): Bath {
  const kind = kindById(kindId)
  return { ...bathDefaults(kind, id), settings: { ...defaultsOf(kind.schema), ...settings } }
}

const bathDefaults = (kind: Kind, id: string) => ({
  id,
  kind: kind.id,
  name: '',
  in: true,
  strength: 100,
  lay: 'normal' as const,
  under: false,
  takes: kind.takes,
  mask: null,
  ...kind.laid,
})

const isObject = (v: unknown): v is Loose => typeof v === 'object' && v !== null && !Array.isArray(v)

/**
 * Fills in whatever a recipe leaves open, so that short hand-written files work: missing settings, ids, texts. What is
 * there is kept as it is; whether it is right is the validator's business. Throws when it is no recipe at all.
 */
export function completeRecipe(value: unknown): unknown {
  if (!isObject(value))
    throw new FogBathError('recipe', 'recipe', 'A recipe must be a JSON object with a list of baths.')
  const version = value['version'] ?? RECIPE_VERSION
  if (version !== RECIPE_VERSION)
    throw new FogBathError(
      'recipe',
      'version',
      `The recipe's version is ${String(version)}; this program reads version ${RECIPE_VERSION}.`,
    )
  if (!Array.isArray(value['baths']))
    throw new FogBathError('recipe', 'baths', 'The recipe has no list of baths; it needs "baths": [ ... ].')
  const base = { id: 'untitled', name: 'Untitled', summary: '', tags: [], strength: 100 }
  return { ...base, ...value, version, baths: value['baths'].map(completeBath) }
}

function completeBath(bath: unknown, index: number): unknown {
  if (!isObject(bath) || typeof bath['kind'] !== 'string')
    throw new FogBathError('recipe', `baths/${index}`, `Bath ${index + 1} has no kind.`)
  const kind = kindById(bath['kind'])
  const settings = bath['settings'] ?? {}
  return {
    ...bathDefaults(kind, `bath-${index + 1}`),
    ...bath,
    mask: completeMask(bath['mask'], `baths/${index}`),
    settings: isObject(settings) ? { ...defaultsOf(kind.schema), ...settings } : settings,
  }
}

/** Rules that a schema cannot state. Throws naming the bath. */
export function checkRecipe(recipe: Recipe): Recipe {
  const seen = new Set<string>()
  for (const bath of recipe.baths) {
    if (seen.has(bath.id))
      throw new FogBathError('recipe', 'baths', `Two baths have the id '${bath.id}'; each needs its own.`)
    seen.add(bath.id)
  }
  for (const [i, { kind, settings }] of recipe.baths.entries()) {
    const fault = kindById(kind).fault?.(settings)
    if (fault)
      throw new FogBathError('recipe', `baths/${i}/settings/${fault.setting}`, `Bath ${i + 1} (${kind}): ${fault.rule}`)
  }
  const order = ['prepare', 'process', 'finish']
  const stretches = recipe.baths.map((b) => order.indexOf(kindById(b.kind).stretch))
  const fault = stretches.findIndex((s, i) => i > 0 && s < stretches[i - 1]!)
  if (fault > 0)
    throw new FogBathError(
      'recipe',
      `baths/${fault}`,
      `Bath ${fault + 1} (${recipe.baths[fault]!.kind}) stands too late; the order is Prepare, Process, Finish.`,
    )
  return recipe
}
