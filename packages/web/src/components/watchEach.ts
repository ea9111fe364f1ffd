import { watch, type WatchOptions } from 'vue'

/** Runs work when one of several values has become another; a plain watch on a list runs whenever the list is made anew. */
export function watchEach(values: () => readonly unknown[], work: () => void, options: WatchOptions = {}): void {
  let before: readonly unknown[] = []
  watch(
    values,
    (now) => {
      const same = now.length === before.length && now.every((v, i) => Object.is(v, before[i]))
      before = now
      if (!same) work()
    },
    options,
  )
}
