import { FogBathError } from '../errors'
import type { Kind } from './kind'
import { ORDINARY_KINDS } from './ordinary'
import { strand } from './strand'

/** Every kind of bath, in the order of the palette. */
export const KINDS: readonly Kind[] = [...ORDINARY_KINDS, strand]

const KIND_IDS = KINDS.map((k) => k.id)

export function kindById(id: string): Kind {
  const kind = KINDS.find((k) => k.id === id)
  if (kind) return kind
  throw new FogBathError('recipe', 'kind', `'${id}' is not a kind of bath; there are: ${KIND_IDS.join(', ')}.`)
}
