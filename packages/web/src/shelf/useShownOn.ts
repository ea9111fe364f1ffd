import { NOTHING } from '@fogbath/core/line'
import { UNTREATED } from '@fogbath/core/treat'
import { computed, onUnmounted, ref, shallowRef, useTemplateRef, watch, type Ref } from 'vue'
import type { Shot } from '@fogbath/contract'
import { frameOrder } from '../workers/order'
import { allProductions } from '../components/allProductions'
import type { FrameOrder } from '../workers/protocol'

/** Name of the field that takes the picture file, in the template. */
const STILL_PICKER = 'stillPicker'

/** Which picture recipes of the shelf are shown on, as it comes: the frame of any shot, or a picture file of one's own. */
export function useShownOn(problem: Ref<string>) {
  const shots = shallowRef<readonly Shot[]>([])
  const chosen = ref<number | 'file' | null>(null)
  const picker = useTemplateRef<HTMLInputElement>(STILL_PICKER)
  const file = shallowRef<{ readonly name: string; readonly url: string } | null>(null)

  const choices = computed(() => [
    ...shots.value.map((s) => ({ value: s.id, label: s.name })),
    { value: 'file' as const, label: file.value ? `picture ${file.value.name}` : 'a picture file ...' },
  ])
  const shot = computed(() => shots.value.find((s) => s.id === chosen.value))
  const shown = computed((): FrameOrder | null => {
    if (chosen.value === 'file' && file.value)
      return { source: { type: 'file', url: file.value.url }, frame: 0, order: { ...UNTREATED, encoding: 'srgb' } }
    return shot.value ? frameOrder(shot.value, { recipe: NOTHING, after: [] }) : null
  })

  async function fetchShots(): Promise<void> {
    shots.value = (await allProductions()).flatMap((p) => p.shots)
    chosen.value ??= shots.value[0]?.id ?? null
  }
  let fetching: Promise<void> = Promise.resolve()
  const loadShots = (): Promise<void> => (fetching = fetchShots())
  /** What recipes are shown on, once it is known which shots there are; null where there are none or none can be had. */
  async function shownWhenKnown(): Promise<FrameOrder | null> {
    await fetching.catch(() => null)
    return shown.value
  }
  /** Choosing the entry of the file asks for one, again where there is one already. */
  function choose(value: number | 'file'): void {
    if (value === 'file') picker.value?.click()
    if (value !== 'file' || file.value) chosen.value = value
  }
  async function bring(e: Event): Promise<void> {
    const field = e.target as HTMLInputElement
    const picked = field.files?.[0]
    field.value = ''
    if (!picked) return
    try {
      ;(await createImageBitmap(picked)).close()
      file.value = { name: picked.name, url: URL.createObjectURL(picked) }
      chosen.value = 'file'
      problem.value = ''
    } catch {
      problem.value = `${picked.name} is not a picture that can be shown here.`
    }
  }
  const free = (old: { readonly url: string } | null): void => {
    if (old) URL.revokeObjectURL(old.url)
  }
  watch(file, (_, old) => free(old))
  onUnmounted(() => free(file.value))

  return { chosen, choices, shot, shown, shownWhenKnown, loadShots, choose, bring }
}
