import { FogBathError } from '@fogbath/core/errors'
import { Fault, type FaultCode } from '../errors'

/** How the program ends; the README and the manual have them as well. */
export const EXIT = {
  done: 0,
  wrongUse: 2,
  badInput: 3,
  noSpace: 4,
  failed: 5,
  stopped: 130,
} as const

export const EXIT_MEANS: Readonly<Record<number, string>> = {
  [EXIT.done]: 'All is done.',
  [EXIT.wrongUse]: 'Used wrongly: a command, an option or a name that there is not.',
  [EXIT.badInput]: 'An input is bad: footage, a recipe, a list or another file.',
  [EXIT.noSpace]: 'There is no space left.',
  [EXIT.failed]: 'A part of the work failed.',
  [EXIT.stopped]: 'Stopped; nothing half-made is left.',
}

const CODES: Partial<Record<FaultCode, number>> = {
  usage: EXIT.wrongUse,
  media: EXIT.badInput,
  invalid: EXIT.badInput,
  'not-found': EXIT.badInput,
  full: EXIT.noSpace,
}

export function exitCodeOf(error: unknown): number {
  if (error instanceof Fault) return CODES[error.code] ?? EXIT.failed
  if (error instanceof FogBathError) return EXIT.badInput
  return (error as NodeJS.ErrnoException).code === 'ENOSPC' ? EXIT.noSpace : EXIT.failed
}
