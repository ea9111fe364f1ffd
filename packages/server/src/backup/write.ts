import { createHash, randomUUID } from 'node:crypto'
import { rm, mkdir } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { PassThrough, Readable } from 'node:stream'
import PQueue from 'p-queue'
import type { Sequelize } from 'sequelize'
import yazl from 'yazl'
import { Fault } from '../errors'
import { streamOwn } from '../files/own'
import { hashOfStills } from '../media/health'
import { sourceAt } from '../media/source'
import type { MediaStore } from '../media/store'
import { FORMAT, MOST_CONTENTS, VERSION, mediumPaths, type ContentsMedium, type Manifest } from './contents'
import { takeSnapshot, type Snapshot } from './snapshot'

/** Read at once; each holds a connection to the database while it is read. */
const AT_ONCE = 2
/** More than so many wait for nobody. */
const MOST_WAITING = 20

/** Backups that go out: what they hold is read first, then they are made as they are fetched. */
export class Backups {
  private readonly reading = new PQueue({ concurrency: AT_ONCE })
  private readonly open = new Set<string>()

  constructor(
    private readonly folder: string,
    private readonly db: Sequelize,
    private readonly store: MediaStore,
  ) {}

  isOpen(path: string): boolean {
    return this.open.has(path)
  }

  /** How many are being read, and how many wait for that. */
  state(): { reading: number; waiting: number } {
    return { reading: this.reading.pending, waiting: this.reading.size }
  }

  /** @param production one of them, or null for all @param media whether the footage goes along */
  async write(production: number | null, media: boolean): Promise<{ stream: Readable; missing: readonly string[] }> {
    if (this.reading.size >= MOST_WAITING)
      throw new Fault('busy', `${MOST_WAITING} backups wait to be read already; try again when they are done.`)
    const folder = join(this.folder, randomUUID())
    this.open.add(folder)
    const end = (): void => {
      void rm(folder, { recursive: true, force: true })
        .catch(() => undefined)
        .finally(() => this.open.delete(folder))
    }
    try {
      await mkdir(folder, { recursive: true })
      const { db, store } = this
      const snapshot = await this.reading.add(() => takeSnapshot({ db, store, production, media }, folder))
      const stream = new Archive(store).stream(snapshot)
      stream.once('close', end)
      return { stream, missing: snapshot.missing }
    } catch (error) {
      end()
      throw error
    }
  }
}

/**
 * A ZIP archive whose entries are read one after the other as it is fetched. What cannot be read meanwhile is left out and
 * named; so what the archive holds is told behind the footage, and the hashes of all entries last.
 */
class Archive {
  private readonly zip = new yazl.ZipFile()
  private readonly entries: Manifest['entries'] = []
  private readonly broken = new Set<string>()
  /** What is being read at this moment. */
  private current: Readable | undefined

  constructor(private readonly store: MediaStore) {}

  stream({ contents, pictures, missing }: Snapshot): Readable {
    pictures.forEach((path, i) => this.add(`proofs/${i}.png`, () => streamOwn(path)))
    for (const medium of contents.media) this.addMedium(medium)
    this.addText('contents.json', () => {
      for (const medium of contents.media) if (this.isBroken(medium)) medium.files = 0
      const text = JSON.stringify(contents)
      if (Buffer.byteLength(text) > MOST_CONTENTS)
        throw new Fault(
          'invalid',
          `What the productions hold comes to more than ${MOST_CONTENTS / 1e6} MB; take them along one by one.`,
        )
      return text
    })
    this.addText('manifest.json', () => {
      const lost = contents.media.filter((m) => this.broken.has(m.sha256)).map((m) => m.name)
      const manifest: Manifest = {
        format: FORMAT,
        version: VERSION,
        id: randomUUID(),
        madeAt: new Date().toISOString(),
        entries: this.entries,
        missing: [...missing, ...lost],
      }
      return JSON.stringify(manifest)
    })
    // What is fetched is a stream of our own: whatever fails inside ends it, and nothing else.
    const out = new PassThrough()
    const fail = (error: Error): void => void out.destroy(error)
    this.zip.once('error', fail)
    this.zip.outputStream.once('error', fail).pipe(out)
    // Whoever reads it is told; a failure that nobody listens to must not end the program.
    out.on('error', () => undefined)
    // Whoever fetches it may go before the end.
    out.once('close', () => this.current?.destroy())
    this.zip.end()
    return out
  }

  private addMedium(medium: ContentsMedium): void {
    const source = sourceAt(this.store.pathOf(medium.sha256), medium)
    for (const path of mediumPaths(medium)) {
      const file = source.type === 'file' ? source.path : join(dirname(source.pattern), basename(path))
      this.add(path, () => streamOwn(file), medium.sha256)
    }
  }

  /** Whether footage was not what its hash says as it was read. */
  private isBroken(medium: ContentsMedium): boolean {
    if (medium.files === 0) return false
    const hashes = new Map(this.entries.map((e) => [e.path, e.sha256]))
    const own = mediumPaths(medium).map((path) => hashes.get(path) ?? '')
    const hash = medium.sequence ? hashOfStills(own, medium.sequence) : own[0]
    if (hash !== medium.sha256) this.broken.add(medium.sha256)
    return this.broken.has(medium.sha256)
  }

  private addText(path: string, make: () => string): void {
    this.add(path, async () => Readable.from([make()]), null, true)
  }

  /** @param footage whose entry it is; what goes wrong with it is noted, and the archive goes on without the rest of it */
  private add(path: string, open: () => Promise<Readable>, footage: string | null = null, compress = false): void {
    this.zip.addReadStreamLazy(path, { compress }, (done) => {
      this.current = Readable.from(this.measured(path, open, footage))
      done(null, this.current)
    })
  }

  private async *measured(path: string, open: () => Promise<Readable>, footage: string | null): AsyncGenerator<Buffer> {
    const hash = createHash('sha256')
    let size = 0
    try {
      for await (const part of await open()) {
        const bytes = Buffer.from(part as Buffer | string)
        hash.update(bytes)
        size += bytes.length
        yield bytes
      }
    } catch (error) {
      if (footage === null) throw error
      this.broken.add(footage)
    }
    this.entries.push({ path, sha256: hash.digest('hex'), size })
  }
}
