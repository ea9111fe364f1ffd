import { computed, ref, watch } from 'vue'
import { useBenchStore } from '../stores/bench'
import type { Engine } from '../workers/engine'
import type { Against, Compare } from '../workers/protocol'
import { frameOrder, inTime } from '../workers/order'
import type { useProofs } from './useProofs'

export type CompareMode = 'off' | 'wipe' | 'wipe-level' | 'pair'

/** What the picture is compared with, and how. */
export function useCompare(picture: () => Engine, proofs: ReturnType<typeof useProofs>) {
  const bench = useBenchStore()
  const mode = ref<CompareMode>('off')
  const against = ref('footage')
  const held = ref(false)
  const wipeAt = ref(0.5)
  /** Still pictures that the worker has, by key; a new one makes the comparison new. */
  const stills = ref<readonly string[]>([])

  const others = computed(() => [
    { value: 'footage', label: 'footage' },
    ...(bench.shot?.trials ?? [])
      .filter((t) => t.id !== bench.trial?.id)
      .map((t) => ({ value: `trial:${t.id}`, label: `trial ${t.name}` })),
    ...proofs.list.value.map((p) => ({ value: `proof:${p.id}`, label: `proof ${p.name}` })),
    ...bench.shots
      .filter((s) => s.id !== bench.shot?.id)
      .map((s) => ({ value: `shot:${s.id}`, label: `shot ${s.name}` })),
    { value: 'reference', label: 'reference picture …' },
  ])

  const other = computed<Against>(() => {
    const [type, id] = against.value.split(':')
    if (type === 'reference' || type === 'proof')
      return { type: 'still', key: stills.value.includes(against.value) ? against.value : '' }
    const trial = bench.shot?.trials.find((t) => type === 'trial' && t.id === Number(id))
    if (trial)
      return { type: 'line', line: inTime(bench.shot!, { ...bench.line, recipe: trial.recipe, after: trial.after }) }
    const shot = bench.shots.find((s) => type === 'shot' && s.id === Number(id))
    return shot ? { type: 'shot', ...frameOrder(shot, bench.currentTrial(shot)) } : { type: 'footage' }
  })

  const compare = computed<Compare>(() => {
    if (held.value) return { mode: 'footage' }
    if (mode.value === 'off') return { mode: 'off' }
    if (mode.value === 'pair') return { mode: 'pair', against: other.value }
    return { mode: 'wipe', at: wipeAt.value, upright: mode.value === 'wipe', against: other.value }
  })

  /** Before is left (or above), after is right. */
  const sides = computed(() =>
    compare.value.mode === 'wipe' || compare.value.mode === 'pair'
      ? {
          before: others.value.find((o) => o.value === against.value)?.label ?? 'footage',
          after: `trial ${bench.trial?.name ?? ''}`,
        }
      : null,
  )

  async function keep(key: string, blob: Blob): Promise<void> {
    await picture().keepStill(key, await createImageBitmap(blob))
    stills.value = [...stills.value.filter((k) => k !== key), key]
  }

  watch(against, async (now) => {
    if (!now.startsWith('proof:') || stills.value.includes(now)) return
    await keep(now, await proofs.picture(Number(now.slice(6))))
  })
  watch(
    () => bench.shot?.id,
    () => (against.value = 'footage'),
  )

  const wipes = (m: CompareMode): boolean => m === 'wipe' || m === 'wipe-level'
  const toggle = (wanted: 'wipe' | 'pair'): void =>
    void (mode.value = mode.value === wanted || (wanted === 'wipe' && wipes(mode.value)) ? 'off' : wanted)
  return { mode, against, held, wipeAt, others, sides, compare, keep, toggle }
}
