import {
  ENCODINGS,
  encodingOf,
  type Encoding,
  type EncodingDefinition,
  type EncodingRef,
} from '@fogbath/core/encodings'
import type { OwnEncoding } from '@fogbath/contract'
import { computed, shallowReactive } from 'vue'
import { api } from './client'

/** Encodings of one's own as the server has them, by id: a shot names one by its id, and whoever draws it needs what it does. */
const known = shallowReactive(new Map<string, OwnEncoding>())
export const ownEncodings = computed(() => [...known.values()])

/** What a row's encoding means: a shipped one by its id, or one's own whole. */
export const refOf = (id: string): EncodingRef => known.get(id)?.definition ?? id
export const encodingOfRow = (id: string): Encoding => encodingOf(refOf(id))

/** Encodings that footage can be taken for: one's own first. */
export const encodingChoices = computed(() => [
  ...ownEncodings.value.map(({ definition: e }) => ({ value: e.id, label: e.name })),
  ...ENCODINGS.map((e) => ({ value: e.id, label: e.label })),
])

export async function loadEncodings(): Promise<void> {
  const list = await api.encodings()
  known.clear()
  for (const own of list) known.set(own.definition.id, own)
}

let first: Promise<void> | undefined
/** Asked once, before anything is drawn; where it fails, it is asked again at the next view. */
export function encodingsThere(): Promise<void> {
  first ??= loadEncodings().catch(() => {
    first = undefined
  })
  return first
}

export async function keepEncoding({ name, refers, from, ops }: Omit<EncodingDefinition, 'id'>): Promise<void> {
  const own = await api.keepEncoding({ name, refers, from, ops })
  known.set(own.definition.id, own)
}
export async function removeEncoding(id: string): Promise<void> {
  await api.deleteEncoding(id)
  known.delete(id)
}
