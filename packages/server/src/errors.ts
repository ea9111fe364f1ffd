import { FogBathError } from '@fogbath/core/errors'

/** What can go wrong around the core: files, programs, requests. Each message is one sentence a person can act on. */
export type FaultCode = 'media' | 'not-found' | 'stale' | 'invalid' | 'busy' | 'program' | 'usage' | 'denied' | 'full'

export class Fault extends Error {
  constructor(
    readonly code: FaultCode,
    message: string,
    /** More for a program that reads the answer, e.g. the current state after a stale write. */
    readonly details: Record<string, unknown> = {},
  ) {
    super(message)
    this.name = 'Fault'
  }
}

export const STATUS: Record<FaultCode, number> = {
  media: 422,
  'not-found': 404,
  stale: 409,
  invalid: 400,
  busy: 503,
  program: 500,
  usage: 400,
  denied: 403,
  full: 507,
}

/** The sentence to show for any error; unknown ones keep their details out of sight. */
export const sentenceOf = (error: unknown): string =>
  error instanceof Fault || error instanceof FogBathError || error instanceof Error ? error.message : String(error)
