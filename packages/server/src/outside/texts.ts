import { Fault } from '../errors'

/** Deepest nesting of what people bring; the database takes JSON of up to 32 levels, a step of undo adds some to a recipe. */
const MOST_DEPTH = 24
/** Most values in one text; a production of 10 000 shots with all its steps of undo has some millions. */
const MOST_THINGS = 20_000_000

/** Whether every surrogate has its other half (ECMA-262, String.prototype.isWellFormed, which Node 20 has). */
const isWellFormed = (text: string): boolean => (text as string & { isWellFormed(): boolean }).isWellFormed()

/** Refuses text that no file, database or page can hold: half a character, or a zero character. @param where in messages */
export function checkText(text: string, where: string): void {
  if (!isWellFormed(text))
    throw new Fault('invalid', `${where.slice(0, 120)} holds half a character (a lone surrogate).`)
  if (text.includes('\0')) throw new Fault('invalid', `${where.slice(0, 120)} holds a zero character.`)
}

/**
 * What no schema says of a value from outside, because it holds anywhere in it: how deep it may go, how much it may hold, and
 * that its texts are text. Walked without recursion, so that depth itself cannot exhaust anything.
 * @param root name of the value in messages
 */
export function checkValue(value: unknown, root: string): void {
  const left: [value: unknown, depth: number, path: string][] = [[value, 0, root]]
  let things = 0
  for (let next = left.pop(); next; next = left.pop()) {
    const [inner, depth, path] = next
    if (++things > MOST_THINGS) throw new Fault('invalid', `${root} holds more than ${MOST_THINGS} values.`)
    if (typeof inner === 'string') checkText(inner, path)
    if (typeof inner !== 'object' || inner === null) continue
    if (depth >= MOST_DEPTH) throw tooDeep(path)
    for (const [key, child] of Object.entries(inner)) {
      checkText(key, path)
      left.push([child, depth + 1, depth < 8 ? `${path}/${key}` : path])
    }
  }
}

const tooDeep = (path: string): Fault =>
  new Fault('invalid', `${path.slice(0, 120)} is nested more than ${MOST_DEPTH} levels deep.`)

const [QUOTE, BACKSLASH, OPEN_LIST, OPEN_MAP, CLOSE_LIST, CLOSE_MAP, COMMA] = [34, 92, 91, 123, 93, 125, 44]

/** Counts brackets and commas outside strings, before anything is made of the text. */
function checkShape(text: string, name: string): void {
  let depth = 0
  let things = 0
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    if (code === QUOTE) {
      for (i++; i < text.length && text.charCodeAt(i) !== QUOTE; i++) if (text.charCodeAt(i) === BACKSLASH) i++
    } else if (code === OPEN_LIST || code === OPEN_MAP) {
      things++
      if (++depth > MOST_DEPTH) throw tooDeep(name)
    } else if (code === CLOSE_LIST || code === CLOSE_MAP) depth--
    else if (code === COMMA && ++things > MOST_THINGS)
      throw new Fault('invalid', `${name} holds more than ${MOST_THINGS} values.`)
  }
}

/** Reads JSON that somebody brought, within limits. Throws a sentence that names it. */
export function parseJson(text: string, name: string): unknown {
  checkShape(text, name)
  let value: unknown
  try {
    value = JSON.parse(text)
  } catch (error) {
    throw new Fault('invalid', `${name} is not JSON: ${(error as Error).message}.`)
  }
  checkValue(value, name)
  return value
}
