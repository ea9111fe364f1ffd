import { randomUUID } from 'node:crypto'
import { realpath, stat, writeFile } from 'node:fs/promises'
import { createInterface } from 'node:readline/promises'
import { basename, dirname, join } from 'node:path'
import { Fault } from '../errors'
import { writeWhole } from '../files/writing'

const NAMED = 3

/** Where something is written until it is whole: beside its place, under a name that nothing has. */
export const besideOutput = (path: string): string =>
  join(dirname(path), `.${basename(path)}.${randomUUID().slice(0, 8)}.part`)

/** Writes what was asked for; a link stays one, and what is no file (such as /dev/stdout) is written to as it is. */
export async function writeOutput(path: string, content: string | Uint8Array): Promise<void> {
  const found = await stat(path).catch(() => null)
  if (found && !found.isFile()) await writeFile(path, content)
  else await writeWhole(found ? await realpath(path) : path, content)
}

/** The file that a path leads to, as the system knows it; null where there is none. */
const fileAt = (path: string): Promise<string | null> =>
  stat(path).then(
    ({ dev, ino }) => `${dev}:${ino}`,
    () => null,
  )

/**
 * Makes sure that nothing is lost by writing: an input is never written over; what exists already only with `force`, or
 * after asking where somebody sits at a terminal.
 */
export async function checkOutputs(
  outputs: readonly string[],
  inputs: readonly string[],
  force: boolean,
): Promise<void> {
  const sources = new Set(await Promise.all(inputs.map(fileAt)))
  const there: string[] = []
  for (const output of outputs) {
    const found = await fileAt(output)
    if (found === null) continue
    if (sources.has(found))
      throw new Fault('usage', `The output ${basename(output)} is an input; write to another name, so that it stays.`)
    there.push(output)
  }
  if (there.length === 0 || force) return
  const names = there
    .slice(0, NAMED)
    .map((path) => basename(path))
    .join(', ')
  const more = there.length > NAMED ? ` and ${there.length - NAMED} more` : ''
  if (process.stdin.isTTY && process.stderr.isTTY) {
    if (await agreed(`${names}${more} ${there.length === 1 ? 'exists' : 'exist'} already. Write over? [y/N] `)) return
    throw new Fault('usage', 'Nothing was written.')
  }
  throw new Fault(
    'usage',
    `${names}${more} ${there.length === 1 ? 'exists' : 'exist'} already; add --force to write over.`,
  )
}

async function agreed(question: string): Promise<boolean> {
  const terminal = createInterface({ input: process.stdin, output: process.stderr })
  try {
    return /^y(es)?$/i.test((await terminal.question(question)).trim())
  } finally {
    terminal.close()
  }
}
