import type { Look } from '@fogbath/core/line'
import type { Shot, Trial } from '@fogbath/contract'
import { computed, shallowRef } from 'vue'

/** What was changed in another window at the same time, until it is settled. */
export type Conflict =
  | {
      readonly what: 'line'
      readonly theirs: Trial
      /** Both changes brought together, where that loses nothing. */
      readonly merged: Look | null
    }
  | { readonly what: 'shot'; readonly theirs: Shot; readonly merged: null }
export type Ask = (found: Conflict) => void
/** Take what is there, write ours over it, or both brought together. */
export type Settlement = 'theirs' | 'mine' | 'both'

/** What waits for the user's word, one after the other. */
export function conflictQueue() {
  const conflicts = shallowRef<readonly Conflict[]>([])
  const conflict = computed(() => conflicts.value[0] ?? null)
  const ask: Ask = (found) => void (conflicts.value = [...conflicts.value, found])
  /** The one whose turn it is; the next one takes its place. */
  function take(): Conflict | undefined {
    const [found, ...others] = conflicts.value
    conflicts.value = others
    return found
  }
  return { conflict, ask, take }
}
