import { FogBathError } from '../../errors'
import type { Node } from './xml'

export const wrong = (text: string): FogBathError => new FogBathError('format', 'clf', text)

/** The number that full white has at a depth (section 3.3). */
export function fullOf(depth: string | undefined, of: string): number {
  const full: Record<string, number> = { '8i': 255, '10i': 1023, '12i': 4095, '16i': 65535, '16f': 1, '32f': 1 }
  const found = full[depth ?? '32f']
  if (!found) throw wrong(`${of} has the bit depth '${depth}'; it must be one of ${Object.keys(full).join(', ')}.`)
  return found
}

export function numbersIn(text: string, of: string): number[] {
  const numbers = text === '' ? [] : text.split(/\s+/).map(Number)
  const bad = numbers.findIndex((v) => !Number.isFinite(v))
  if (bad >= 0) throw wrong(`${of} holds '${text.split(/\s+/)[bad]}', which is no finite number.`)
  return numbers
}

/** A process node, and the number that full white has on its way in and out. */
export interface Given {
  readonly node: Node
  readonly name: string
  readonly full: { readonly in: number; readonly out: number }
}
