import { computed, ref, shallowRef } from 'vue'
import { useBenchStore } from '../stores/bench'
import { beginningsOf, secondsAt, type ReelPlace, type ReelRequest } from '../workers/reel'
import { partOf } from './reel'

/**
 * All shots of the production one after the other, as their edit shows them, each with what it carries.
 * @param open brings another shot on the bench
 */
export function useReel(open: (shotId: number) => Promise<unknown>) {
  const bench = useBenchStore()
  const on = ref(false)
  /** The place that is played; null while nothing is. */
  const playing = shallowRef<ReelPlace | null>(null)

  /** Shots whose footage is here. */
  const shots = computed(() => bench.shots.filter((shot) => shot.medium.state === 'here'))
  const parts = computed(() =>
    shots.value.map((shot) => partOf(shot, shot.id === bench.shot?.id ? bench.line : bench.currentTrial(shot))),
  )
  const beginnings = computed(() => beginningsOf(parts.value))
  /** Where it is: what plays, else the frame on the bench. */
  const place = computed<ReelPlace | null>(() => {
    const index = shots.value.findIndex((shot) => shot.id === bench.shot?.id)
    return playing.value ?? (index < 0 ? null : { index, frame: bench.frame })
  })
  const seconds = computed(() => (place.value ? secondsAt(parts.value, beginnings.value, place.value) : 0))
  /** The shot that is seen while it plays. */
  const shown = computed(() => (playing.value ? (shots.value[playing.value.index] ?? null) : null))

  /** What the worker is to play. From the end it begins anew. */
  function begin(loop: boolean): ReelRequest {
    const from = place.value ?? { index: 0, frame: 0 }
    const atEnd = from.index === parts.value.length - 1 && from.frame >= parts.value[from.index]!.last
    const first = { index: 0, frame: parts.value[0]!.first }
    return { parts: parts.value, from: atEnd ? first : from, loop }
  }
  /** Opens the shot at which it has stopped. @returns whether that is another one */
  async function end(): Promise<boolean> {
    const [last, shot] = [playing.value, shown.value]
    playing.value = null
    return last !== null && shot !== null && go(shot.id, last.frame)
  }
  /** Goes to a frame of a shot. @returns whether that is another shot than the one on the bench */
  async function go(shotId: number, frame: number): Promise<boolean> {
    if (shotId === bench.shot?.id) {
      bench.frame = frame
      return false
    }
    bench.frameWanted = { shotId, frame }
    await open(shotId)
    return true
  }
  const show = (now: ReelPlace): void => void (playing.value = now)
  return { on, shots, parts, beginnings, place, seconds, shown, begin, show, end, go }
}
