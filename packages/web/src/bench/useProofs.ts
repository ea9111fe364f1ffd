import { shallowRef, watch } from 'vue'
import { api } from '../api/client'
import type { Proof } from '../api/types'
import { useBenchStore } from '../stores/bench'
import type { Engine } from '../workers/engine'
import { sourceOf } from './source'

/** Widest picture that a proof keeps. */
const PROOF_WIDTH = 1920

/** Stills kept for comparison, each with the recipe that made it. */
export function useProofs(side: () => Engine) {
  const bench = useBenchStore()
  const list = shallowRef<readonly Proof[]>([])

  watch(
    () => bench.shot?.id,
    async (id) => {
      list.value = []
      const found = id ? await api.proofs(id).catch(() => []) : []
      if (bench.shot?.id === id) list.value = found
    },
    { immediate: true },
  )

  const addressOf = (id: number): string => `/api/proofs/${id}/picture`

  async function picture(id: number): Promise<Blob> {
    const reply = await fetch(addressOf(id))
    if (!reply.ok) throw new Error('The proof’s picture could not be fetched.')
    return reply.blob()
  }

  /** Keeps the frame as it stands on the bench. */
  async function keep(): Promise<Proof> {
    const shot = bench.shot!
    const { recipe, frame } = bench
    const width = Math.min(PROOF_WIDTH, shot.medium.info.width)
    const file = await side().proof({ source: sourceOf(shot), frame, width, recipe, trims: shot.trims })
    const made = await api.createProof(shot.id, {
      ...{ name: `${bench.trial?.name ?? ''} ${recipe.name}`.trim().slice(0, 60), frame, recipe, trims: shot.trims },
      picture: await base64Of(file),
    })
    list.value = [...list.value, made]
    return made
  }

  async function rename(proof: Proof, name: string): Promise<void> {
    const saved = await api.changeProof(proof.id, { revision: proof.revision, name })
    list.value = list.value.map((p) => (p.id === saved.id ? saved : p))
  }

  async function remove(proof: Proof): Promise<void> {
    await api.deleteProof(proof)
    list.value = list.value.filter((p) => p.id !== proof.id)
  }

  return { list, addressOf, picture, keep, rename, remove }
}

const base64Of = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(String(reader.result).split(',')[1] ?? '')
    reader.onerror = () => reject(new Error('The picture could not be packed.'))
    reader.readAsDataURL(blob)
  })
