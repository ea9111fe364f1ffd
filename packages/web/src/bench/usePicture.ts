import { useDebounceFn, useResizeObserver } from '@vueuse/core'
import { onBeforeUnmount, ref, shallowRef, watch, type Ref } from 'vue'
import type { Figure } from '@fogbath/core'
import { proxy, startEngines, transfer } from '../workers/engine'
import type { Compare, PictureAnswer, PictureRequest, ScopeKind, ScopeOf } from '../workers/protocol'
import { useBenchStore } from '../stores/bench'

/** Widths that pictures are worked at; the smallest that fills the canvas is taken. */
const WIDTHS = [640, 960, 1280, 1920, 2560, 3840]
const REST_MS = 160

export interface PictureOptions {
  readonly stage: Ref<HTMLElement | null>
  readonly compare: Ref<Compare>
  readonly scope: Ref<ScopeKind>
  readonly scopeOf: Ref<ScopeOf>
  /** `fit` or a factor of the footage's own size. */
  readonly zoom: Ref<'fit' | 1 | 2 | 4>
}

/** Ties the bench to the picture workers: asks whenever something changes, quickly first, then exactly. */
export function usePicture(options: PictureOptions) {
  const bench = useBenchStore()
  const engines = startEngines()
  const answer = shallowRef<PictureAnswer | null>(null)
  const pictureFigures = shallowRef<readonly Figure[]>([])
  const problem = ref('')
  const playing = ref(false)
  const rate = ref(0)
  const stageWidth = ref(960)
  useResizeObserver(options.stage, ([entry]) => {
    if (entry) stageWidth.value = entry.contentRect.width
  })

  function request(quick: boolean): PictureRequest | null {
    const shot = bench.shot
    if (!shot) return null
    const own = shot.medium.info.width
    const wanted = options.zoom.value === 'fit' ? stageWidth.value * Math.min(2, window.devicePixelRatio) : own
    const width = Math.min(own, WIDTHS.find((w) => w >= wanted) ?? own)
    const { encoding } = shot
    return {
      source: bench.chart
        ? { type: 'chart', chart: bench.chart, encoding }
        : { type: 'shot', mediumId: shot.mediumId, sha256: shot.medium.sha256, encoding },
      frame: bench.frame,
      width,
      recipe: bench.preview ?? bench.recipe,
      trims: shot.trims,
      tap: bench.preview ? null : bench.tap,
      compare: options.compare.value,
      quick,
      scope: options.scope.value,
      scopeOf: options.scopeOf.value,
    }
  }

  async function ask(quick: boolean): Promise<void> {
    const question = request(quick)
    if (!question) return
    try {
      const got = await engines.picture.ask(question)
      if (!got) return
      answer.value = got
      pictureFigures.value = got.figures
      problem.value = ''
    } catch (error) {
      problem.value = error instanceof Error ? error.message : String(error)
    }
  }

  const rest = useDebounceFn(() => void ask(false), REST_MS)
  watch(
    () => [
      bench.shot?.id,
      bench.shot?.encoding,
      bench.shot?.trims,
      bench.recipe,
      bench.preview,
      bench.tap,
      bench.chart,
      bench.frame,
      options.compare.value,
      options.scope.value,
      options.scopeOf.value,
      options.zoom.value,
      stageWidth.value,
    ],
    () => {
      if (playing.value && !settingFrame) void ask(false)
      else if (!playing.value) {
        void ask(true)
        void rest()
      }
    },
  )
  let settingFrame = false

  async function play(loop = true): Promise<void> {
    const shot = bench.shot
    if (!shot || bench.chart || shot.medium.info.frames < 2) return
    playing.value = true
    const [num, den] = shot.medium.info.fps.split('/').map(Number) as [number, number]
    const range = { first: shot.first, last: shot.last, fps: num / den, loop }
    await engines.picture.play(
      range,
      proxy((frame: number, measured: number) => {
        settingFrame = true
        bench.frame = frame
        rate.value = measured
        queueMicrotask(() => (settingFrame = false))
      }),
    )
    playing.value = false
    void ask(false)
  }

  const stop = (): Promise<void> => engines.picture.stop()

  /** Hands the two canvases over; they can only be given away once. */
  function attach(picture: HTMLCanvasElement, scope: HTMLCanvasElement): void {
    const [a, b] = [picture.transferControlToOffscreen(), scope.transferControlToOffscreen()]
    void engines.picture.attach(transfer(a, [a]), transfer(b, [b]))
    void ask(false)
  }

  onBeforeUnmount(engines.end)
  return { engines, answer, pictureFigures, problem, playing, rate, attach, ask, play, stop, request }
}
