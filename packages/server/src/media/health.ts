import { createHash } from 'node:crypto'
import { lstat } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'
import { setTimeout as sleep } from 'node:timers/promises'
import type { FootageState } from '@fogbath/contract'
import type { Medium } from '../db/models'
import { filesBelow, namesIn, streamOwn } from '../files/own'
import { readNote, writeNote, type FootageNote } from './notes'

type Known = Pick<Medium, 'sha256' | 'name' | 'size' | 'sequence' | 'info'>

const DAY = 24 * 3_600_000
/** Bytes that were not written since are held against their hash again after so long: disks forget. */
const PROVED_FOR = 7 * DAY
/** Between one piece of footage and the next, so that whoever works is not held up. */
const PAUSE_MS = 20

/** Looks after the files that rows point to. */
export class FootageHealth {
  /** Marks under which footage was found to be something else. */
  private readonly wrong = new Map<string, string>()

  constructor(private readonly pathOf: (sha256: string) => string) {}

  /** By existence and size, quickly; by hash as far as that has been held against it. */
  async look(medium: Known): Promise<FootageState> {
    const path = this.pathOf(medium.sha256)
    const found = await lstat(path).catch(() => null)
    if (!found) return 'missing'
    if (found.isDirectory() !== (medium.sequence !== '')) return 'damaged'
    if (medium.sequence) {
      const last = `${String(medium.info.frames - 1).padStart(6, '0')}${medium.sequence}`
      if (!(await lstat(join(path, last)).catch(() => null))) return 'damaged'
    } else if (found.size !== medium.size) return 'damaged'
    const wrong = this.wrong.get(medium.sha256)
    return wrong !== undefined && wrong === (await markOf(path, medium.sequence)) ? 'damaged' : 'here'
  }

  /** By hash, unless the same bytes were held against it not long ago. */
  async prove(medium: Known): Promise<FootageState> {
    const path = this.pathOf(medium.sha256)
    const state = await this.look(medium)
    if (state !== 'here') return state
    const mark = await markOf(path, medium.sequence)
    const note = (await readNote(path)) ?? noteOf(medium)
    const fresh = note.proved?.mark === mark && Math.abs(Date.now() - Date.parse(note.proved.at)) < PROVED_FOR
    const right = fresh ? note.proved.right : (await hashOf(path, medium.sequence)) === medium.sha256
    if (!fresh) await writeNote(path, { ...note, proved: { at: new Date().toISOString(), mark, right } })
    if (right) this.wrong.delete(medium.sha256)
    else this.wrong.set(medium.sha256, mark)
    return right ? 'here' : 'damaged'
  }

  /** All of them, one after the other. @returns those that are not here whole */
  async proveAll(media: readonly Known[], signal: AbortSignal): Promise<{ name: string; state: FootageState }[]> {
    const bad: { name: string; state: FootageState }[] = []
    for (const medium of media) {
      if (signal.aborted) break
      // Footage that goes meanwhile, or that may not be read, is no reason to leave the others.
      const state = await this.prove(medium).catch((): FootageState => 'damaged')
      if (state !== 'here') bad.push({ name: medium.name, state })
      await sleep(PAUSE_MS)
    }
    return bad
  }
}

/** What is written beside footage that a row knows. */
export const noteOf = ({ name, sequence, size, info }: Known): FootageNote => ({
  name,
  sequence,
  size,
  info,
})

/** How a file, or the files of a sequence, lie on the disk: writing to them changes it. */
async function markOf(path: string, sequence: string): Promise<string> {
  if (!sequence) {
    const { size, mtimeMs, ino } = await lstat(path)
    return `${size} ${mtimeMs} ${ino}`
  }
  const files = await filesBelow(path)
  const [size, latest] = [files.reduce((sum, f) => sum + f.size, 0), Math.max(...files.map((f) => f.time))]
  return `${files.length} ${size} ${latest}`
}

/** The SHA-256 of a file; of a sequence that of its stills' hashes and its ending. */
export async function hashOf(path: string, sequence: string): Promise<string> {
  if (!sequence) return hashOfFile(path)
  const stills = (await namesIn(path)).sort()
  const hashes: string[] = []
  for (const name of stills) hashes.push(await hashOfFile(join(path, name)))
  return hashOfStills(hashes, sequence)
}

export function hashOfStills(hashes: readonly string[], sequence: string): string {
  const hash = createHash('sha256')
  for (const one of hashes) hash.update(one)
  return hash.update(sequence).digest('hex')
}

const hashOfFile = async (path: string): Promise<string> => hashOfStream(await streamOwn(path))

export async function hashOfStream(stream: Readable): Promise<string> {
  const hash = createHash('sha256')
  for await (const part of stream) hash.update(part as Buffer)
  return hash.digest('hex')
}
