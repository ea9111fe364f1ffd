import { mkdir, rename, rm, stat, utimes, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import { type FrameData } from '@fogbath/core/cpu'
import { keyOfReading } from '@fogbath/core/footage'
import { numberToHalf } from '@fogbath/core/numbers'
import PQueue from 'p-queue'
import { Fault } from '../errors'
import { filesBelow, readOwn } from '../files/own'
import { decodeFrames } from './decode'
import type { MediaInfo } from '@fogbath/contract'
import type { Source } from './source'

export interface ServedFrame {
  readonly width: number
  readonly height: number
  /** `u16`: 0..65535 is 0..1. `f16`: half floats of float footage. Interleaved RGB, little-endian. */
  readonly format: 'u16' | 'f16'
  readonly bytes: Buffer
}

/**
 * Frames decoded together on a miss: playing asks for the next ones anyway. Each is served as soon as it is there. Large
 * frames come in shorter runs, because a run is held until it is whole.
 */
const RUN = 24
const RUN_BYTES = 300e6
/** Decoders at work at once; what is asked for beyond that waits its turn. */
const DECODERS = 3
export const WIDTHS = { lowest: 16, highest: 8192 } as const
/** Widths that are kept; the next larger one is served, so that many callers cannot ask for many sizes of one frame. */
const LADDER = [80, 160, 320, 640, 960, 1280, 1920, 2560, 3840, 5120, 8192]

/** The width that is served: never above the footage's own. */
const servedWidth = (wanted: number, own: number): number => Math.min(own, LADDER.find((w) => w >= wanted) ?? own)

/**
 * Decoded frames at preview sizes, kept on disk within a budget; what was used longest ago goes first.
 */
export class FrameCache {
  private readonly underway = new Map<string, Run>()
  private readonly decoders = new PQueue({ concurrency: DECODERS })
  private used = -1

  constructor(
    private readonly folder: string,
    private readonly budget = 4e9,
  ) {}

  /**
   * One frame, at least as wide as wanted or as wide as the footage.
   * @param gone says that whoever asked has gone; a run that nobody waits for any more is given up
   */
  async frame(
    source: Source,
    info: MediaInfo,
    sha256: string,
    index: number,
    wanted: number,
    gone?: AbortSignal,
  ): Promise<ServedFrame> {
    if (index < 0 || index >= info.frames)
      throw new Fault('not-found', `Frame ${index} does not exist; the footage has frames 0 to ${info.frames - 1}.`)
    const width = servedWidth(wanted, info.width)
    const height = Math.max(1, Math.round((info.height * width) / info.width))
    const clip = {
      source,
      info,
      width,
      height,
      folder: join(this.folder, sha256, variantOf(source, info, width)),
    }
    const path = pathOf(clip, index)
    const length = runLength(clip)
    const first = index - (index % length)
    // Taken from the run itself: with a small budget the file may be gone again already.
    const bytes = (await readOwn(path).catch(() => null)) ?? (await this.runAt(clip, first).wait(index, gone))
    const now = new Date()
    await utimes(path, now, now).catch(() => undefined)
    if (index - first >= length / 2) void this.runAhead(clip, first + length)
    return { width, height, format: isLight(source, info) ? 'f16' : 'u16', bytes }
  }

  /** The run of frames that begins there, decoded now unless that is going on already. */
  private runAt(clip: Clip, first: number): Run {
    const key = `${clip.folder}/${first}`
    const known = this.underway.get(key)
    if (known) return known
    const run = new Run(first, Math.min(runLength(clip), clip.info.frames - first))
    this.underway.set(key, run)
    void this.decoders
      .add(() => this.decode(clip, run))
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
    const { first, count, given } = run
    given.throwIfAborted()
    await mkdir(clip.folder, { recursive: true })
    let i = first
    for await (const { data } of decodeFrames(clip.source, clip.info, { ...clip, first, count, signal: given })) {
      const bytes = storedBytes(data)
      run.give(i, bytes)
      await this.account(bytes.length)
      await store(pathOf(clip, i), bytes)
      i++
    }
  }

  /** Makes room for a file that is about to be written: over budget the cache is emptied to three quarters. */
  private async account(bytes: number): Promise<void> {
    if (this.used < 0) this.used = (await this.list()).reduce((sum, f) => sum + f.size, 0)
    this.used += bytes
    if (this.used <= this.budget) return
    const files = (await this.list()).sort((a, b) => a.time - b.time)
    this.used = bytes + files.reduce((sum, f) => sum + f.size, 0)
    for (const file of files) {
      if (this.used <= this.budget * 0.75) break
      await rm(file.path, { force: true })
      this.used -= file.size
    }
  }

  private async list(): Promise<{ path: string; size: number; time: number }[]> {
    return (await filesBelow(this.folder)).filter(({ path }) => path.endsWith('.rgb'))
  }
}

/** A frame has its name only when it is whole; on a full disk nothing of it is left. */
async function store(path: string, bytes: Buffer): Promise<void> {
  const half = `${path}.part`
  try {
    await writeFile(half, bytes)
    await rename(half, path)
  } catch (error) {
    await rm(half, { force: true })
    throw error
  }
}

const isLight = (source: Source, info: MediaInfo): boolean =>
  info.float || (source.type === 'file' && source.proxy?.light === true)

/** Frames of one width, read in one way, from the footage or its proxy. */
function variantOf(source: Source, info: MediaInfo, width: number): string {
  const proxy = source.type === 'file' ? source.proxy : undefined
  return [width, ...(proxy ? ['proxy', proxy.of] : [keyOfReading(info.reading)])].filter(Boolean).join('.')
}

interface Clip {
  readonly source: Source
  readonly info: MediaInfo
  readonly width: number
  readonly height: number
  readonly folder: string
}

const pathOf = ({ folder }: Clip, i: number): string => join(folder, `${i}.rgb`)

const runLength = ({ width, height, info }: Clip): number =>
  Math.max(1, Math.min(RUN, Math.floor(RUN_BYTES / (width * height * (info.float ? 12 : 6)))))

/** Frames that are being decoded, each a promise of its own. */
class Run {
  private waiters = 0
  private readonly stop = new AbortController()
  /** Tells that the run was given up. */
  readonly given = this.stop.signal
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

  /** A frame of the run, for somebody who may go before it is there; when the last one has gone the run is given up. */
  async wait(index: number, gone?: AbortSignal): Promise<Buffer> {
    this.waiters++
    const leave = (): void => {
      if (--this.waiters === 0) this.stop.abort(new Fault('busy', 'Nobody waits for this frame any more.'))
    }
    if (gone?.aborted) leave()
    else gone?.addEventListener('abort', leave, { once: true })
    try {
      return await this.promises[index - this.first]!
    } finally {
      gone?.removeEventListener('abort', leave)
    }
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
