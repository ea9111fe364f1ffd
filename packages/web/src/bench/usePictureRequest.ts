import { refOf } from '../api/encodings'
import { useResizeObserver, useWindowSize } from '@vueuse/core'
import { ref, type ComputedRef, type Ref } from 'vue'
import { encodingById, greyNumber } from '@fogbath/core/encodings'
import { straightView } from '@fogbath/core/film'
import { skinMasked } from '@fogbath/core/readings'
import { shownIn } from '@fogbath/core/treat'
import type { Shot } from '@fogbath/contract'
import { steady } from '../stores/steady'
import { useBenchStore } from '../stores/bench'
import { useLookStore } from '../stores/look'
import type { Compare, PictureRequest, ScopeKind, ScopeOf, Source } from '../workers/protocol'
import { frameOrder, sourceOf } from '../workers/order'

/** Widths that pictures are worked at; the smallest that fills the canvas is taken. */
const WIDTHS = [640, 960, 1280, 1920, 2560, 3840]

/** Pixels of a scope in its panel; large it takes half of the window, see ReadingsPanel.vue. */
const SMALL_SCOPE: PictureRequest['scopeSize'] = [390, 104]

export interface PictureOptions {
  readonly stage: Ref<HTMLElement | null>
  readonly compare: Ref<Compare>
  readonly scope: Ref<ScopeKind>
  readonly scopeOf: Ref<ScopeOf>
  /** The scope is shown large. */
  readonly largeScope: Ref<boolean>
  /** `fit` or a factor of the footage's own size. */
  readonly zoom: Ref<'fit' | 1 | 2 | 4>
  readonly loop: Ref<boolean>
}

/** Code value at which a grey of the scene is seen in the untreated picture. */
function codeOf(light: number, encoding: string): number {
  return greyNumber(encodingById(shownIn(refOf(encoding))), straightView(light))
}

/** What the bench asks of the picture worker now; null without a shot. */
export function usePictureRequest(options: PictureOptions): ComputedRef<PictureRequest | null> {
  const bench = useBenchStore()
  const look = useLookStore()
  const stageWidth = ref(960)
  const windowSize = useWindowSize()
  useResizeObserver(options.stage, ([entry]) => {
    if (entry) stageWidth.value = entry.contentRect.width
  })

  function source(shot: Shot): Source {
    if (!bench.chart) return sourceOf(shot)
    return bench.half ? { ...sourceOf(shot), half: bench.chart } : { type: 'chart', chart: bench.chart }
  }

  return steady(() => {
    const shot = bench.shot
    if (!shot) return null
    const own = shot.medium.info.width
    const wanted = options.zoom.value === 'fit' ? stageWidth.value * Math.min(2, window.devicePixelRatio) : own
    const { grey } = bench.marks
    const masked = bench.bath?.mask && !bench.preview ? bench.bath : null
    return {
      ...frameOrder(shot, bench.preview ?? bench.line, bench.frame),
      source: source(shot),
      width: Math.min(own, WIDTHS.find((w) => w >= wanted) ?? own),
      tap: bench.preview ? null : bench.tap,
      compare: options.compare.value,
      scope: options.scope.value,
      scopeOf: options.scopeOf.value,
      scopeSize: options.largeScope.value
        ? [Math.round(windowSize.width.value * 0.5), Math.round(windowSize.height.value * 0.56)]
        : SMALL_SCOPE,
      greyCode: grey === null ? null : codeOf(grey, shot.encoding),
      mask: bench.maskShown && masked ? { bath: masked.id, view: bench.maskView } : null,
      under: bench.underMask && masked ? masked.id : null,
      skin: bench.preview ? null : skinMasked(bench.inLine),
      by: look.painter,
    }
  })
}
