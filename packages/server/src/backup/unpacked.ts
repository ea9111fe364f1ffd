import { createInterface } from 'node:readline'
import { join } from 'node:path'
import { readOwn, streamOwn } from '../files/own'
import type { Contents, ContentsShot } from './contents'

/** A backup that has been proved, as it lies in its folder: footage and pictures as they were packed, and these files. */
export const REST = 'rest.json'
export const pathOfProduction = (folder: string, i: number): string => join(folder, `production-${i}.ndjson`)

/** What is told of it. */
export interface Proved {
  /** The id that it was made with. */
  readonly archive: string
  readonly productions: readonly { readonly name: string; readonly shots: number; readonly proofs: number }[]
  /** Footage that was missing where it was made. */
  readonly left: readonly string[]
}

/** All that it holds beside its productions. */
export type Rest = Required<Omit<Contents, 'productions'>>

export const readRest = async (folder: string): Promise<Rest> =>
  JSON.parse((await readOwn(join(folder, REST))).toString('utf8')) as Rest

type Head = Omit<Contents['productions'][number], 'shots'>
/** A production as lines of text: what is its own first, then each shot. */
export function* linesOfProduction({ shots, ...head }: Contents['productions'][number]): Generator<string> {
  yield lineOf(head)
  for (const shot of shots) yield lineOf(shot)
}

/** JSON lets two characters stand that end a line elsewhere (ECMA-262, line terminators). */
const lineOf = (value: unknown): string =>
  `${JSON.stringify(value).replaceAll('\u2028', '\\u2028').replaceAll('\u2029', '\\u2029')}\n`

export async function readProduction(
  folder: string,
  i: number,
): Promise<Head & { shots: AsyncGenerator<ContentsShot> }> {
  const lines = createInterface({ input: await streamOwn(pathOfProduction(folder, i)), crlfDelay: Infinity })
  const each = lines[Symbol.asyncIterator]()
  const first = await each.next()
  async function* shots(): AsyncGenerator<ContentsShot> {
    try {
      for (let next = await each.next(); !next.done; next = await each.next())
        yield JSON.parse(next.value) as ContentsShot
    } finally {
      lines.close()
    }
  }
  return { ...(JSON.parse(String(first.value)) as Head), shots: shots() }
}
