import { mkdir, readFile, readdir, rename, rm, stat, utimes, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { numberToHalf, type FrameData } from '@fogbath/core'
import { Fault } from '../errors'
import { decodeFrames } from './decode'
import type { MediaInfo } from './probe'
import type { Source } from './source'

export interface ServedFrame {
  readonly width: number
  readonly height: number
  /** `u16`: 0..65535 is 0..1. `f16`: half floats of float footage. Interleaved RGB, little-endian. */
  readonly format: 'u16' | 'f16'
  readonly bytes: Buffer
}

/** Frames decoded together on a miss: playing asks for the next ones anyway. Each is served as soon as it is there. */
const RUN = 24
export const WIDTHS = { lowest: 16, highest: 8192 } as const

/**
 * Decoded frames at preview sizes, kept on disk within a budget; what was used longest ago goes first.
 */
export class FrameCache {
  private readonly underway = new Map<string, Run>()
  private used = -1

  constructor(
    private readonly folder: string,
    private readonly budget = 4e9,
  ) {}

  /** One frame at a width (never above the footage's own). */
  async frame(source: Source, info: MediaInfo, sha256: string, index: number, wanted: number): Promise<ServedFrame> {
    if (index < 0 || index >= info.frames)
      throw new Fault('not-found', `Frame ${index} does not exist; the footage has frames 0 to ${info.frames - 1}.`)
    const width = Math.min(wanted, info.width)
    const height = Math.max(1, Math.round((info.height * width) / info.width))
    const clip = { source, info, width, height, folder: join(this.folder, sha256, String(width)) }
    const path = pathOf(clip, index)
    const first = index - (index % RUN)
    // Taken from the run itself: with a small budget the file may be gone again already.
    const bytes = (await readFile(path).catch(() => null)) ?? (await this.runAt(clip, first).frame(index))
    const now = new Date()
    await utimes(path, now, now).catch(() => undefined)
    if (index - first >= RUN / 2) void this.runAhead(clip, first + RUN)
    return { width, height, format: info.float ? 'f16' : 'u16', bytes }
  }

  /** The run of frames that begins there, decoded now unless that is going on already. */
  private runAt(clip: Clip, first: number): Run {
    const key = `${clip.folder}/${first}`
    const known = this.underway.get(key)
    if (known) return known
    const run = new Run(first, Math.min(RUN, clip.info.frames - first))
    this.underway.set(key, run)
    void this.decode(clip, run)
      .catch((error: unknown) => run.fail(error))
      .finally(() => this.underway.delete(key))
    return run
  }

  /** In the second half of a run the next one is made ready. */
  private async runAhead(clip: Clip, first: number): Promise<void> {
    if (first >= clip.info.frames || (await stat(pathOf(clip, first)).catch(() => null))) return
    this.runAt(clip, first)
  }

  private async decode(clip: Clip, run: Run): Promise<void> {
    await mkdir(clip.folder, { recursive: true })
    let i = run.first
    const { first, count } = run
    for await (const { data } of decodeFrames(clip.source, clip.info, { ...clip, first, count })) {
      const bytes = storedBytes(data)
      run.give(i, bytes)
      const half = `${pathOf(clip, i)}.part`
      await writeFile(half, bytes)
      await rename(half, pathOf(clip, i))
      i++
      await this.account(bytes.length)
    }
  }

  /** Adds to the measured size and empties the cache to three quarters when it is over budget. */
  private async account(bytes: number): Promise<void> {
    if (this.used < 0) this.used = (await this.list()).reduce((sum, f) => sum + f.size, 0)
    else this.used += bytes
    if (this.used <= this.budget) return
    const files = (await this.list()).sort((a, b) => a.time - b.time)
    this.used = files.reduce((sum, f) => sum + f.size, 0)
    for (const file of files) {
      if (this.used <= this.budget * 0.75) break
      await rm(file.path, { force: true })
      this.used -= file.size
    }
  }

  private async list(): Promise<{ path: string; size: number; time: number }[]> {
    const names = await readdir(this.folder, { recursive: true }).catch(() => [])
    const files = await Promise.all(
      names
        .filter((n) => n.endsWith('.rgb'))
        .map(async (n) => {
          const path = join(this.folder, n)
          const found = await stat(path).catch(() => null)
          return found ? [{ path, size: found.size, time: found.mtimeMs }] : []
        }),
    )
    return files.flat()
  }
}

interface Clip {
  readonly source: Source
  readonly info: MediaInfo
  readonly width: number
  readonly height: number
  readonly folder: string
}

const pathOf = ({ folder }: Clip, i: number): string => join(folder, `${i}.rgb`)

/** Frames that are being decoded, each a promise of its own. */
class Run {
  private readonly waiting: { resolve: (bytes: Buffer) => void; reject: (error: unknown) => void }[] = []
  private readonly promises: Promise<Buffer>[] = []

  constructor(
    readonly first: number,
    readonly count: number,
  ) {
    for (let i = 0; i < count; i++) {
      const promise = new Promise<Buffer>((resolve, reject) => this.waiting.push({ resolve, reject }))
      // A failure is met by those who ask for the frame; for the others it must not count as unhandled.
      promise.catch(() => undefined)
      this.promises.push(promise)
    }
  }

  frame(index: number): Promise<Buffer> {
    return this.promises[index - this.first]!
  }
  give(index: number, bytes: Buffer): void {
    this.waiting[index - this.first]?.resolve(bytes)
  }
  fail(error: unknown): void {
    for (const { reject } of this.waiting) reject(error)
  }
}

function storedBytes(data: FrameData): Buffer {
  const words = data instanceof Float32Array ? Uint16Array.from(data, numberToHalf) : data
  return Buffer.from(words.buffer, words.byteOffset, words.byteLength)
}
