import {
  Ajv,
  type ErrorObject,
  type FuncKeywordDefinition,
  type SchemaValidateFunction,
  type ValidateFunction,
} from 'ajv'
import { FIELD_KEYWORDS, KINDS, kindById } from '@fogbath/core/baths'
import { ENCODING_IDS } from '@fogbath/core/encodings'
import { RecipeSchema, SETTINGS_OF_KIND, checkRecipe, completeRecipe, type Recipe } from '@fogbath/core/line'
import { SharedSchema, upgradeShared, type SharedRecipe } from '@fogbath/core/shelf'
import type { TSchema } from 'typebox'
import { Fault } from './errors'
import { parseJson } from './outside/texts'

/** Validators of the settings of kinds, each made when a bath of its kind is first met. */
const ofKind = new Map<string, ValidateFunction>()
function settingsValidator(kind: string): ValidateFunction {
  const known = ofKind.get(kind)
  if (known) return known
  const made = lazily(ajv, kindById(kind).schema)
  ofKind.set(kind, made)
  return made
}

interface LooseBath {
  readonly kind?: unknown
  readonly settings?: unknown
  readonly keys?: unknown
}

const validSettings: SchemaValidateFunction = (_rule, bath: LooseBath, _schema, at) => {
  // What is no kind at all, or has no settings, is told by the rules on these fields themselves.
  const kind = KINDS.find((k) => k.id === bath.kind)
  if (!kind || bath.settings === undefined) return true
  const valid = settingsValidator(kind.id)
  const told = (path: string, within = ''): false => {
    validSettings.errors = (valid.errors ?? []).map((e) => ({
      ...e,
      instancePath: `${at?.instancePath ?? ''}/${path}${e.instancePath.slice(within.length)}`,
      // Ajv will say that the whole bath was found.
      params: { found: e.data, ...e.params },
    }))
    return false
  }
  if (!valid(bath.settings)) return told('settings')
  for (const { path, name, value } of keyedValues(bath.keys)) {
    if (name === 'strength') {
      if (validStrength(value)) continue
      validSettings.errors = validStrength.errors!.map((e) => ({
        ...e,
        instancePath: `${at?.instancePath ?? ''}/${path}`,
        params: { found: value, ...e.params },
      }))
      return false
    }
    // A setting that is not there is told by the rules that a schema cannot state.
    if (name in (kind.schema.properties as object) && !valid({ ...(bath.settings as object), [name]: value }))
      return told(path, `/${name}`)
  }
  return true
}

/** What the lanes of a bath say, wherever they have the form of lanes. */
function* keyedValues(lanes: unknown): Generator<{ path: string; name: string; value: unknown }> {
  if (typeof lanes !== 'object' || lanes === null) return
  for (const [name, lane] of Object.entries(lanes as Record<string, { keys?: unknown } | null>)) {
    const keys = lane?.keys
    if (!Array.isArray(keys)) continue
    for (const [i, key] of (keys as readonly ({ value?: unknown } | null)[]).entries())
      yield { path: `keys/${name}/keys/${i}/value`, name, value: key?.value }
  }
}

const settingsOfKind: FuncKeywordDefinition = {
  keyword: SETTINGS_OF_KIND,
  type: 'object',
  schemaType: 'boolean',
  validate: validSettings,
}

/** One Ajv configuration for bodies and files: nothing is coerced, nothing is dropped, wrong input is refused. */
const AJV_OPTIONS = {
  coerceTypes: false,
  removeAdditional: false,
  useDefaults: false,
  allErrors: false,
  verbose: true,
  // Tidying the code it makes takes three quarters of the time and gains nothing that can be measured.
  code: { optimize: false },
  keywords: [...FIELD_KEYWORDS, settingsOfKind],
}

const ajv = new Ajv(AJV_OPTIONS)
const validStrength = lazily(ajv, { type: 'number', minimum: 0, maximum: 100 })
/** Paths and queries are text: where a number is meant, text that is one becomes it. */
const ajvOfText = new Ajv({ ...AJV_OPTIONS, coerceTypes: true })

/** What checks by a schema, compiled when something is checked for the first time: all of them would take a start seconds. */
function lazily(compiler: Ajv, schema: object): ValidateFunction {
  let valid: ValidateFunction | undefined
  const check = Object.assign(
    (value: unknown): value is unknown => {
      valid ??= compiler.compile(schema)
      const fits = valid(value)
      check.errors = valid.errors ?? null
      return fits
    },
    { schema, errors: null as ErrorObject[] | null },
  )
  return check as ValidateFunction
}

/** What checks a route's part. */
export const validatorFor = ({ schema, httpPart }: { schema: object; httpPart?: string }): ValidateFunction =>
  lazily(httpPart === 'params' || httpPart === 'querystring' ? ajvOfText : ajv, schema)

const show = (value: unknown): string => {
  const text = JSON.stringify(value) ?? 'missing'
  return text.length > 60 ? `${text.slice(0, 57)}...` : text
}

/** One sentence: where, what was found, and the rule. */
export function describeError(error: ErrorObject, root: string): string {
  const where = `${root}${error.instancePath}`
  const params = error.params as Record<string, unknown>
  const found = show('found' in params ? params['found'] : error.data)
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
  if (keyword === 'pattern' && control === 'encoding') return `must be one of: ${ENCODING_IDS.join(', ')}`
  return message ?? 'is not valid'
}

/** Ajv lists the rule that failed first; wrappers such as if/then come after the exact one. */
export const firstError = (errors: readonly ErrorObject[] | null | undefined): ErrorObject | undefined =>
  errors?.find((e) => e.keyword !== 'if' && e.keyword !== 'allOf') ?? errors?.[0]

/** What is wrong with a value, as a sentence that names the path; null when nothing is. */
export function validator(schema: TSchema): (value: unknown, root: string) => string | null {
  const valid = lazily(ajv, schema)
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
