import { useResizeObserver } from '@vueuse/core'
import { onScopeDispose, ref, shallowRef, watch, type Ref } from 'vue'
import { watchEach } from '../components/watchEach'
import { displayCode, encodingById, readsMatrix, straightView, type Figure } from '@fogbath/core'
import type { Shot } from '../api/types'
import { proxy, startEngines, transfer } from '../workers/engine'
import type {
  Compare,
  Painted,
  Painter,
  PictureAnswer,
  PictureRequest,
  PlayRequest,
  ScopeKind,
  ScopeOf,
  Source,
} from '../workers/protocol'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import { sourceOf } from './source'
import { wordsOf } from '../components/complain'

/** Widths that pictures are worked at; the smallest that fills the canvas is taken. */
const WIDTHS = [640, 960, 1280, 1920, 2560, 3840]
/** A picture that takes longer than this is said to be on its way. */
const LATE_MS = 150
/** A picture that has not changed for so long rests. */
const REST_MS = 150

/** The clip of a shot, where the page can come to the same numbers as the server. */
function clipOf({ mediumId, medium: { info } }: Shot): PlayRequest['clip'] {
  const { kind, width, height, frames, bits, matrix, range, chromaAt } = info
  const usual = range === 'limited' && (chromaAt === 'left' || chromaAt === 'unspecified')
  const even = width % 2 === 0 && height % 2 === 0
  if (kind !== 'clip' || !usual || !even || !readsMatrix(matrix)) return null
  return { mediumId, width, height, frames, bits, matrix }
}

export interface PictureOptions {
  readonly stage: Ref<HTMLElement | null>
  readonly compare: Ref<Compare>
  readonly scope: Ref<ScopeKind>
  readonly scopeOf: Ref<ScopeOf>
  /** `fit` or a factor of the footage's own size. */
  readonly zoom: Ref<'fit' | 1 | 2 | 4>
  readonly loop: Ref<boolean>
}

/** Code value at which a grey of the scene is seen in the untreated picture. */
function codeOf(light: number, encoding: string): number {
  const { refers, transfer: curve } = encodingById(encoding)
  return refers === 'display' ? curve.encode(straightView(light)) : displayCode(straightView(light))
}

/** Ties the bench to the picture workers: asks whenever something changes. */
export function usePicture(options: PictureOptions, engines: ReturnType<typeof startEngines>) {
  const bench = useBenchStore()
  const look = useLookStore()
  const answer = shallowRef<PictureAnswer | null>(null)
  const pictureFigures = shallowRef<readonly Figure[]>([])
  const problem = ref('')
  const playing = ref(false)
  const rate = ref(0)
  /** The newest question has been without an answer for so long that what is shown must be marked as old. */
  const late = ref(false)
  const stageWidth = ref(960)
  useResizeObserver(options.stage, ([entry]) => {
    if (entry) stageWidth.value = entry.contentRect.width
  })

  function source(shot: Shot): Source {
    if (!bench.chart) return sourceOf(shot)
    if (bench.half) return { ...sourceOf(shot), half: bench.chart }
    return { type: 'chart', chart: bench.chart, encoding: shot.encoding }
  }

  function request(by: Painter = 'processor'): PictureRequest | null {
    const shot = bench.shot
    if (!shot) return null
    const own = shot.medium.info.width
    const wanted = options.zoom.value === 'fit' ? stageWidth.value * Math.min(2, window.devicePixelRatio) : own
    const { grey } = bench.marks
    const masked = bench.bath?.mask && !bench.preview ? bench.bath : null
    return {
      source: source(shot),
      frame: bench.frame,
      width: Math.min(own, WIDTHS.find((w) => w >= wanted) ?? own),
      recipe: bench.preview ?? bench.recipe,
      trims: shot.trims,
      tap: bench.preview ? null : bench.tap,
      compare: options.compare.value,
      scope: options.scope.value,
      scopeOf: options.scopeOf.value,
      greyCode: grey === null ? null : codeOf(grey, shot.encoding),
      mask: bench.maskShown && masked ? masked.id : null,
      under: bench.underMask && masked ? masked.id : null,
      by,
    }
  }

  let asked = 0
  let resting: ReturnType<typeof setTimeout> | undefined
  /** @param by who may draw; what graphics has drawn is drawn again by the processor once it rests */
  async function ask(by = look.painter): Promise<void> {
    clearTimeout(resting)
    const question = request(by)
    if (!question) return
    const mine = ++asked
    const timer = setTimeout(() => (late.value = mine === asked), LATE_MS)
    try {
      const got = await engines.picture.ask(question)
      if (!got) return
      answer.value = got
      problem.value = ''
      if (got.by === 'graphics' && mine === asked) resting = setTimeout(() => void ask('processor'), REST_MS)
    } catch (error) {
      problem.value = wordsOf(error)
    } finally {
      clearTimeout(timer)
      if (mine === asked) late.value = false
    }
  }

  let settingFrame = false
  watchEach(
    () => [
      ...[bench.shot?.id, bench.shot?.encoding, bench.shot?.trims, bench.marks.grey, bench.recipe, bench.preview],
      ...[bench.tap, bench.chart, bench.half, bench.frame, stageWidth.value],
      ...[bench.maskShown, bench.underMask, bench.bath?.mask ? bench.chosen : null],
      ...[options.compare.value, options.scope.value, options.scopeOf.value, options.zoom.value, look.painter],
    ],
    () => {
      if (!playing.value || !settingFrame) void ask()
    },
  )
  watch(
    () => bench.shot?.id,
    () => void stop(),
  )

  async function play(): Promise<void> {
    const shot = bench.shot
    const [first, last] = bench.range
    if (!shot || (bench.chart && !bench.half) || last <= first) return
    // From the end of the range it goes on at its beginning.
    if (bench.frame >= last) bench.frame = first
    await ask()
    clearTimeout(resting)
    playing.value = true
    const [num, den] = shot.medium.info.fps.split('/').map(Number) as [number, number]
    const shown = proxy((frame: number, measured: number, by: Painted) => {
      if (answer.value && answer.value.by !== by) answer.value = { ...answer.value, by }
      settingFrame = true
      bench.frame = frame
      rate.value = measured
      queueMicrotask(() => (settingFrame = false))
    })
    try {
      const request = { first, last, fps: num / den, loop: options.loop.value, clip: clipOf(shot) }
      await engines.picture.play(request, shown)
    } catch (error) {
      problem.value = `Playing stopped: ${wordsOf(error)}`
      return
    } finally {
      playing.value = false
    }
    void ask('processor')
  }

  const stop = (): Promise<void> => engines.picture.stop()

  /** Hands the two canvases over; they can only be given away once. */
  function attach(picture: HTMLCanvasElement, scope: HTMLCanvasElement): void {
    const [a, b] = [picture.transferControlToOffscreen(), scope.transferControlToOffscreen()]
    const tell = proxy((figures: readonly Figure[]) => void (pictureFigures.value = figures))
    const { port1, port2 } = new MessageChannel()
    void engines.picture.attach(transfer(a, [a]), transfer(port1, [port1]))
    void engines.side.attachReadings(transfer(b, [b]), transfer(port2, [port2]), tell)
    void ask()
  }

  onScopeDispose(engines.end)
  return { engines, answer, pictureFigures, problem, playing, rate, late, attach, ask, play, stop, request }
}
