/** A name with a number at its end: `gate.0012.exr`. */
interface NumberedName {
  /** All before the number. */
  readonly stem: string
  readonly number: number
  /** With its dot, in small letters. */
  readonly ending: string
}

/** Endings of files that hold one picture each, which may be frames of a sequence. */
const STILL_ENDINGS = /^\.(png|tiff?|jpe?g|exr|dpx|bmp|webp|avif|jp2|j2k|ppm|pgm)$/
/** Digits of the longest number that is one of a frame; longer ones are dates and times. */
const MOST_DIGITS = 9
/** Fewer are stills that happen to have numbers. */
const FEWEST = 3

/** Null where a name has no number of a frame at its end. */
export function numberedName(name: string): NumberedName | null {
  const [, stem = '', digits = '', ending = ''] = /^(.*\D)?(\d+)(\.[^.]+)$/.exec(name) ?? []
  if (!digits || digits.length > MOST_DIGITS) return null
  return { stem, number: Number(digits), ending: ending.toLowerCase() }
}

/** Files that belong together: a sequence in the order of its numbers, or one file. */
export type Group<F> =
  | { readonly type: 'sequence'; readonly files: readonly F[] }
  | { readonly type: 'file'; readonly file: F }

/**
 * Puts numbered stills of one folder together, three or more; all else stays by itself. The order is that of the first file of
 * each group.
 * @param pathOf with the folders that it lies in
 */
export function groupFiles<F>(files: readonly F[], pathOf: (file: F) => string): Group<F>[] {
  const groups = new Map<string, { file: F; number: number }[]>()
  for (const file of files) {
    const path = pathOf(file)
    const found = numberedName(path.slice(path.lastIndexOf('/') + 1))
    const folder = path.slice(0, path.lastIndexOf('/') + 1)
    const numbered = found && STILL_ENDINGS.test(found.ending) ? found : null
    // What is no frame has a group of its own: no two paths are the same.
    const key = numbered ? `${folder}${numbered.stem}/${numbered.ending}` : `file ${path}`
    const group = groups.get(key) ?? []
    group.push({ file, number: numbered?.number ?? 0 })
    groups.set(key, group)
  }
  return [...groups.values()].flatMap((group): Group<F>[] => {
    const distinct = new Set(group.map((g) => g.number)).size === group.length
    if (group.length < FEWEST || !distinct) return group.map(({ file }) => ({ type: 'file', file }))
    return [{ type: 'sequence', files: group.sort((a, b) => a.number - b.number).map(({ file }) => file) }]
  })
}

/** Runs of numbers that are missing between the first and the last, both ends counted. */
export function gapsIn(numbers: readonly number[]): (readonly [from: number, to: number])[] {
  return numbers
    .slice(1)
    .flatMap((number, i) => (number > numbers[i]! + 1 ? [[numbers[i]! + 1, number - 1] as const] : []))
}

/** One for each number from the first to the last: where one is missing, the one before. */
export const withGapsFilled = <T>(items: readonly T[], numbers: readonly number[]): T[] =>
  items.flatMap((item, i) => new Array<T>((numbers[i + 1] ?? numbers[i]! + 1) - numbers[i]!).fill(item))

/** Most runs that a sentence names. */
const MOST_NAMED = 12
/** Such as `1004, 1007 to 1009`. */
export function gapsInWords(gaps: ReturnType<typeof gapsIn>): string {
  const named = gaps.slice(0, MOST_NAMED).map(([from, to]) => (from === to ? String(from) : `${from} to ${to}`))
  return `${named.join(', ')}${gaps.length > MOST_NAMED ? ` and ${gaps.length - MOST_NAMED} more runs` : ''}`
}

/** Numbers of names that are one sequence in order; null where they are not of one stem, or not in order. */
export function numbersOf(names: readonly string[]): number[] | null {
  const found = names.map(numberedName)
  const [first] = found
  const one = found.every((n, i) => n && n.stem === first!.stem && (i === 0 || n.number > found[i - 1]!.number))
  return one ? found.map((n) => n!.number) : null
}

/** Bytes of a sequence as it is kept, in order of its numbers: where one is missing, the still before counts again. */
export function bytesOfStills(stills: readonly { readonly name: string; readonly size: number }[]): number {
  const numbers = numbersOf(stills.map((s) => s.name)) ?? stills.map((_, i) => i)
  return withGapsFilled(stills, numbers).reduce((sum, s) => sum + s.size, 0)
}
