import { useDebounceFn } from '@vueuse/core'
import { inject, shallowRef, type InjectionKey } from 'vue'
import { placeInLine, type Bath, type Incoming } from '@fogbath/core'
import { watchEach } from '../../components/watchEach'
import { useBenchStore } from '../../stores/bench'
import type { Engine } from '../../workers/engine'
import { sourceOf } from '../source'

/** The worker that is asked beside the picture. */
export const SIDE: InjectionKey<Engine> = Symbol('side')

const REST_MS = 150

/** How often values occur in the frame as it comes to a bath; a little behind what is dragged. */
export function useIncoming(bath: () => Bath) {
  const bench = useBenchStore()
  const side = inject(SIDE)!
  const incoming = shallowRef<Incoming | null>(null)
  let run = 0

  async function read(): Promise<void> {
    const { shot, recipe, frame } = bench
    const at = placeInLine(recipe, bath().id)
    if (!shot || at < 0) return
    const mine = ++run
    const got = await side
      .incoming({ source: sourceOf(shot), frame, recipe, trims: shot.trims }, recipe.baths[at]!.id)
      .catch(() => null)
    if (mine === run) incoming.value = got
  }

  const rest = useDebounceFn(() => void read(), REST_MS)
  /** The baths before this one. */
  const before = (): string => {
    const at = placeInLine(bench.recipe, bath().id)
    return JSON.stringify(bench.recipe.baths.slice(0, Math.max(0, at)))
  }
  watchEach(
    () => [before(), bath().id, bath().takes, bench.frame, bench.shot?.id, bench.shot?.trims],
    () => void rest(),
    {
      immediate: true,
    },
  )
  return incoming
}
