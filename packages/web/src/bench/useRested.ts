import { useDebounceFn } from '@vueuse/core'
import { inject, watch, type InjectionKey, type WatchSource } from 'vue'

/** Whether the bench plays, or is about to. */
export const MOVES: InjectionKey<() => boolean> = Symbol('moves')

/**
 * Reads what is asked about the frame on the bench once it has rested for a while. Frames that pass by in playing
 * are not read, however slowly they pass; the one at which it stops is.
 */
export function useRested(
  question: WatchSource,
  read: () => Promise<void>,
  after: number,
  moves = inject(MOVES),
): void {
  const still = (): boolean => !moves?.()
  const rest = useDebounceFn(() => void (still() && read()), after)
  watch([question, still], () => void rest(), { immediate: true })
}
