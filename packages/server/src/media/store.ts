import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, mkdtemp, rename, rm, stat } from 'node:fs/promises'
import { basename, extname, join } from 'node:path'
import type { Readable } from 'node:stream'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { Fault } from '../errors'
import { probe, type MediaInfo } from './probe'
import { checkFile, withFile, withPlainName, type Source } from './source'
import { Medium } from '../db/models'

/** Largest file that is taken in, bytes. */
export const MOST_BYTES = 20e9

/** Media files under the SHA-256 of their contents; the database knows their names. */
export class MediaStore {
  constructor(
    private readonly folder: string,
    private readonly most = MOST_BYTES,
  ) {}

  /** Where a medium's pictures lie. */
  sourceOf(medium: Pick<Medium, 'sha256' | 'sequence' | 'info'>): Source {
    const path = this.pathOf(medium.sha256)
    if (!medium.sequence) return { type: 'file', path }
    return {
      type: 'sequence',
      pattern: join(path, `%06d${medium.sequence}`),
      start: 0,
      frames: medium.info.frames,
      fps: medium.info.fps,
    }
  }

  /** The file, or the folder of a sequence. */
  pathOf(sha256: string): string {
    return join(this.folder, sha256.slice(0, 2), sha256)
  }

  /**
   * Takes a file in from a stream: hashed as it is written, probed, kept only when it can be read. A stream that is
   * refused is left where it is; the caller drains or ends it.
   */
  async take(stream: Readable, name: string): Promise<Medium> {
    return this.withStaging(async (staging) => {
      const file = join(staging, 'file')
      const { sha256, size } = await this.receive(stream, file, name)
      const known = await Medium.findOne({ where: { sha256 } })
      if (known) return known
      const info = await probe({ type: 'file', path: file }, name)
      await this.keep(file, sha256)
      return this.remember({ sha256, name: basename(name), size, info, sequence: '' })
    })
  }

  /** Takes numbered stills in as one sequence. @param paths in order, all of one size */
  async takeSequence(paths: readonly string[], name: string, rate: string): Promise<Medium> {
    const fps = rate.includes('/') ? rate : `${rate}/1`
    return this.withStaging(async (staging) => {
      const ending = extname(paths[0]!).toLowerCase()
      const folder = join(staging, 'sequence')
      await mkdir(folder)
      const hash = createHash('sha256')
      let size = 0
      let first: MediaInfo | undefined
      for (const [i, path] of paths.entries()) {
        await checkFile(path)
        const info = await withPlainName(path, (plain) => probe({ type: 'file', path: plain }, basename(path)))
        if (info.kind !== 'still')
          throw new Fault('media', `${basename(path)} is not a still; a sequence is made of stills.`)
        first ??= info
        if (info.width !== first.width || info.height !== first.height)
          throw new Fault(
            'media',
            `${basename(path)} is ${info.width}x${info.height}, but the sequence is ${first.width}x${first.height}.`,
          )
        const target = join(folder, `${String(i).padStart(6, '0')}${ending}`)
        const got = await withFile(path, (file) => this.receive(file, target, basename(path)))
        hash.update(got.sha256)
        size += got.size
      }
      const sha256 = hash.update(ending).digest('hex')
      const known = await Medium.findOne({ where: { sha256 } })
      if (known) return known
      const source: Source = {
        type: 'sequence',
        pattern: join(folder, `%06d${ending}`),
        start: 0,
        frames: paths.length,
        fps,
      }
      const probed = await probe(source, name)
      await this.keep(folder, sha256)
      return this.remember({ sha256, name, size, info: { ...probed, encoding: first!.encoding }, sequence: ending })
    })
  }

  /** Removes what no row points to any more. */
  async drop(medium: Medium): Promise<void> {
    await medium.destroy()
    await rm(this.pathOf(medium.sha256), { recursive: true, force: true })
  }

  private async withStaging<T>(work: (folder: string) => Promise<T>): Promise<T> {
    await mkdir(this.folder, { recursive: true })
    const staging = await mkdtemp(join(this.folder, 'incoming-'))
    try {
      return await work(staging)
    } finally {
      await rm(staging, { recursive: true, force: true })
    }
  }

  private async receive(stream: Readable, path: string, name: string): Promise<{ sha256: string; size: number }> {
    const hash = createHash('sha256')
    let size = 0
    const most = this.most
    const measure = new Transform({
      transform(chunk: Buffer, _encoding, done) {
        size += chunk.length
        if (size > most)
          return done(new Fault('media', `${name} is larger than ${most / 1e6} MB, the most that is taken in.`))
        hash.update(chunk)
        done(null, chunk)
      },
    })
    try {
      // Part of an upload must be read to its end even when it is refused; so the stream is left whole.
      await pipeline(stream.iterator({ destroyOnReturn: false }), measure, createWriteStream(path))
    } catch (error) {
      if ((error as { code?: string }).code === 'ENOSPC')
        throw new Fault('program', `The disk is full: ${name} could not be stored.`)
      throw error
    }
    return { sha256: hash.digest('hex'), size }
  }

  private async keep(from: string, sha256: string): Promise<void> {
    const path = this.pathOf(sha256)
    await mkdir(join(path, '..'), { recursive: true })
    if (
      await stat(path).then(
        () => true,
        () => false,
      )
    )
      return
    await rename(from, path)
  }

  /** Two uploads of the same file at once: the second finds the first's row. */
  private async remember(values: {
    sha256: string
    name: string
    size: number
    info: MediaInfo
    sequence: string
  }): Promise<Medium> {
    const [row] = await Medium.findOrCreate({ where: { sha256: values.sha256 }, defaults: values })
    return row
  }
}
