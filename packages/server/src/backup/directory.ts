import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, statfs } from 'node:fs/promises'
import { dirname } from 'node:path'
import { Transform } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { buffer } from 'node:stream/consumers'
import { openPromise, type Entry, type ZipFile } from 'yauzl'
import { Fault } from '../errors'
import { fullDisk } from '../files/writing'
import { MOST_FOOTAGE_BYTES } from '../limits'
import { MOST_CONTENTS, PATHS } from './contents'

/** Most entries: the stills of long sequences are entries each. */
const MOST_ENTRIES = 300_000
/** Most bytes of an entry, by what it is; the first rule whose path it has counts. */
const MOST_OF: readonly (readonly [RegExp, number])[] = [
  [/^manifest\.json$/, 64e6],
  [/^contents\.json$/, MOST_CONTENTS],
  [/^proofs\//, 24e6],
  [/^media\//, MOST_FOOTAGE_BYTES],
]
/** Text that unpacks to more than so many times its size, beyond a megabyte, was not written by anybody. */
const MOST_RATIO = 200
const SMALL = 1e6
/** Bytes that are left on the disk for everything else. */
const RESERVE = 500e6

export const damaged = (label: string, why: string): Fault =>
  new Fault('media', `${label} is damaged or no backup: ${why}. Nothing was changed.`)

/** The directory of an archive that somebody brought: all of it is looked at before anything is unpacked. */
export class Directory {
  private constructor(
    private readonly zip: ZipFile,
    readonly entries: ReadonlyMap<string, Entry>,
    private readonly label: string,
  ) {}

  /** @param folder on whose disk it will be unpacked @param label name of the file in messages */
  static async open(path: string, folder: string, label: string): Promise<Directory> {
    let zip: ZipFile | undefined
    try {
      zip = await openPromise(path, { strictFileNames: true, autoClose: false })
      // Read failures reach whoever reads; this only keeps them from ending the program.
      zip.on('error', () => undefined)
      const { bavail, bsize } = await statfs(folder)
      return new Directory(zip, await entriesOf(zip, label, bavail * bsize - RESERVE), label)
    } catch (error) {
      zip?.close()
      throw error instanceof Fault ? error : damaged(label, (error as Error).message)
    }
  }

  close(): void {
    this.zip.close()
  }

  sizeOf(path: string): number | undefined {
    return this.entries.get(path)?.uncompressedSize
  }

  async text(path: string): Promise<Buffer> {
    return this.guarded(path, async (entry) => buffer(await this.zip.openReadStreamPromise(entry)))
  }

  /** Unpacks an entry into a file. @returns its SHA-256 */
  async unpack(path: string, to: string): Promise<string> {
    return this.guarded(path, async (entry) => {
      await mkdir(dirname(to), { recursive: true })
      const hash = createHash('sha256')
      const measure = new Transform({
        transform(chunk: Buffer, _encoding, done) {
          hash.update(chunk)
          done(null, chunk)
        },
      })
      await pipeline(await this.zip.openReadStreamPromise(entry), measure, createWriteStream(to))
      return hash.digest('hex')
    })
  }

  private async guarded<T>(path: string, work: (entry: Entry) => Promise<T>): Promise<T> {
    const entry = this.entries.get(path)
    if (!entry) throw damaged(this.label, `${path} is missing`)
    try {
      return await work(entry)
    } catch (error) {
      throw fullDisk(error, this.label) ?? damaged(this.label, (error as Error).message)
    }
  }
}

async function entriesOf(zip: ZipFile, label: string, room: number): Promise<Map<string, Entry>> {
  const found = new Map<string, Entry>()
  let sum = 0
  if (zip.entryCount > MOST_ENTRIES) throw damaged(label, `it holds more than ${MOST_ENTRIES} entries`)
  for await (const entry of zip.eachEntry()) {
    const { fileName, uncompressedSize: size } = entry
    if (!PATHS.test(fileName)) throw damaged(label, `it holds '${fileName.slice(0, 80)}'`)
    if (found.has(fileName)) throw damaged(label, `it holds ${fileName} twice`)
    const most = MOST_OF.find(([path]) => path.test(fileName))![1]
    if (size > most) throw damaged(label, `${fileName} would unpack to more than is taken in (${most / 1e6} MB)`)
    if (fileName.endsWith('.json') && size > SMALL && size > MOST_RATIO * entry.compressedSize)
      throw damaged(label, `${fileName} would unpack to more than ${MOST_RATIO} times its size`)
    sum += size
    found.set(fileName, entry)
  }
  for (const needed of ['manifest.json', 'contents.json'])
    if (!found.has(needed)) throw damaged(label, `it lacks ${needed}`)
  if (sum > room)
    throw new Fault(
      'full',
      `${label} unpacks to ${(sum / 1e6).toFixed(0)} MB, and the disk has room for ${(Math.max(0, room) / 1e6).toFixed(0)} MB. Make room and bring it in again. Nothing was changed.`,
    )
  return found
}
