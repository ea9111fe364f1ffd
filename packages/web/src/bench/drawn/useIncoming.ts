import { inject, shallowRef, type InjectionKey } from 'vue'
import { editAt, newBath, placeInLine, type Bath } from '@fogbath/core/line'
import { tapped } from '@fogbath/core/treat'
import { type Incoming } from '@fogbath/core/readings'
import { steady } from '../../stores/steady'
import { useBenchStore } from '../../stores/bench'
import type { Engine } from '../../workers/engine'
import { useRested } from '../useRested'

/** The worker that is asked beside the picture. */
export const SIDE: InjectionKey<Engine> = Symbol('side')

const REST_MS = 150

/** How often values occur in the frame as it comes to a bath; a little behind what is dragged. */
export function useIncoming(bath: () => Bath) {
  const bench = useBenchStore()
  const side = inject(SIDE)!
  const incoming = shallowRef<Incoming | null>(null)
  let run = 0

  /** The frame through the baths before this one; of this one itself only what it takes. */
  const question = steady(() => {
    const { order } = bench
    const at = placeInLine({ baths: bench.inLine }, bath().id)
    if (!order || at < 0) return null
    const { kind, id, takes } = bench.inLine[at]!
    const own = { ...newBath(kind, id), takes }
    const upTo = editAt(tapped(order.order, at + 1), id, (part) => ({
      ...part,
      baths: [...part.baths.slice(0, -1), own],
    }))
    return { order: { ...order, order: { ...order.order, ...upTo } }, bath: id }
  })

  async function read(): Promise<void> {
    if (!question.value) return
    const mine = ++run
    const got = await side.incoming(question.value.order, question.value.bath).catch(() => null)
    if (mine === run) incoming.value = got
  }

  useRested(question, read, REST_MS)
  return incoming
}
