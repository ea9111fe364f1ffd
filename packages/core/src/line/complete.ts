import { defaultsOf } from '../baths/defaults'
import { kindById } from '../baths/kinds'
import { STRETCHES, type Kind } from '../baths/kind'
import { FogBathError } from '../errors'
import { checkLane } from '../keys/lane'
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
  return {
    ...base,
    ...value,
    version,
    baths: value['baths'].map((bath, i) => completeBath(bath, `baths/${i}`, `bath-${i + 1}`)),
  }
}

/**
 * A recipe that was kept by an earlier version, with the settings that have come since at their defaults, which change
 * nothing. What cannot be read is left as it is: whoever uses it says what is wrong.
 */
export function upToDate<T>(recipe: T): T {
  try {
    return completeRecipe(recipe) as T
  } catch (error) {
    if (error instanceof FogBathError) return recipe
    throw error
  }
}

/** The same for baths alone. */
export const bathsUpToDate = (baths: readonly Bath[]): readonly Bath[] =>
  upToDate({ version: RECIPE_VERSION, baths } as unknown as Recipe).baths

/** @param at where it stands @param id for one that has none */
function completeBath(bath: unknown, at: string, id: string): unknown {
  if (!isObject(bath) || typeof bath['kind'] !== 'string')
    throw new FogBathError('recipe', at, `${at.replace('baths/', 'Bath number ')} has no kind.`)
  const kind = kindById(bath['kind'])
  const settings = bath['settings'] ?? {}
  return {
    ...bathDefaults(kind, id),
    ...bath,
    mask: completeMask(bath['mask'], at),
    settings: isObject(settings) ? completeSettings(kind, settings, at, id) : settings,
  }
}

function completeSettings(kind: Kind, settings: Loose, at: string, id: string): Loose {
  const whole: Loose = { ...defaultsOf(kind.schema), ...(kind.earlier?.(settings) ?? settings) }
  if (!kind.strand || !Array.isArray(whole['baths'])) return whole
  const own = (bath: unknown, i: number): unknown => completeBath(bath, `${at}/settings/baths/${i}`, `${id}-${i + 1}`)
  return { ...whole, baths: whole['baths'].map(own) }
}

/** All baths of a line, those in strands behind the bath that holds them. */
export const allBaths = (recipe: Pick<Recipe, 'baths'>): Bath[] =>
  recipe.baths.flatMap((bath) => [bath, ...(kindById(bath.kind).strand?.(bath.settings) ?? [])])

/** Rules that a schema cannot state. Throws naming the bath. */
export function checkRecipe(recipe: Recipe): Recipe {
  const seen = new Set<string>()
  for (const bath of allBaths(recipe)) {
    if (seen.has(bath.id))
      throw new FogBathError('recipe', 'baths', `Two baths have the id '${bath.id}'; each needs its own.`)
    seen.add(bath.id)
  }
  checkLine(recipe.baths, 'baths')
  for (const [name, lane] of Object.entries(recipe.keys ?? {})) {
    if (name !== 'strength') throw unknownLane('keys', name, 'the strength of a recipe alone changes over the shot')
    checkLane(lane, 'keys/strength')
  }
  return recipe
}

const unknownLane = (at: string, name: string, rule: string): FogBathError =>
  new FogBathError('recipe', `${at}/${name}`, `${at} has '${name}'; ${rule}.`)

/** Lanes are of what a bath has, and stand in time. @param at where the bath stands */
function checkKeys({ kind, keys = {}, mask }: Bath, at: string): void {
  const { schema, label } = kindById(kind)
  for (const [name, lane] of Object.entries(keys)) {
    if (name === 'baths' || (name !== 'strength' && !(name in schema.properties)))
      throw unknownLane(`${at}/keys`, name, `${label} has no setting of that name that changes over the shot`)
    checkLane(lane, `${at}/keys/${name}`)
  }
  for (const [i, { moves }] of (mask?.parts ?? []).entries()) if (moves) checkLane(moves, `${at}/mask/parts/${i}/moves`)
}

/** @param at where the list of baths stands */
function checkLine(baths: readonly Bath[], at: string): void {
  let last = 0
  for (const [i, bath] of baths.entries()) {
    const { kind, settings } = bath
    const { fault, strand, stretch } = kindById(kind)
    const found = fault?.(settings)
    if (found)
      throw new FogBathError('recipe', `${at}/${i}/settings/${found.setting}`, `Bath ${i + 1} (${kind}): ${found.rule}`)
    checkKeys(bath, `${at}/${i}`)
    const order = STRETCHES.indexOf(stretch)
    if (order < last)
      throw new FogBathError(
        'recipe',
        `${at}/${i}`,
        `Bath ${i + 1} (${kind}) stands too late; the order is Prepare, Process, Finish.`,
      )
    last = order
    if (strand) checkLine(strand(settings), `${at}/${i}/settings/baths`)
  }
}
