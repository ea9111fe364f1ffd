import { copyFile, constants, rename, type FileHandle } from 'node:fs/promises'
import { extname, join } from 'node:path'
import type { Readable } from 'node:stream'
import type { MediaInfo } from '@fogbath/contract'
import { gapsIn, gapsInWords, numbersOf, withGapsFilled } from '@fogbath/core/footage'
import { Fault } from '../errors'
import { hashOfStills } from './health'
import { headerOf, probe } from './probe'
import { proveAll } from './proving'
import type { Source } from './source'

/** A still of a sequence, read when its turn comes. */
export interface Still {
  readonly name: string
  readonly file: Readable
}

/** Stills of files that lie somewhere, opened one after the other. */
export async function* stillsOf(
  files: readonly { readonly name: string; readonly open: () => Promise<FileHandle> }[],
): AsyncGenerator<Still> {
  for (const { name, open } of files) {
    const handle = await open()
    const file = handle.createReadStream({ autoClose: false })
    try {
      yield { name, file }
    } finally {
      file.destroy()
      await handle.close()
    }
  }
}

/** Frames that may be missing for each that is there; more is no sequence any more. */
const MOST_MISSING = 4

/** The stills of a sequence as they come in: each must be one, and as large as the first. */
export class Stills {
  private first: MediaInfo | undefined
  private readonly names: string[] = []
  private readonly received: { readonly sha256: string; readonly size: number }[] = []
  private gaps: ReturnType<typeof gapsIn> = []

  /** @param folder where they get names by their place */
  constructor(private readonly folder: string) {}

  private get ending(): string {
    return extname(this.names[0] ?? '').toLowerCase()
  }
  private placeOf = (i: number): string => join(this.folder, `${String(i).padStart(6, '0')}${this.ending}`)

  /** @param path where it lies; it is moved */
  async add(name: string, path: string, got: { sha256: string; size: number }): Promise<void> {
    const source = { type: 'file', path } as const
    const { first } = this
    // The first one is proved whole; the others are when all are there.
    const info = first ? await headerOf(source, name) : await probe(source, name)
    const kind = 'kind' in info ? info.kind === 'still' : info.still
    if (!kind) throw new Fault('media', `${name} is not a still; a sequence is made of stills.`)
    if (first && (info.width !== first.width || info.height !== first.height))
      throw new Fault(
        'media',
        `${name} is ${info.width}x${info.height}, but the sequence is ${first.width}x${first.height}.`,
      )
    if ('kind' in info) this.first = info
    this.names.push(name)
    this.received.push(got)
    await rename(path, this.placeOf(this.names.length - 1))
  }

  /** Puts the still before each missing one in its place. */
  async end(): Promise<{ sha256: string; size: number; frames: number; ending: string; name: string }> {
    if (!this.first) throw new Fault('invalid', 'There is no still; a sequence is made of stills.')
    const { names, ending } = this
    const numbers = numbersOf(names) ?? names.map((_, i) => i)
    this.gaps = gapsIn(numbers)
    const frames = numbers.at(-1)! - numbers[0]! + 1
    if (frames > (1 + MOST_MISSING) * names.length)
      throw new Fault(
        'media',
        `${names[0]} to ${names.at(-1)} are ${names.length} stills of ${frames} numbers; of a sequence most must be there.`,
      )
    // From the end, so that no still is overwritten before it has moved.
    for (let i = names.length - 1; i >= 0; i--) {
      const [from, to] = [numbers[i]! - numbers[0]!, (numbers[i + 1] ?? numbers[i]! + 1) - numbers[0]!]
      if (from !== i) await rename(this.placeOf(i), this.placeOf(from))
      for (let at = from + 1; at < to; at++)
        await copyFile(this.placeOf(from), this.placeOf(at), constants.COPYFILE_FICLONE)
    }
    const whole = withGapsFilled(this.received, numbers)
    const sha256 = hashOfStills(
      whole.map((w) => w.sha256),
      ending,
    )
    return { sha256, size: whole.reduce((sum, w) => sum + w.size, 0), frames, ending, name: names[0]! }
  }

  /** What the first still says, and what is missing. */
  said(): Partial<MediaInfo> {
    const { encoding, profile, guessed, warnings } = this.first!
    const missing = gapsInWords(this.gaps)
    return {
      encoding,
      ...(profile && { profile }),
      ...(guessed && { guessed }),
      warnings: missing ? [...warnings, `Frames are missing: ${missing}; the one before is shown there.`] : warnings,
    }
  }

  /** All decode; the one that does not is named. */
  async prove(source: Source): Promise<void> {
    if (await proveAll(source)) return
    for (const [i, name] of this.names.entries())
      await probe({ type: 'file', path: this.placeOf(this.indexOf(i)) }, name)
    throw new Fault('media', `${this.names[0]} to ${this.names.at(-1)} cannot be decoded as one sequence.`)
  }

  private indexOf(i: number): number {
    const numbers = numbersOf(this.names)
    return numbers ? numbers[i]! - numbers[0]! : i
  }
}
