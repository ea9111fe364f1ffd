import type { MatchProgress, MatchRequest, MatchResult } from '@fogbath/core/match'
import { onUnmounted, ref, shallowRef } from 'vue'
import type { Shot } from '@fogbath/contract'
import { wordsOf } from '../stores/errors'
import { useBenchStore } from '../stores/bench'
import { proxy, startEngines } from '../workers/engine'
import { frameOrder, through } from '../workers/order'
import type { useProofs } from './useProofs'

/** What a process is fitted to. */
export type Reference =
  | { readonly type: 'file'; readonly file: File }
  | { readonly type: 'proof'; readonly id: number }
  | { readonly type: 'shot'; readonly shot: Shot }

/** Without what makes it change the page: workers take plain things alone. */
export const plainly = <T>(value: T): T => JSON.parse(JSON.stringify(value)) as T

type Engines = ReturnType<typeof startEngines>

/** The fit of a process to a reference, in a worker of its own. */
export function useFit(proofs: ReturnType<typeof useProofs>) {
  const bench = useBenchStore()
  const progress = shallowRef<MatchProgress | null>(null)
  const result = shallowRef<MatchResult | null>(null)
  const problem = ref('')
  const busy = ref(false)
  /** Set to stop a fit: it ends with the best that it has found so far. */
  const stopping = ref(false)
  /** Addresses of the pictures before, fitted and of the reference. */
  const pictures = ref<{ name: string; url: string }[]>([])
  let engines: Engines | undefined

  function end(): void {
    engines?.end()
    engines = undefined
    busy.value = stopping.value = false
    progress.value = null
  }
  function forget(): void {
    end()
    result.value = null
    problem.value = ''
    pictures.value.splice(0).forEach(({ url }) => URL.revokeObjectURL(url))
  }
  onUnmounted(forget)

  /** The reference as a picture file. */
  async function fileOf(reference: Reference, engine: Engines['picture']): Promise<Blob> {
    if (reference.type === 'file') return reference.file
    if (reference.type === 'proof') return proofs.picture(reference.id)
    const { shot } = reference
    return engine.proof(plainly({ ...frameOrder(shot, bench.currentTrial(shot)), width: 640 }))
  }

  async function fit(
    references: readonly Reference[],
    options: Pick<MatchRequest, 'sameFrame' | 'kinds' | 'settings'>,
  ): Promise<void> {
    forget()
    busy.value = true
    const own = (engines = startEngines(1))
    try {
      const at = plainly(bench.order!)
      const files: Blob[] = []
      for (const reference of references) files.push(await fileOf(reference, own.picture))
      const tell = proxy((p: MatchProgress) => {
        progress.value = p
        return Promise.resolve(!stopping.value)
      })
      const found = await own.picture.match(at, files, plainly(options), tell)
      const draw = (recipe: typeof found.recipe) => own.picture.proof(through(at, recipe, 320))
      const shown = [
        ['before', await draw({ ...found.recipe, baths: [] })],
        ['fitted', await draw(found.recipe)],
        ...files.map((file) => ['reference', file] as const),
      ] as const
      if (engines !== own) return
      pictures.value = shown.map(([name, blob]) => ({ name, url: URL.createObjectURL(blob) }))
      result.value = found
    } catch (error) {
      if (engines === own) problem.value = wordsOf(error)
    } finally {
      if (engines === own) end()
    }
  }

  return { progress, result, problem, busy, stopping, pictures, fit, forget }
}
