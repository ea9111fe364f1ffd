import equal from 'fast-deep-equal'
import { computed, onBeforeUnmount, shallowReactive, watch } from 'vue'
import { useBenchStore } from '../stores/bench'
import type { Engine } from '../workers/engine'
import { frameOrder } from '../workers/order'
import type { Wanted } from '../workers/protocol'
import { useShotSigns } from './useShotSigns'

/** Drawn once no more comes for so long, ms. */
const PAUSE_MS = 500

/**
 * The telling frame of each shot of the production through what it carries, as addresses of pictures. A shot that is as it was
 * keeps its picture. @param wantedNow whether they are looked at
 */
export function useShotPictures(side: Engine, width: number, wantedNow: () => boolean = () => true) {
  const bench = useBenchStore()
  const { trialOf } = useShotSigns()
  const pictures = shallowReactive(new Map<number, { wanted: Wanted; url: string }>())
  let ended = false

  const wanted = computed<ReadonlyMap<number, Wanted>>((before) =>
    wantedNow()
      ? new Map(
          bench.shots.map((s) => {
            const [now, old] = [{ ...frameOrder(s, trialOf(s)), width }, before?.get(s.id)]
            return [s.id, old && equal(now, old) ? old : now]
          }),
        )
      : (before ?? new Map()),
  )

  async function drawOne(id: number, of: Wanted): Promise<void> {
    if (pictures.get(id)?.wanted === of) return
    const bitmap = await side.thumbnail(of)
    const canvas = document.createElement('canvas')
    ;[canvas.width, canvas.height] = [bitmap.width, bitmap.height]
    canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
    pictures.set(id, { wanted: of, url: canvas.toDataURL('image/png') })
  }
  let run = 0
  async function drawAll(): Promise<void> {
    const mine = ++run
    for (const [id, of] of wanted.value) if (!ended && mine === run) await drawOne(id, of).catch(() => undefined)
  }
  let timer: ReturnType<typeof setTimeout> | undefined
  watch(
    wanted,
    () => {
      clearTimeout(timer)
      timer = setTimeout(() => void drawAll(), PAUSE_MS)
    },
    { immediate: true },
  )
  onBeforeUnmount(() => {
    ended = true
    clearTimeout(timer)
  })
  return { pictureOf: (id: number): string | null => pictures.get(id)?.url ?? null }
}
