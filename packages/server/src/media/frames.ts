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

/** Frames decoded together on a miss: playing asks for the next ones anyway. */
const RUN = 12
export const WIDTHS = { lowest: 16, highest: 8192 } as const

/**
 * Decoded frames at preview sizes, kept on disk within a budget; what was used longest ago goes first.
 */
export class FrameCache {
  private readonly underway = new Map<string, Promise<Map<number, Buffer>>>()
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
    const folder = join(this.folder, sha256, String(width))
    const path = (i: number) => join(folder, `${i}.rgb`)
    let bytes: Buffer | null = await readFile(path(index)).catch(() => null)
    if (!bytes) {
      const first = index - (index % RUN)
      const key = `${folder}/${first}`
      let run = this.underway.get(key)
      if (!run) {
        run = this.decode(
          source,
          info,
          { first, count: Math.min(RUN, info.frames - first), width, height },
          path,
        ).finally(() => this.underway.delete(key))
        this.underway.set(key, run)
      }
      // Taken from the run itself: with a small budget the file may be gone again already.
      bytes = (await run).get(index) ?? (await readFile(path(index)))
    }
    const now = new Date()
    await utimes(path(index), now, now).catch(() => undefined)
    return { width, height, format: info.float ? 'f16' : 'u16', bytes }
  }

  private async decode(
    source: Source,
    info: MediaInfo,
    size: { first: number; count: number; width: number; height: number },
    path: (i: number) => string,
  ): Promise<Map<number, Buffer>> {
    await mkdir(join(path(0), '..'), { recursive: true })
    const made = new Map<number, Buffer>()
    let i = size.first
    for await (const { data } of decodeFrames(source, info, size)) {
      const bytes = storedBytes(data)
      const half = `${path(i)}.part`
      await writeFile(half, bytes)
      await rename(half, path(i))
      made.set(i, bytes)
      i++
      await this.account(bytes.length)
    }
    return made
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

function storedBytes(data: FrameData): Buffer {
  const words = data instanceof Float32Array ? Uint16Array.from(data, numberToHalf) : data
  return Buffer.from(words.buffer, words.byteOffset, words.byteLength)
}
