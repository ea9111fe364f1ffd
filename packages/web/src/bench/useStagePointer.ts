import { ref, type Ref } from 'vue'
import type { ProbeMark } from '@fogbath/core/line'

interface Held {
  readonly u: number
  readonly v: number
  readonly x: number
  readonly y: number
  readonly left: number
  readonly top: number
  moved: boolean
}

export interface PointerParts {
  readonly stage: Ref<HTMLElement | null>
  readonly canvas: Ref<HTMLCanvasElement | null>
  /** The picture is larger than the stage and can be moved about. */
  readonly zoomed: () => boolean
  readonly wiping: () => boolean
  /** A click or a dragged area measures the picture. */
  readonly measuring: () => boolean
  readonly wipeTo: (u: number, v: number) => void
  readonly measure: (u: number, v: number, reach: number | undefined) => void
}

const hold = (v: number): number => Math.min(1, Math.max(0, v))

/** What pointing at the picture does: moves the wipe's edge; moves a zoomed picture about; measures a place or an area. */
export function useStagePointer({ stage, canvas, zoomed, wiping, measuring, wipeTo, measure }: PointerParts) {
  let held: Held | undefined
  /** The area being dragged. */
  const area = ref<ProbeMark | null>(null)

  function placeOf(e: PointerEvent): [number, number] {
    const box = canvas.value!.getBoundingClientRect()
    return [hold((e.clientX - box.left) / box.width), hold((e.clientY - box.top) / box.height)]
  }

  function press(e: PointerEvent): void {
    if (e.button !== 0) return
    const [u, v] = placeOf(e)
    const { scrollLeft: left, scrollTop: top } = stage.value!
    held = { u, v, x: e.clientX, y: e.clientY, left, top, moved: false }
    canvas.value!.setPointerCapture(e.pointerId)
    if (wiping()) wipeTo(u, v)
  }

  /** In a zoomed picture an area is measured with Shift. */
  function move(e: PointerEvent): void {
    if (!held) return
    const [u, v] = placeOf(e)
    if (Math.hypot(e.clientX - held.x, e.clientY - held.y) > 4) held.moved = true
    if (wiping()) wipeTo(u, v)
    else if (zoomed() && !e.shiftKey)
      stage.value!.scrollTo(held.left - (e.clientX - held.x), held.top - (e.clientY - held.y))
    else if (measuring() && held.moved) area.value = { u: held.u, v: held.v, reach: reachTo(held, u, v) }
  }

  function reachTo(from: Held, u: number, v: number): number {
    const aspect = canvas.value!.width / canvas.value!.height
    return Math.min(0.5, Math.max(Math.abs(u - from.u), Math.abs(v - from.v) / aspect))
  }

  function release(): void {
    const panned = zoomed() && held?.moved && !area.value
    if (held && measuring() && !wiping() && !panned) measure(held.u, held.v, area.value?.reach)
    held = undefined
    area.value = null
  }

  return { area, press, move, release }
}
