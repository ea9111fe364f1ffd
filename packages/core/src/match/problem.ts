import { fieldsOf } from '../baths/fields'
import { kindById } from '../baths/kinds'
import { three } from '../colour/matrix'
import { FogBathError } from '../errors'
import { newBath } from '../line/complete'
import { plainLine } from '../line/plain'
import type { Recipe } from '../line/recipe'
import { labOf, type MatchRequest, type Samples } from './samples'
import type { Labs } from './transport'

interface NumberField {
  readonly type?: string
  readonly enum?: readonly string[]
  readonly minimum?: number
  readonly maximum?: number
  readonly first?: boolean
  readonly title: string
}
const fieldsOfKind = (kind: string) => Object.entries(fieldsOf<NumberField>(kindById(kind).schema))

interface Movable {
  readonly key: string
  readonly title: string
  /** Ticked to begin with. */
  readonly first: boolean
  /** What it can be, where it is no number. */
  readonly values: readonly string[] | null
}

/** Settings of a kind that a fit can move: its numbers, and of its choices those that are shown first. */
export const movableSettings = (kind: string): Movable[] =>
  fieldsOfKind(kind).flatMap(([key, { type, title, first = false, enum: values = null }]) =>
    type === 'number' || (values && first) ? [{ key, title, first, values }] : [],
  )

/** One process with its choices made: what is left to find are numbers, each 0..1 of its range. */
export interface Problem {
  readonly kind: string
  readonly start: readonly number[]
  readonly choices: readonly Movable[]
  readonly recipeAt: (place: readonly number[]) => Recipe
  readonly labsAt: (place: readonly number[]) => Labs
  /** The same process with another choice. */
  readonly choosing: (key: string, value: string) => Problem
  /** The same over other samples. */
  readonly over: (scene: Samples) => Problem
}

export function problemOf(
  request: MatchRequest,
  scene: Samples,
  kind: string,
  chosen: Readonly<Record<string, string>> = {},
): Problem {
  const fields = Object.fromEntries(fieldsOfKind(kind)) as Record<string, Required<NumberField>>
  const { settings } = request
  const moving = movableSettings(kind).filter((s) => (settings ? settings.includes(s.key) : s.first))
  const keys = moving.flatMap(({ key, values }) => (values ? [] : [key]))
  if (keys.length === 0)
    throw new FogBathError('range', 'settings', `No number of '${kindById(kind).label}' may move; tick at least one.`)
  const fresh = newBath(kind, 'matched')
  const rangeOf = (key: string): number => fields[key]!.maximum - fields[key]!.minimum
  const valueAt = (key: string, share: number): number => fields[key]!.minimum + share * rangeOf(key)
  const recipeAt = (place: readonly number[]): Recipe => ({
    version: 1,
    id: 'matched',
    name: `Matched ${kindById(kind).short.toLowerCase()}`,
    summary: '',
    tags: [],
    strength: 100,
    baths: [
      newBath(kind, 'matched', {
        ...chosen,
        ...Object.fromEntries(keys.map((key, k) => [key, valueAt(key, place[k]!)])),
      }),
    ],
  })
  return {
    kind,
    start: keys.map((key) => ((fresh.settings[key] as number) - fields[key]!.minimum) / rangeOf(key)),
    choices: moving.filter((s) => s.values),
    recipeAt,
    labsAt: (place) => treated(request, recipeAt(place), scene),
    choosing: (key, value) => problemOf(request, scene, kind, { ...chosen, [key]: value }),
    over: (other) => problemOf(request, other, kind, chosen),
  }
}

export function treated({ around, refers }: MatchRequest, recipe: Recipe, { camera }: Samples): Labs {
  const line = plainLine(recipe, around, refers)
  const out = three()
  return camera.map((c) => {
    line(...c, out)
    return labOf(out[0], out[1], out[2])
  })
}
