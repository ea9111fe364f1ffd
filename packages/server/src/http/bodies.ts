import { Fault } from '../errors'
import type { App } from './context'

/** Deepest nesting of a body; the database takes JSON of up to 32 levels, a step of undo adds some to a recipe. */
const MOST_DEPTH = 24

/**
 * What no schema says of a JSON body, because it holds anywhere in it: how deep it may go, and that its texts are text.
 * Walked without recursion, so that depth itself cannot exhaust anything.
 */
function checkBody(body: unknown): void {
  const left: [value: unknown, depth: number, path: string][] = [[body, 0, 'body']]
  for (let next = left.pop(); next; next = left.pop()) {
    const [value, depth, path] = next
    if (typeof value === 'string') checkText(value, path)
    if (typeof value !== 'object' || value === null) continue
    if (depth >= MOST_DEPTH)
      throw new Fault('invalid', `${path.slice(0, 120)} is nested more than ${MOST_DEPTH} levels deep.`)
    for (const [key, inner] of Object.entries(value)) {
      checkText(key, path)
      left.push([inner, depth + 1, depth < 8 ? `${path}/${key}` : path])
    }
  }
}

function checkText(text: string, path: string): void {
  if (!isWellFormed(text))
    throw new Fault('invalid', `${path.slice(0, 120)} holds half a character (a lone surrogate).`)
}

/** Whether every surrogate has its other half (ECMA-262, String.prototype.isWellFormed, which Node 20 has). */
const isWellFormed = (text: string): boolean => (text as string & { isWellFormed(): boolean }).isWellFormed()

export function installBodies(app: App): void {
  app.addHook('preValidation', async (request) => {
    if (request.body !== undefined && request.body !== null) checkBody(request.body)
  })
}
