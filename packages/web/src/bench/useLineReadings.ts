import { lineAt, wholeLine } from '@fogbath/core/line'
import { useDebounceFn } from '@vueuse/core'
import { shallowRef, watch } from 'vue'
import { steady } from '../stores/steady'
import type { Figure } from '@fogbath/core/readings'
import { useBenchStore } from '../stores/bench'
import type { Engine } from '../workers/engine'
import type { BathChange, StripColours } from '../workers/protocol'
import { BEHIND } from './behind'
import { useRested } from './useRested'

const REST_MS = 120

/**
 * What the line does, told by its strips, its figures, and how far each bath moves the frame that is shown.
 * @param moves whether the bench plays
 */
export function useLineReadings(side: () => Engine, moves: () => boolean) {
  const bench = useBenchStore()
  const strips = shallowRef<readonly StripColours[]>([])
  const figures = shallowRef<readonly Figure[]>([])
  /** What each bath does to this frame; null until it is known. */
  const changes = shallowRef<readonly (BathChange | null)[]>([])
  /** Strips and figures go by the line as it is in the frame that is shown, not by its picture. */
  const line = steady(() => bench.order && lineAt(bench.order.order, bench.order.frame))
  let run = 0
  let frameRun = 0

  async function readLine(): Promise<void> {
    const order = line.value
    if (!order) return
    const mine = ++run
    const [made, figured] = await Promise.all([side().strips(order), side().figures(order)])
    if (mine !== run) return
    strips.value = made
    figures.value = figured
  }

  async function readFrame(): Promise<void> {
    const { order } = bench
    if (!order) return
    const mine = ++frameRun
    const moved = await side()
      .changes(order)
      .catch(() => [])
    if (mine === frameRun) changes.value = wholeLine(order.order).map((_, i) => moved[i] ?? null)
  }

  const follow = useDebounceFn(() => void readLine(), BEHIND.after, { maxWait: BEHIND.every })
  watch(line, () => void follow(), { immediate: true })
  useRested(() => bench.order, readFrame, REST_MS, moves)
  return { strips, figures, changes }
}
