import { MOST_LETTERS } from '@fogbath/core/line'
import { ref, shallowRef, watch } from 'vue'
import { api } from '../api/client'
import { ROUTES, addressOf, type Proof } from '@fogbath/contract'
import { useBenchStore } from '../stores/bench'
import { wordsOf } from '../stores/errors'
import { useShelfStore } from '../stores/shelf'
import type { Engine } from '../workers/engine'

/** Widest picture that a proof keeps. */
const PROOF_WIDTH = 1920

/** Stills kept for comparison, each with the line that made it. */
export function useProofs(side: () => Engine) {
  const bench = useBenchStore()
  const shelf = useShelfStore()
  const list = shallowRef<readonly Proof[]>([])

  /** Why they could not be loaded: that is not to have none. */
  const problem = ref('')

  async function load(): Promise<void> {
    const id = bench.shot?.id
    list.value = []
    problem.value = ''
    if (id === undefined) return
    try {
      const found = await api.proofs(id)
      if (bench.shot?.id === id) list.value = found
    } catch (error) {
      if (bench.shot?.id === id) problem.value = wordsOf(error)
    }
  }
  watch(() => bench.shot?.id, load, { immediate: true })

  const pictureOf = (id: number): string => addressOf(ROUTES.proofPicture, { params: { id } })

  async function picture(id: number): Promise<Blob> {
    const reply = await fetch(pictureOf(id))
    if (!reply.ok) throw new Error('The proof’s picture could not be fetched.')
    return reply.blob()
  }

  /** Keeps the frame as it stands on the bench. */
  async function keep(): Promise<Proof> {
    const shot = bench.shot!
    const of = bench.order!
    const width = Math.min(PROOF_WIDTH, shot.medium.info.width)
    const file = await side().proof({ ...of, width })
    const { preparation, recipe, after } = of.order
    const made = await api.createProof(shot.id, {
      name: `${bench.trial?.name ?? ''} ${shelf.titleOf(recipe)}`.trim().slice(0, MOST_LETTERS.proof),
      frame: of.frame,
      preparation,
      recipe,
      after,
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

  return { list, problem, load, pictureOf, picture, keep, rename, remove }
}

const base64Of = (blob: Blob): Promise<string> =>
  new Promise((resolve, reject) => {
    const reader = new FileReader()
    reader.onload = () => resolve(String(reader.result).split(',')[1] ?? '')
    reader.onerror = () => reject(new Error('The picture could not be packed.'))
    reader.readAsDataURL(blob)
  })
