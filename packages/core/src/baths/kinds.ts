import { FogBathError } from '../errors'
import { aged } from './aged'
import { colourPrint } from './colour-print'
import { falseColour } from './false-colour'
import { instant } from './instant'
import type { Kind } from './kind'
import { mono } from './mono'
import { threeStrip } from './three-strip'
import { twoStrip } from './two-strip'

/** Every kind of bath, in the order of the palette. */
export const KINDS: readonly Kind[] = [colourPrint, twoStrip, threeStrip, mono, instant, falseColour, aged]

const KIND_IDS = KINDS.map((k) => k.id)

export function kindById(id: string): Kind {
  const kind = KINDS.find((k) => k.id === id)
  if (kind) return kind
  throw new FogBathError('recipe', 'kind', `'${id}' is not a kind of bath; there are: ${KIND_IDS.join(', ')}.`)
}
