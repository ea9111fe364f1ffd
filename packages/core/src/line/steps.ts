import Type, { type TSchema } from 'typebox'
import { upToDate } from './complete'
import { RecipeSchema, type Recipe } from './recipe'
import { TrimsSchema, type Trims } from './trims'

/** Most steps of undo that a shot keeps. */
export const MOST_STEPS = 100

/** One thing that was changed on a shot, as it was before: a trial's line, the trims, or lines put on other shots. */
export type Step =
  | { readonly kind: 'recipe'; readonly trialId: number; readonly recipe: Recipe }
  | { readonly kind: 'trims'; readonly trims: Trims }
  | { readonly kind: 'shots'; readonly trials: readonly { readonly trialId: number; readonly recipe: Recipe }[] }

/** A step that was kept by an earlier version, its lines with the settings that have come since. */
export function stepUpToDate(step: Step): Step {
  if (step?.kind === 'recipe') return { ...step, recipe: upToDate(step.recipe) }
  if (step?.kind !== 'shots' || !Array.isArray(step.trials)) return step
  return { ...step, trials: step.trials.map((t) => ({ ...t, recipe: upToDate(t.recipe) })) }
}

const kind = <K extends Step['kind']>(value: K) => Type.Unsafe<K>({ type: 'string', enum: [value] })
const closed = <T extends Record<string, TSchema>>(fields: T) => Type.Object(fields, { additionalProperties: false })
const line = { trialId: Type.Integer({ minimum: 1 }), recipe: RecipeSchema }
const STEP_SCHEMAS = {
  recipe: closed({ kind: kind('recipe'), ...line }),
  trims: closed({ kind: kind('trims'), trims: TrimsSchema }),
  shots: closed({ kind: kind('shots'), trials: Type.Array(closed(line), { maxItems: 1000 }) }),
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
