import { computed, ref, type Ref } from 'vue'
import { kindById, type Hill, type WedgeLimit, type WedgeView } from '@fogbath/core/baths'
import type { Bath } from '@fogbath/core/line'
import { useBenchStore } from '../../stores/bench'
import { HUE_PER_PIXEL, PER_PIXEL, hueTowards, peakOf, type Ground } from './wedge'

/** What the pointer has hold of. Its way, decided by its first pixels, says which of two settings goes with it. */
type Held = { x: number; y: number; way: 'across' | 'up' | null } & (
  | { readonly hill: Hill; amount: number; hue: number }
  | { readonly limit: WedgeLimit; place: number; width: number }
  | { readonly arc: Hill; readonly centre: { readonly x: number; readonly y: number } }
)
/** Share of the wedge by which a limit is widened per pixel upwards. */
const WIDER = 0.004
/** So many pixels decide which way is meant. */
const DECIDED = 4
/** Share of the pointer's way that counts while Shift is held, as with sliders. */
const SLOW = 0.1

/** Hills and limits of a toned wedge, moved by pointer or keys; numbers are kept within what the settings allow. */
export function useWedge(bath: () => Bath, ground: Ref<Ground>) {
  const bench = useBenchStore()
  const view = computed(() => {
    const { kind, settings } = bath()
    return kindById(kind)
      .views(settings)
      .find((v): v is WedgeView => v.view === 'wedge')!
  })
  const held = ref<Held | null>(null)

  const valueOf = (setting: string): number => Number(bath().settings[setting])
  function rangeOf(setting: string): { minimum: number; maximum: number } {
    const { properties } = kindById(bath().kind).schema
    return (properties as Record<string, { minimum: number; maximum: number }>)[setting]!
  }
  function set(setting: string, value: number, bounds?: readonly [number, number]): void {
    const { minimum, maximum } = rangeOf(setting)
    const [least, most] = bounds ?? [minimum, maximum]
    bench.setSettings(bath().id, { [setting]: Math.round(Math.min(most, Math.max(least, value))) })
  }
  const setHue = (hill: Hill, hue: number): void => set(hill.hue, ((hue % 360) + 360) % 360)

  function hold(e: PointerEvent, what: Hill | WedgeLimit): void {
    if (e.button !== 0) return
    ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
    const from = { x: e.clientX, y: e.clientY, way: null }
    held.value =
      'shape' in what
        ? { ...from, hill: what, amount: valueOf(what.amount), hue: valueOf(what.hue) }
        : { ...from, limit: what, place: valueOf(what.place.setting), width: valueOf(what.width.setting) }
  }
  function holdArc(e: PointerEvent, hill: Hill, centre: { readonly x: number; readonly y: number }): void {
    if (e.button !== 0) return
    ;(e.currentTarget as Element).setPointerCapture(e.pointerId)
    held.value = { x: e.clientX, y: e.clientY, way: 'across', arc: hill, centre }
    setHue(hill, hueTowards(e.clientX - centre.x, e.clientY - centre.y))
  }

  function drag(e: PointerEvent): void {
    const now = held.value
    if (!now) return
    if ('arc' in now) return setHue(now.arc, hueTowards(e.clientX - now.centre.x, e.clientY - now.centre.y))
    const [dx, dy] = [e.clientX - now.x, now.y - e.clientY]
    if (!now.way && Math.hypot(dx, dy) < DECIDED) return
    now.way ??= Math.abs(dx) > Math.abs(dy) ? 'across' : 'up'
    ;[now.x, now.y] = [e.clientX, e.clientY]
    const by = (now.way === 'across' ? dx : dy) * (e.shiftKey ? SLOW : 1)
    if ('hill' in now) dragHill(now, by)
    else dragLimit(now, by)
  }
  function dragHill(now: Extract<Held, { hill: Hill }>, by: number): void {
    if (now.way === 'across') setHue(now.hill, (now.hue += by * HUE_PER_PIXEL))
    else set(now.hill.amount, (now.amount += (100 * by * PER_PIXEL) / (now.hill.whole ? 1 : peakOf(now.hill).height)))
  }
  function dragLimit(now: Extract<Held, { limit: WedgeLimit }>, by: number): void {
    const { place, width } = now.limit
    if (now.way === 'up') set(width.setting, (now.width += by * WIDER * width.perUnit))
    else set(place.setting, (now.place += (by / ground.value.width) * place.perUnit), place.within)
  }
  const release = (): void => void (held.value = null)

  const STEPS: Partial<Record<string, number>> = { ArrowUp: 1, ArrowRight: 1, ArrowDown: -1, ArrowLeft: -1 }
  /** Arrows for the amount, with Alt for the hue; Shift for single steps. */
  function hillKey(e: KeyboardEvent, hill: Hill): void {
    const way = STEPS[e.key]
    if (!way) return
    e.preventDefault()
    e.stopPropagation()
    const by = way * (e.shiftKey ? 1 : 5)
    if (e.altKey) setHue(hill, valueOf(hill.hue) + by)
    else set(hill.amount, valueOf(hill.amount) + by)
  }
  /** Left and right for the place, up and down for the width. */
  function limitKey(e: KeyboardEvent, { place, width }: WedgeLimit): void {
    const way = STEPS[e.key]
    if (!way) return
    e.preventDefault()
    e.stopPropagation()
    const by = way * (e.shiftKey ? 1 : 2)
    if (e.key === 'ArrowUp' || e.key === 'ArrowDown') set(width.setting, valueOf(width.setting) + by)
    else set(place.setting, valueOf(place.setting) + by * Math.sign(place.perUnit), place.within)
  }
  return { view, held, valueOf, rangeOf, set, hold, holdArc, drag, release, hillKey, limitKey }
}
