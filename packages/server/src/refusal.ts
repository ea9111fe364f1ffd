import { Fault, sentenceOf } from './errors'

/** What a thread answers where it refuses: errors lose what they are on the way to another thread. */
export interface Refusal {
  readonly code: Fault['code']
  readonly refused: string
}

export const refusalOf = (error: unknown): Refusal => ({
  code: error instanceof Fault ? error.code : 'media',
  refused: sentenceOf(error),
})

/** What a thread answered. @throws Fault where it refused */
export function answered<T extends object>(answer: T | Refusal): T {
  if ('refused' in answer) throw new Fault(answer.code, answer.refused)
  return answer
}
