import { ref, shallowRef, type Ref, type ShallowRef } from 'vue'
import type { Page } from '@fogbath/contract'
import { wordsOf } from '../stores/errors'

export interface Pages<T> {
  /** What has been loaded, the newest first; null until the first answer. */
  readonly items: Readonly<ShallowRef<readonly T[] | null>>
  /** Whether older ones are there. */
  readonly more: Readonly<Ref<boolean>>
  readonly problem: Readonly<Ref<string>>
  /** Loads the newest again; older ones that were loaded stay. */
  readonly refresh: () => Promise<void>
  /** Loads those behind the last one. */
  readonly older: () => Promise<void>
  readonly change: (id: number, fields: Partial<T>) => void
  readonly drop: (id: number) => void
}

/** A list that the server gives page by page. */
export function usePages<T extends { id: number }>(fetch: (before?: number) => Promise<Page<T>>): Pages<T> {
  const items = shallowRef<readonly T[] | null>(null)
  const more = ref(false)
  const problem = ref('')
  const replace = (work: (all: readonly T[]) => readonly T[]): void => void (items.value = work(items.value ?? []))

  async function load(before: number | undefined, join: (page: Page<T>) => void): Promise<void> {
    try {
      join(await fetch(before))
      problem.value = ''
    } catch (error) {
      problem.value = wordsOf(error)
    }
  }

  return {
    items,
    more,
    problem,
    refresh: () =>
      load(undefined, (page) => {
        const last = page.items.at(-1)?.id ?? 0
        const known = page.more ? (items.value ?? []).filter((item) => item.id < last) : []
        // Where older ones are known, whether there are still more is known too.
        if (known.length === 0) more.value = page.more
        items.value = [...page.items, ...known]
      }),
    older: () =>
      load(items.value?.at(-1)?.id, (page) => {
        more.value = page.more
        const known = new Set(items.value?.map((item) => item.id))
        replace((all) => [...all, ...page.items.filter((item) => !known.has(item.id))])
      }),
    change: (id, fields) => replace((all) => all.map((item) => (item.id === id ? { ...item, ...fields } : item))),
    drop: (id) => replace((all) => all.filter((item) => item.id !== id)),
  }
}
