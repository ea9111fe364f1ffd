import equal from 'fast-deep-equal'
import { computed, type ComputedRef } from 'vue'

/**
 * A value made of others that stays the same object while nothing in it has changed. So what is done when it changes
 * follows from the value itself: no list beside it says what to watch.
 * @param make plain data, taken from things that are replaced and never changed in place
 */
export function steady<T>(make: () => T): ComputedRef<T> {
  return computed<T>((before?: T) => {
    const now = make()
    return before !== undefined && equal(before, now) ? before : now
  })
}
