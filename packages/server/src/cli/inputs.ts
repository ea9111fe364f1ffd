import { mkdtemp, rm, stat } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { basename, join, resolve } from 'node:path'
import type { MediaInfo } from '@fogbath/contract'
import { Fault } from '../errors'
import { numbered } from '../files/numbered'
import { withPlainName } from '../media/plain-name'
import { probe } from '../media/probe'
import { linkSequence, type Source } from '../media/source'

/** What is worked on as one: a clip, a still, or numbered stills. */
export interface Input {
  readonly source: Source
  /** In messages. */
  readonly label: string
  /** Files that are read: none of them is written over. */
  readonly files: readonly string[]
}

/** Runs work on inputs as one: one file, a numbered pattern, or several stills as a sequence. */
export async function withInput<T>(
  inputs: readonly string[],
  fps: string,
  work: (input: Input) => Promise<T>,
): Promise<T> {
  if (inputs.length === 1) {
    const [input] = inputs as [string]
    const pattern = await expandPattern(input, fps)
    if (pattern) return work({ ...pattern, label: input })
    return withPlainName(input, (path) => work({ source: { type: 'file', path }, label: input, files: inputs }))
  }
  const folder = await mkdtemp(join(tmpdir(), 'fogbath-sequence-'))
  try {
    await checkStills(inputs)
    const source = await linkSequence(inputs, folder, fps)
    return await work({ source, label: `${inputs.length} files from ${basename(inputs[0]!)} on`, files: inputs })
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

async function checkStills(inputs: readonly string[]): Promise<void> {
  let first: MediaInfo | undefined
  for (const input of inputs) {
    const info = await withPlainName(input, (path) => probe({ type: 'file', path }, input))
    if (info.kind !== 'still')
      throw new Fault(
        'usage',
        `${input} is a clip; several inputs must all be stills, which become one sequence. Add --out FOLDER to put each through by itself.`,
      )
    first ??= info
    if (info.width !== first.width || info.height !== first.height)
      throw new Fault(
        'usage',
        `${input} is ${info.width}x${info.height}, but ${inputs[0]} is ${first.width}x${first.height}; a sequence has one size.`,
      )
  }
}

/** `name.%04d.png` as an input: counts the files that are there without a gap. */
async function expandPattern(input: string, fps: string): Promise<{ source: Source; files: string[] } | null> {
  const match = /%0?(\d*)d/.exec(basename(input))
  if (!match || (await exists(input))) return null
  const name = (i: number) => numbered(input, i)
  let start = 0
  while (start < 100_000 && !(await exists(name(start)))) start++
  if (start === 100_000) throw new Fault('media', `${input} matches no file.`)
  let frames = 0
  while (await exists(name(start + frames))) frames++
  const files = Array.from({ length: frames }, (_, i) => name(start + i))
  return { source: { type: 'sequence', pattern: resolve(input), start, frames, fps }, files }
}

export const exists = (path: string): Promise<boolean> =>
  stat(path).then(
    () => true,
    () => false,
  )
