import { Ajv, type ErrorObject } from 'ajv'
import {
  FIELD_KEYWORDS,
  RecipeSchema,
  SharedSchema,
  checkRecipe,
  completeRecipe,
  upgradeShared,
  type Recipe,
  type SharedRecipe,
} from '@fogbath/core'
import type { TSchema } from 'typebox'
import { Fault } from './errors'

/** One Ajv configuration for bodies and files: nothing is coerced, nothing is dropped, wrong input is refused. */
export const AJV_OPTIONS = {
  coerceTypes: false,
  removeAdditional: false,
  useDefaults: false,
  allErrors: false,
  verbose: true,
  keywords: [...FIELD_KEYWORDS],
} as const

const ajv = new Ajv({ ...AJV_OPTIONS, keywords: [...FIELD_KEYWORDS] })

const show = (value: unknown): string => {
  const text = JSON.stringify(value) ?? 'missing'
  return text.length > 60 ? `${text.slice(0, 57)}...` : text
}

/** One sentence: where, what was found, and the rule. */
export function describeError(error: ErrorObject, root: string): string {
  const where = `${root}${error.instancePath}`
  const params = error.params as Record<string, unknown>
  const found = show(error.data)
  switch (error.keyword) {
    case 'required':
      return `${where} lacks '${String(params['missingProperty'])}'.`
    case 'additionalProperties':
      return `${where} has '${String(params['additionalProperty'])}', which is not known there.`
    case 'enum':
      return `${where} is ${found}; it must be one of: ${(params['allowedValues'] as unknown[]).join(', ')}.`
    case 'const':
      return `${where} is ${found}; it must be ${show(params['allowedValue'])}.`
    case 'type':
      return `${where} is ${found}; it must be of type ${String(params['type'])}.`
    default:
      return `${where} is ${found}; it ${ruleOf(error)}.`
  }
}

/** A rule without a case of its own, in words. */
function ruleOf({ keyword, message, parentSchema }: ErrorObject): string {
  const { control } = (parentSchema ?? {}) as { control?: string }
  if (keyword === 'pattern' && control === 'colour') return 'must be a colour of the form #rrggbb'
  return message ?? 'is not valid'
}

/** Ajv lists the rule that failed first; wrappers such as if/then come after the exact one. */
export const firstError = (errors: readonly ErrorObject[] | null | undefined): ErrorObject | undefined =>
  errors?.find((e) => e.keyword !== 'if' && e.keyword !== 'allOf') ?? errors?.[0]

/** What is wrong with a value, as a sentence that names the path; null when nothing is. */
export function validator(schema: TSchema): (value: unknown, root: string) => string | null {
  const valid = ajv.compile(schema)
  return (value, root) => {
    if (valid(value)) return null
    const error = firstError(valid.errors)
    return error ? describeError(error, root) : `The ${root} is not valid.`
  }
}

const problemOfRecipe = validator(RecipeSchema)

/** Checks a whole recipe; throws a sentence that names the path. */
function validateRecipe(value: unknown): Recipe {
  const problem = problemOfRecipe(value, 'recipe')
  if (problem) throw new Fault('invalid', problem)
  return checkRecipe(value as Recipe)
}

function parseJson(text: string, name: string): unknown {
  try {
    return JSON.parse(text)
  } catch (error) {
    throw new Fault('invalid', `${name} is not JSON: ${(error as Error).message}.`)
  }
}

const problemOfShared = validator(SharedSchema)

/** Reads a shared recipe of any form; throws a sentence that names the file and the place in it. */
export function parseShared(text: string, name: string): SharedRecipe {
  const value = upgradeShared(parseJson(text, name))
  const problem = problemOfShared(value, name)
  if (problem) throw new Fault('invalid', problem)
  const shared = value as SharedRecipe
  for (const { recipe } of shared.versions) checkRecipe(recipe)
  return shared
}

/** Reads a recipe file's text: short forms are completed first; of a file from the shelf the newest version counts. */
export function parseRecipe(text: string, name: string): Recipe {
  const value = parseJson(text, name)
  if (value !== null && typeof value === 'object' && 'versions' in value)
    return parseShared(text, name).versions.at(-1)!.recipe
  return validateRecipe(completeRecipe(value))
}
