import { FogBathError } from '../errors'

/** What stands for what in names of files. */
export const NAME_TOKENS = {
  production: 'the production',
  shot: 'the shot',
  trial: 'the trial',
  recipe: 'the look’s recipe',
  date: 'the day, as 2026-01-31',
  number: 'the shot’s number in its production, as 007',
  timecode: 'of its first frame, as 01-02-03-04',
  frame: 'its first frame',
} as const
type NameToken = keyof typeof NAME_TOKENS
export type NameParts = Readonly<Record<NameToken, string>>

export const USUAL_NAMES = '{production} {shot} {trial}'
const MOST_NAME = 180

/**
 * A name of a file without its ending: tokens become what they stand for, and what a file system does not take a space.
 * @throws FogBathError for a token that there is not, and where nothing is left of a name
 */
export function nameFor(pattern: string, parts: NameParts): string {
  const named = pattern.replace(/\{([^{}]*)\}/g, (_, token: string) => {
    if (!Object.hasOwn(NAME_TOKENS, token))
      throw new FogBathError(
        'format',
        'names',
        `{${token}} stands for nothing; there are ${Object.keys(NAME_TOKENS)
          .map((t) => `{${t}}`)
          .join(' ')}.`,
      )
    return parts[token as NameToken]
  })
  const name = plainName(named)
  if (name === '') throw new FogBathError('format', 'names', `Nothing is left of the name '${pattern}'.`)
  return name
}

/** Takes from a name what file systems do not: signs of paths, of the shell, and control characters. */
function plainName(text: string): string {
  const words = text.normalize('NFC').replace(/[^\p{L}\p{N}._’(),+&-]+/gu, ' ')
  return withoutEdges(withoutEdges(words).slice(0, MOST_NAME))
}
/** Dots and spaces at the ends hide a file, or are lost. */
function withoutEdges(text: string): string {
  let [from, to] = [0, text.length]
  while (from < to && ' .'.includes(text[from]!)) from++
  while (to > from && ' .'.includes(text[to - 1]!)) to--
  return text.slice(from, to)
}

/** Names of which none is another's: later ones get a number. @param taken in small letters */
export function distinctNames(names: readonly string[], taken: ReadonlySet<string> = new Set()): string[] {
  const seen = new Set(taken)
  return names.map((name) => {
    let own = name
    for (let n = 2; seen.has(own.toLowerCase()); n++) own = `${name} (${n})`
    seen.add(own.toLowerCase())
    return own
  })
}
