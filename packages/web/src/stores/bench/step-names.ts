import { NOTHING, describeChanges, type Bath, type Recipe, type Step } from '@fogbath/core/line'
import type { History } from './history'

type PartsStep = Extract<Step, { kind: 'parts' }>
type Part = 'preparation' | 'recipe' | 'after'
const PARTS: readonly Part[] = ['preparation', 'recipe', 'after']

const lineOf = (part: readonly Bath[] | Recipe): Recipe => ('baths' in part ? part : { ...NOTHING, baths: part })

/** What changed from one state of the same parts to another, in words; the first change, and how many more there were. */
function words(before: PartsStep, after: PartsStep): string {
  const all = PARTS.flatMap((part) => {
    const [was, is] = [before[part], after[part]]
    return was && is ? describeChanges(lineOf(was), lineOf(is)) : []
  })
  const [first = 'no change', ...more] = all
  return more.length > 0 ? `${first}, and ${more.length} more` : first
}

const nameOf = (before: Step, after: Step): string =>
  before.kind === 'parts' && after.kind === 'parts'
    ? words(before, after)
    : `${before.kind === 'shots' ? before.trials.length : 0} shots changed together`

/** States of parts that are known to have stood at some time, by trial; the preparation is that of all trials. */
class States {
  private readonly known = new Map<string, unknown>()
  constructor(private readonly now: (like: Step) => Step) {}

  private keyOf = ({ trialId }: PartsStep, part: Part): string => (part === 'preparation' ? part : `${trialId}/${part}`)
  /** The same parts as in a step, as they stood then. */
  at(step: Step): Step {
    const now = this.now(step)
    if (step.kind !== 'parts' || now.kind !== 'parts') return now
    const then = PARTS.flatMap((part) =>
      this.known.has(this.keyOf(step, part)) ? [[part, this.known.get(this.keyOf(step, part))]] : [],
    )
    return { ...now, ...Object.fromEntries(then) }
  }
  note(step: Step): void {
    if (step.kind === 'parts')
      for (const part of PARTS) if (step[part]) this.known.set(this.keyOf(step, part), step[part])
  }
}

/**
 * Names of what undo and redo bring back, the next one first.
 * @param now the present state of what a step holds
 */
export function stepNames({ past, future }: History, now: (like: Step) => Step): { past: string[]; future: string[] } {
  const [back, on] = [new States(now), new States(now)]
  return {
    past: [...past].reverse().map(({ step }) => {
      const name = nameOf(step, back.at(step))
      back.note(step)
      return name
    }),
    future: future.map(({ step }) => {
      const name = nameOf(on.at(step), step)
      on.note(step)
      return name
    }),
  }
}
