import { ref, shallowRef, watch } from 'vue'
import { useBenchStore } from '../stores/bench'
import type { ProbeReading } from '../workers/probe'
import type { usePicture } from './usePicture'

export const MOST_PROBES = 8

export interface ProbePlace {
  readonly u: number
  readonly v: number
}

const keyOf = (shotId: number): string => `fogbath.probes.${shotId}`

/** Up to eight places of the shot that are measured before and after each bath. */
export function useProbes(picture: ReturnType<typeof usePicture>) {
  const bench = useBenchStore()
  const places = ref<ProbePlace[]>([])
  const readings = shallowRef<readonly ProbeReading[]>([])
  let run = 0

  async function read(): Promise<void> {
    const question = picture.request(false)
    const mine = ++run
    if (!question || places.value.length === 0) return void (readings.value = [])
    const got = await Promise.all(places.value.map((p) => picture.engines.side.probe(question, p.u, p.v)))
    if (mine === run) readings.value = got
  }

  const keep = (): void => {
    if (bench.shot) localStorage.setItem(keyOf(bench.shot.id), JSON.stringify(places.value))
  }
  async function add(u: number, v: number): Promise<void> {
    places.value = [...places.value, { u, v }].slice(-MOST_PROBES)
    keep()
    await read()
  }
  function clear(): void {
    places.value = []
    keep()
    void read()
  }

  watch(
    () => bench.shot?.id,
    (id) => {
      places.value = id ? (JSON.parse(localStorage.getItem(keyOf(id)) ?? '[]') as ProbePlace[]) : []
    },
    { immediate: true },
  )
  watch(
    () => [bench.recipe, bench.shot?.trims, bench.frame, bench.shot?.id],
    () => void read().catch(() => undefined),
  )
  return { places, readings, add, clear }
}
