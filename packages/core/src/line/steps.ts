import Type, { type TSchema } from 'typebox'
import { bathsUpToDate, checkRecipe, upToDate } from './complete'
import { preparationOfTrims } from './from-trims'
import { BathsSchema, checkPart, type Line } from './parts'
import { RecipeSchema, type Bath, type Recipe } from './recipe'

/** Most steps of undo that a shot keeps. */
export const MOST_STEPS = 100

/** One thing that was changed on a shot, as it was before: parts of a trial's line, or lines put on other shots. */
export type Step =
  | {
      readonly kind: 'parts'
      /** Whose look and after; null where only the preparation changed, which all trials share. */
      readonly trialId: number | null
      readonly preparation?: readonly Bath[]
      readonly recipe?: Recipe
      readonly after?: readonly Bath[]
    }
  | { readonly kind: 'shots'; readonly trials: readonly ShotLine[] }

/** What was on a shot: what one of its trials held, or what stood before all of them. */
export interface ShotLine {
  readonly trialId: number
  readonly recipe?: Recipe
  readonly after?: readonly Bath[]
  readonly preparation?: readonly Bath[]
}

/** A step as it was kept: versions before the three parts had one kind for the line and one for what came before it. */
type KeptForm =
  | Step
  | { readonly kind: 'recipe'; readonly trialId: number; readonly recipe: Recipe }
  | { readonly kind: 'trims'; readonly trims: Parameters<typeof preparationOfTrims>[0] }

/** A step that was kept by an earlier version, its lines with the settings that have come since. */
export function stepUpToDate(kept: Step): Step {
  const step = kept as KeptForm
  if (step?.kind === 'trims') return { kind: 'parts', trialId: null, preparation: preparationOfTrims(step.trims) }
  if (step?.kind === 'recipe') return { kind: 'parts', trialId: step.trialId, recipe: upToDate(step.recipe) }
  if (step?.kind === 'parts') {
    return partsUpToDate(step)
  }
  if (step?.kind !== 'shots' || !Array.isArray(step.trials)) return step
  return { ...step, trials: step.trials.map(partsUpToDate) }
}

type Parts = Partial<Pick<Line, 'preparation' | 'recipe' | 'after'>>

function partsUpToDate<T extends Parts>(step: T): T {
  const { preparation, recipe, after } = step
  return {
    ...step,
    ...(preparation && { preparation: bathsUpToDate(preparation) }),
    ...(recipe && { recipe: upToDate(recipe) }),
    ...(after && { after: bathsUpToDate(after) }),
  }
}

function checkParts({ preparation, recipe, after }: Parts): void {
  if (recipe) checkRecipe(recipe)
  if (preparation) checkPart('preparation', preparation)
  if (after) checkPart('after', after)
}

const kind = <K extends Step['kind']>(value: K) => Type.Unsafe<K>({ type: 'string', enum: [value] })
const closed = <T extends Record<string, TSchema>>(fields: T) => Type.Object(fields, { additionalProperties: false })
const trialId = Type.Integer({ minimum: 1 })
const parts = {
  preparation: Type.Optional(BathsSchema),
  recipe: Type.Optional(RecipeSchema),
  after: Type.Optional(BathsSchema),
}
const STEP_SCHEMAS = {
  parts: closed({
    kind: kind('parts'),
    trialId: Type.Union([trialId, Type.Null()]),
    ...parts,
  }),
  shots: closed({ kind: kind('shots'), trials: Type.Array(closed({ trialId, ...parts }), { maxItems: 1000 }) }),
} as const satisfies Record<Step['kind'], TSchema>

/** One if/then rule a kind, so that an error names the exact place. */
const StepSchema = {
  type: 'object',
  required: ['kind'],
  properties: { kind: { type: 'string', enum: Object.keys(STEP_SCHEMAS) } },
  allOf: Object.entries(STEP_SCHEMAS).map(([value, schema]) => ({
    if: { type: 'object', required: ['kind'], properties: { kind: { const: value } } },
    then: schema,
  })),
} as unknown as TSchema

/** A step with a name that no other step has, so that two windows can each change a stack without counting in it. */
export interface KeptStep {
  readonly key: string
  readonly step: Step
}
const Key = Type.String({ pattern: '^[a-z0-9]{8,32}$' })
export const KeptStepSchema = closed({ key: Key, step: Type.Unsafe<Step>(StepSchema) })

const change = closed({
  remove: Type.Array(Key, {
    maxItems: MOST_STEPS,
    description: 'Steps that go; one that is gone already is no fault.',
  }),
  add: Type.Array(Type.Unsafe<KeptStep>(KeptStepSchema), {
    maxItems: MOST_STEPS,
    description: 'Steps that come on top, the topmost last; one that is there already is not added again.',
  }),
})

/** What one window has changed of a shot's undo and redo since it last wrote them. Both are stacks, oldest step first. */
export const HistoryChangeSchema = closed({ past: change, future: change })
export interface StackChange {
  readonly remove: readonly string[]
  readonly add: readonly KeptStep[]
}
export interface HistoryChange {
  readonly past: StackChange
  readonly future: StackChange
}

/** Rules that a schema cannot state. Throws naming the bath. */
export function checkStep(step: Step): Step {
  if (step.kind === 'shots') step.trials.forEach(checkParts)
  else checkParts(step)
  return step
}
