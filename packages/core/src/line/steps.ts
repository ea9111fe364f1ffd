import Type, { type TSchema } from 'typebox'
import { RecipeSchema, type Recipe } from './recipe'
import { TrimsSchema, type Trims } from './trims'

/** Most steps of undo that a shot keeps. */
export const MOST_STEPS = 100

/** One thing that was changed on a shot, as it was before: a trial's line, the trims, or lines put on other shots. */
export type Step =
  | { readonly kind: 'recipe'; readonly trialId: number; readonly recipe: Recipe }
  | { readonly kind: 'trims'; readonly trims: Trims }
  | { readonly kind: 'shots'; readonly trials: readonly { readonly trialId: number; readonly recipe: Recipe }[] }

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

const count = Type.Integer({ minimum: 0, maximum: MOST_STEPS })
const stack = { keep: count, add: Type.Array(Type.Unsafe<Step>(StepSchema), { maxItems: MOST_STEPS }) }

/**
 * What has changed of a shot's undo and redo since they were last written. Both are stacks, oldest step first: `drop`
 * of them go at the bottom, the next `keep` stay, `add` comes on top. `revision` is the number of writes so far.
 */
export const HistoryChangeSchema = closed({
  revision: Type.Integer({ minimum: 0 }),
  past: closed({ drop: count, ...stack }),
  future: closed(stack),
})
export interface StackChange {
  readonly drop: number
  readonly keep: number
  readonly add: readonly Step[]
}
export interface HistoryChange {
  readonly revision: number
  readonly past: StackChange
  readonly future: Omit<StackChange, 'drop'>
}
