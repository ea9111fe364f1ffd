import { numberedName } from '../footage/numbered'
import type { EditEvent } from './event'

/** Small letters, without its ending. */
const stemOf = (name: string): string => name.toLowerCase().replace(/\.[a-z0-9]{1,5}$/, '')
/** What stands before the numbers of a sequence: `gate` of `gate.0012.exr`. */
function beforeNumbers(name: string): string {
  const text = numberedName(name)?.stem ?? stemOf(name)
  let end = text.length
  while (end > 0 && '._- '.includes(text[end - 1]!)) end--
  return text.slice(0, end).toLowerCase()
}

/**
 * Files that an event may be from, the likeliest first: its whole names before names without their endings, before what
 * stands in front of a sequence's numbers; of each its own order of names.
 * @param files with the name of the file, or of a sequence's first still
 */
export function footageOf<F extends { readonly name: string; readonly sequence: boolean }>(
  { footage }: Pick<EditEvent, 'footage'>,
  files: readonly F[],
): F[] {
  const ways: ((wanted: string, file: F) => boolean)[] = [
    (wanted, { name }) => name.toLowerCase() === wanted.toLowerCase(),
    (wanted, { name }) => stemOf(name) === stemOf(wanted),
    (wanted, { name, sequence }) => sequence && beforeNumbers(name) === beforeNumbers(wanted),
  ]
  return [...new Set(ways.flatMap((way) => footage.flatMap((wanted) => files.filter((file) => way(wanted, file)))))]
}
