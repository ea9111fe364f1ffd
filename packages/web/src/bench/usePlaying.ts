import { ref, watch, type Ref, type ShallowRef } from 'vue'
import { readsMatrix } from '@fogbath/core/cpu'
import { framesASecond } from '@fogbath/core/numbers'
import type { Shot } from '@fogbath/contract'
import { wordsOf } from '../stores/errors'
import { useBenchStore } from '../stores/bench'
import { proxy, type Engine } from '../workers/engine'
import type { Painted, PictureAnswer, PlayRequest } from '../workers/protocol'

/** The clip of a shot, where the page can come to the same numbers as the server. */
function clipOf({ mediumId, reading, medium: { info } }: Shot): PlayRequest['clip'] {
  const { kind, width, height, frames, bits, matrix, range, chromaAt } = info
  const usual = range === 'limited' && (chromaAt === 'left' || chromaAt === 'unspecified')
  // What is done to the frames themselves is the server's work.
  const asStored = info.varies === undefined && !reading.fields && !info.stored && !reading.bits
  const even = width % 2 === 0 && height % 2 === 0
  if (kind !== 'clip' || !usual || !asStored || !even || !readsMatrix(matrix)) return null
  return { mediumId, width, height, frames, bits, matrix }
}

/** No faster than so many times. */
const MOST_SPEED = 8

interface Playing {
  readonly engine: Engine
  readonly loop: Ref<boolean>
  readonly answer: ShallowRef<PictureAnswer | null>
  readonly problem: Ref<string>
  /** Draws the frame that is shown before playing begins. */
  readonly begin: () => Promise<void>
  /** Draws the frame at which it has stopped. */
  readonly end: () => void
}

/** Plays the range of the shot on the bench; the worker sets the pace. */
export function usePlaying({ engine, loop, answer, problem, begin, end }: Playing) {
  const bench = useBenchStore()
  const playing = ref(false)
  /** How many times as fast it plays, or is about to; 0 while it stands. */
  const going = ref(0)
  const rate = ref(0)
  /** The worker has just told a frame that it has drawn itself. */
  let told = false

  const shown = (frame: number, measured: number, by: Painted): void => {
    if (answer.value && answer.value.by !== by) answer.value = { ...answer.value, by }
    told = true
    bench.frame = frame
    rate.value = measured
    queueMicrotask(() => (told = false))
  }

  let run = 0

  /** @param speed so many times as fast; below 0 backwards */
  async function play(speed = 1): Promise<void> {
    const shot = bench.shot
    const [first, last] = bench.range
    if (!shot || (bench.chart && !bench.half) || last <= first) return
    // From the end of the range it goes on at its beginning.
    if (speed > 0 && bench.frame >= last) bench.frame = first
    if (speed < 0 && bench.frame <= first) bench.frame = last
    const mine = ++run
    // At once: keys that follow before the first frame count on from here.
    going.value = speed
    await begin().catch((error: unknown) => {
      going.value = 0
      throw error
    })
    // Another speed was asked for meanwhile.
    if (mine !== run) return
    if (going.value !== speed) {
      // Or to stop: what played before it has ended without telling.
      playing.value = false
      return end()
    }
    playing.value = true
    try {
      const fps = framesASecond(shot.medium.info.fps)
      await engine.play({ first, last, fps, speed, loop: loop.value, clip: clipOf(shot) }, proxy(shown))
    } catch (error) {
      if (mine === run) problem.value = `Playing stopped: ${wordsOf(error)}`
      return
    } finally {
      if (mine === run) {
        playing.value = false
        going.value = 0
      }
    }
    if (mine === run) end()
  }

  function stop(): Promise<void> {
    going.value = 0
    return engine.stop()
  }
  /** Each time twice as fast in a direction; from standing or the other direction at the clip's own rate. */
  const shuttle = (direction: 1 | -1): Promise<void> =>
    play(direction * (Math.sign(going.value) === direction ? Math.min(MOST_SPEED, 2 * Math.abs(going.value)) : 1))
  watch(
    () => bench.shot?.id,
    () => void stop(),
  )
  return { playing, going, rate, play, shuttle, stop, isTold: () => playing.value && told }
}
