import { ref, watch, type Ref, type ShallowRef } from 'vue'
import { framesASecond } from '@fogbath/core/numbers'
import { wordsOf } from '../stores/errors'
import { useBenchStore } from '../stores/bench'
import { proxy, type Engine } from '../workers/engine'
import type { Painted, PictureAnswer } from '../workers/protocol'
import type { ReelPlace } from '../workers/reel'
import { clipOf } from './reel'
import type { useReel } from './useReel'

/** No faster than so many times. */
const MOST_SPEED = 8

interface Playing {
  readonly engine: Engine
  readonly loop: Ref<boolean>
  readonly reel: ReturnType<typeof useReel>
  readonly answer: ShallowRef<PictureAnswer | null>
  readonly problem: Ref<string>
  /** Draws the frame that is shown before playing begins. */
  readonly begin: () => Promise<void>
  /** Draws the frame at which it has stopped. */
  readonly end: () => void
}

/** Plays the range of the shot on the bench, or the reel; the worker sets the pace. */
export function usePlaying({ engine, loop, reel, answer, problem, begin, end }: Playing) {
  const bench = useBenchStore()
  const playing = ref(false)
  /** How many times as fast it plays, or is about to; 0 while it stands. */
  const going = ref(0)
  const rate = ref(0)
  /** The worker has just told a frame that it has drawn itself. */
  let told = false

  const note = (measured: number, by: Painted): void => {
    if (answer.value && answer.value.by !== by) answer.value = { ...answer.value, by }
    rate.value = measured
  }
  const shown = (frame: number, measured: number, by: Painted): void => {
    told = true
    bench.frame = frame
    note(measured, by)
    queueMicrotask(() => (told = false))
  }
  const reelShown = (place: ReelPlace, measured: number, by: Painted): void => {
    reel.show(place)
    note(measured, by)
  }

  let run = 0

  /** @param speed so many times as fast; below 0 backwards */
  async function play(speed = 1): Promise<void> {
    const shot = bench.shot
    const [first, last] = bench.range
    if (!shot || (bench.chart && !bench.half)) return
    if (reel.on.value && speed === 1) return paced(() => engine.playReel(reel.begin(loop.value), proxy(reelShown)), 1)
    if (last <= first) return
    // From the end of the range it goes on at its beginning.
    if (speed > 0 && bench.frame >= last) bench.frame = first
    if (speed < 0 && bench.frame <= first) bench.frame = last
    const fps = framesASecond(shot.medium.info.fps)
    const request = () => ({ first, last, fps, speed, loop: loop.value, clip: clipOf(shot) })
    await paced(() => engine.play(request(), proxy(shown)), speed)
  }

  async function paced(work: () => Promise<void>, speed: number): Promise<void> {
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
      await work()
    } catch (error) {
      if (mine === run) problem.value = `Playing stopped: ${wordsOf(error)}`
      return
    } finally {
      if (mine === run) {
        playing.value = false
        going.value = 0
      }
    }
    // Where it has come to another shot, that one is opened, and draws itself.
    if (mine === run && !(await reel.end())) end()
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
