import type { FileHandle } from 'node:fs/promises'
import { lstat, mkdir, mkdtemp, rename, rm, stat } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { Medium } from '../db/models'
import { Fault } from '../errors'
import { withHandle } from '../files/inside'
import { MOST_FOOTAGE_BYTES } from '../limits'
import { checkText } from '../outside/texts'
import { writtenAsExr } from './float-tiff'
import { FootageHealth, hashOf } from './health'
import { dropNote, writeNote } from './notes'
import type { MediaInfo } from '@fogbath/contract'
import { describe } from './reach'
import { receive } from './receive'
import { sourceAt, type Source } from './source'
import { Stills, type Still } from './stills'

/** What is known of footage once it has been read. */
export interface Footage {
  readonly sha256: string
  readonly name: string
  readonly size: number
  readonly info: MediaInfo
  readonly sequence: string
}

/** Footage that was taken in. */
export interface Taken {
  readonly medium: Medium
  /** Whether it was known and its file was missing or damaged, and is whole again now. */
  readonly back: boolean
}

const KEPT_AS_EXR = 'It came as a TIFF of floats, and is kept as EXR with the same numbers.'

/** Begins the names of folders in which something is being taken in. */
export const INCOMING = 'incoming-'

/** Media files under the SHA-256 of their contents; the database knows their names, and so does a note beside each. */
export class MediaStore {
  readonly health = new FootageHealth((sha256) => this.pathOf(sha256))
  /** Folders in which something is being taken in at this moment. */
  private readonly open = new Set<string>()

  constructor(
    readonly folder: string,
    private readonly most = MOST_FOOTAGE_BYTES,
  ) {}

  /** Where a medium's pictures lie. */
  sourceOf(medium: Pick<Medium, 'sha256' | 'sequence' | 'info'>): Source {
    return sourceAt(this.pathOf(medium.sha256), medium)
  }

  /** The file, or the folder of a sequence. */
  pathOf(sha256: string): string {
    return join(this.folder, sha256.slice(0, 2), sha256)
  }

  isOpen(path: string): boolean {
    return this.open.has(path)
  }

  /** Fails in words unless the footage is there to be read. */
  async checkHere(medium: Medium): Promise<void> {
    const state = await this.health.look(medium)
    if (state === 'here') return
    const what = state === 'missing' ? 'is missing' : 'is damaged'
    throw new Fault('not-found', `The footage ${medium.name} ${what} on the server; bring the same file in again.`)
  }

  /**
   * Takes a file in from a stream: hashed as it is written, probed, kept only when it can be read. A stream that is
   * refused is left where it is; the caller drains or ends it.
   */
  async take(stream: Readable, name: string): Promise<Taken> {
    checkText(name, 'The name of the file')
    return this.withStaging(async (staging) => {
      const came = join(staging, 'file')
      const received = await receive(stream, came, name, this.most)
      const anew = join(staging, 'anew')
      const written = await writtenAsExr(came, anew, name)
      const file = written ? anew : came
      const { sha256, size } = written ? { sha256: await hashOf(anew, ''), size: (await stat(anew)).size } : received
      return this.settle(file, sha256, async () => {
        const info = await describe({ type: 'file', path: file }, name)
        const warnings = written ? [...info.warnings, KEPT_AS_EXR] : info.warnings
        return { sha256, name: basename(name), size, info: { ...info, warnings }, sequence: '' }
      })
    })
  }

  /** Takes a file in again that is missing here. @returns whether it is what was missing */
  async takeBack(opening: Promise<FileHandle>, medium: Medium): Promise<boolean> {
    return this.withStaging(async (staging) => {
      const file = join(staging, 'file')
      const { sha256 } = await withHandle(opening, (stream) => receive(stream, file, medium.name, this.most))
      if (sha256 !== medium.sha256) return false
      await this.settle(file, sha256, async () => medium.toJSON())
      return true
    })
  }

  /**
   * Takes numbered stills in as one sequence. Where numbers of one name are missing, the still before each is shown, and it is
   * said which.
   * @param stills in order, all of one size
   */
  async takeSequence(stills: AsyncIterable<Still>, rate: string): Promise<Taken> {
    const fps = rate.includes('/') ? rate : `${rate}/1`
    return this.withStaging(async (staging) => {
      const folder = join(staging, 'sequence')
      await mkdir(folder)
      const received = new Stills(folder)
      for await (const { name, file } of stills) {
        // Without its ending first: what it holds decides how it is read.
        const plain = join(staging, 'still')
        await received.add(name, plain, await receive(file, plain, name, this.most))
      }
      const { sha256, size, frames, ending, name } = await received.end()
      return this.settle(folder, sha256, async () => {
        const source = { type: 'sequence', pattern: join(folder, `%06d${ending}`), start: 0, frames, fps } as const
        const info = { ...(await describe(source, name)), ...received.said() }
        await received.prove(source)
        return { sha256, name: basename(name), size, info, sequence: ending }
      })
    })
  }

  /** Takes in what lies there already and is known to be what its hash says; it is moved. */
  adopt(path: string, footage: Footage): Promise<Taken> {
    return this.settle(path, footage.sha256, async () => footage)
  }

  /** Removes footage with its row; a shot that came to use it meanwhile keeps it. */
  async drop(medium: Medium): Promise<void> {
    await medium.destroy()
    const path = this.pathOf(medium.sha256)
    await rm(path, { recursive: true, force: true })
    await dropNote(path)
  }

  private async settle(path: string, sha256: string, read: () => Promise<Footage>): Promise<Taken> {
    const known = await Medium.findOne({ where: { sha256 } })
    if (known && (await this.health.look(known)) === 'here') return { medium: known, back: false }
    const footage = known ? known.toJSON() : await read()
    await this.keep(path, footage)
    if (known) return { medium: known, back: true }
    // Two uploads of the same file at once: the second finds the first's row.
    const [medium] = await Medium.findOrCreate({ where: { sha256 }, defaults: { ...footage } })
    return { medium, back: false }
  }

  /** What lies under the hash already is either the same or damaged. */
  private async keep(from: string, { sha256, name, sequence, size, info }: Footage): Promise<void> {
    const path = this.pathOf(sha256)
    await mkdir(dirname(path), { recursive: true })
    // Where it is not there any more, a start that was cut off has moved it already.
    if (!(await isThere(from))) {
      if ((await hashOf(path, sequence).catch(() => '')) !== sha256) throw new Fault('media', `${name} is damaged.`)
    } else {
      await rm(path, { recursive: true, force: true })
      await rename(from, path)
    }
    await writeNote(path, { name, sequence, size, info })
  }

  private async withStaging<T>(work: (folder: string) => Promise<T>): Promise<T> {
    await mkdir(this.folder, { recursive: true })
    const staging = await mkdtemp(join(this.folder, INCOMING))
    this.open.add(staging)
    try {
      return await work(staging)
    } finally {
      await rm(staging, { recursive: true, force: true })
      this.open.delete(staging)
    }
  }
}

const isThere = (path: string): Promise<boolean> =>
  lstat(path).then(
    () => true,
    () => false,
  )
