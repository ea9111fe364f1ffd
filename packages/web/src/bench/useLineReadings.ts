import { useDebounceFn } from '@vueuse/core'
import { shallowRef } from 'vue'
import { watchEach } from '../components/watchEach'
import type { Figure } from '@fogbath/core'
import { useBenchStore } from '../stores/bench'
import type { Engine } from '../workers/engine'
import type { BathChange, StripColours } from '../workers/protocol'
import { BEHIND } from './behind'
import { sourceOf } from './source'

const REST_MS = 120

/**
 * What the line does, told by its strips, its figures, and how far each bath moves the frame that is shown.
 * @param playing frames that pass by are not read
 */
export function useLineReadings(side: () => Engine, playing: () => boolean = () => false) {
  const bench = useBenchStore()
  const strips = shallowRef<readonly StripColours[]>([])
  const figures = shallowRef<readonly Figure[]>([])
  /** What each bath does to this frame; null until it is known. */
  const changes = shallowRef<readonly (BathChange | null)[]>([])
  let run = 0
  let frameRun = 0

  async function readLine(): Promise<void> {
    const shot = bench.shot
    if (!shot) return
    const mine = ++run
    const { recipe } = bench
    const [made, figured] = await Promise.all([
      side().strips(recipe, shot.trims, shot.encoding),
      side().figures(recipe, shot.trims),
    ])
    if (mine !== run) return
    strips.value = made
    figures.value = figured
  }

  async function readFrame(): Promise<void> {
    const shot = bench.shot
    if (!shot || playing()) return
    const mine = ++frameRun
    const { recipe, frame } = bench
    const moved = await side()
      .changes({ source: sourceOf(shot), frame, recipe, trims: shot.trims })
      .catch(() => [])
    if (mine === frameRun) changes.value = recipe.baths.map((_, i) => moved[i] ?? null)
  }

  const follow = useDebounceFn(() => void readLine(), BEHIND.after, { maxWait: BEHIND.every })
  const rest = useDebounceFn(() => void readFrame(), REST_MS)
  watchEach(
    () => [bench.recipe, bench.shot?.trims, bench.shot?.encoding],
    () => void follow(),
    { immediate: true },
  )
  watchEach(
    () => [bench.recipe, bench.shot?.id, bench.shot?.trims, bench.shot?.encoding, bench.frame, playing()],
    () => void rest(),
    { immediate: true },
  )
  return { strips, figures, changes }
}
