import { refDebounced } from '@vueuse/core'
import { computed } from 'vue'
import { kindById, type Drawing } from '@fogbath/core/baths'
import { useBenchStore } from '../stores/bench'
import { BEHIND } from './behind'

/** What the chosen bath draws of itself, a little behind what is set, and what dragging its points changes. */
export function useBathViews() {
  const bench = useBenchStore()
  const settled = refDebounced(
    computed(() => bench.bath),
    BEHIND.after,
    { maxWait: BEHIND.every },
  )
  /** The bath as it is drawn; another one at once. */
  const drawn = computed(() => {
    const [late, now] = [settled.value, bench.bath]
    return late && late.id === now?.id && late.kind === now.kind ? late : now
  })
  const views = computed(() =>
    drawn.value
      ? kindById(drawn.value.kind)
          .views(drawn.value.settings)
          .filter((v): v is Drawing => v.view !== 'wedge')
      : [],
  )

  function drag(moves: { setting: string; by: number }[]): void {
    const bath = bench.bath!
    const { properties } = kindById(bath.kind).schema
    const changes = moves.map(({ setting, by }) => {
      const { minimum, maximum } = (properties as Record<string, { minimum: number; maximum: number }>)[setting]!
      return [setting, Math.min(maximum, Math.max(minimum, Number(bath.settings[setting]) + by))] as const
    })
    bench.setSettings(bath.id, Object.fromEntries(changes))
  }
  return { views, drag }
}
