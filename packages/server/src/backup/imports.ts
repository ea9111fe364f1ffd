import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, readFile, rm, writeFile } from 'node:fs/promises'
import { basename, join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Sequelize } from 'sequelize'
import { Fault } from '../errors'
import type { MediaStore } from '../media/store'
import { applyBackup, previewOf, type Preview } from './apply'
import type { Contents } from './contents'
import { readBackup } from './read'

export interface Import {
  readonly key: string
  readonly preview: Preview
}

/** Backups that came in and have been proved whole, unpacked in a folder each until they are taken in or put away. */
export class Imports {
  /** Those that are being taken in. */
  private readonly busy = new Set<string>()

  constructor(private readonly folder: string) {}

  /** @param name in messages */
  async receive(stream: Readable, name: string): Promise<Import> {
    const key = randomUUID()
    const folder = join(this.folder, key)
    const file = join(folder, 'backup.zip')
    const label = basename(name).slice(0, 255)
    await mkdir(folder, { recursive: true })
    try {
      // Part of an upload must be read to its end even when it is refused; so the stream is left whole.
      await pipeline(stream.iterator({ destroyOnReturn: false }), createWriteStream(file))
      if ((stream as { truncated?: boolean }).truncated)
        throw new Fault('media', `${label} is larger than what is taken in.`)
      const contents = await readBackup(file, join(folder, 'unpacked'), label)
      await rm(file)
      await writeFile(join(folder, 'whole.json'), JSON.stringify(contents))
      return { key, preview: await previewOf(contents) }
    } catch (error) {
      stream.resume()
      await rm(folder, { recursive: true, force: true })
      throw error
    }
  }

  /** Takes one in; it is gone afterwards. @returns ids of the new productions */
  async accept(key: string, db: Sequelize, store: MediaStore): Promise<number[]> {
    const folder = join(this.folder, key)
    const text = await readFile(join(folder, 'whole.json'), 'utf8').catch(() => null)
    if (text === null || this.busy.has(key))
      throw new Fault('not-found', 'This backup is not waiting any more; bring it in again.')
    this.busy.add(key)
    try {
      const made = await applyBackup(JSON.parse(text) as Contents, join(folder, 'unpacked'), db, store)
      await rm(folder, { recursive: true, force: true })
      return made
    } finally {
      this.busy.delete(key)
    }
  }

  async drop(key: string): Promise<void> {
    if (!this.busy.has(key)) await rm(join(this.folder, key), { recursive: true, force: true })
  }
}
