/** Every error that the core raises on purpose: what it is about, the value found, and the rule it broke. */
export type ErrorCode = 'setting' | 'recipe' | 'encoding' | 'format' | 'range'

export class FogBathError extends Error {
  readonly code: ErrorCode
  /** The thing that is wrong, as a path or a name, e.g. `baths/0/settings/bleachPrint`. */
  readonly subject: string

  constructor(code: ErrorCode, subject: string, message: string) {
    super(message)
    this.name = 'FogBathError'
    this.code = code
    this.subject = subject
  }
}
