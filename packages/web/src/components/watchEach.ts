import { watch, type WatchOptions } from 'vue'

/** Runs work when one of several values has become another; a plain watch on a list runs whenever the list is made anew. */
export function watchEach(values: () => readonly unknown[], work: () => void, options: WatchOptions = {}): void {
  watch(
    values,
    (now, before: readonly unknown[] | undefined) => {
      if (!before || now.some((v, i) => !Object.is(v, before[i]))) work()
    },
    options,
  )
}
