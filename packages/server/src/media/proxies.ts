import { mkdir, rename, rm, stat, utimes } from 'node:fs/promises'
import { join } from 'node:path'
import type { MediaInfo } from '@fogbath/contract'
import { PROXY_WIDTH, keyOfReading } from '@fogbath/core/footage'
import { framesASecond } from '@fogbath/core/numbers'
import PQueue from 'p-queue'
import { filesBelow } from '../files/own'
import { decodeFrames } from './decode'
import { writeProxy } from './proxy-file'
import type { Source } from './source'

/** Footage as far as proxies go, with its info as it is read. */
interface Proxied {
  readonly sha256: string
  readonly info: MediaInfo
}
/** A proxy in the making, or made. */
export interface ProxyState {
  readonly key: string
  readonly state: 'waiting' | 'making' | 'made'
  /** 0..1. */
  readonly share: number
  readonly bytes: number
}

/** Slower than it plays by so much, with room for the rest of the work. */
const MARGIN = 1.2
/** Shorter ones are made ready as frames. */
const FEWEST_FRAMES = 24

/** Whether footage decodes slower than it plays, as it was measured when it was taken in. */
export const needsProxy = ({ speed, fps, frames }: MediaInfo): boolean =>
  speed !== undefined && frames >= FEWEST_FRAMES && speed < MARGIN * framesASecond(fps)

const keyOf = ({ sha256, info }: Proxied): string => [sha256, keyOfReading(info.reading)].filter(Boolean).join('.')
const even = (side: number): number => 2 * Math.max(1, Math.round(side / 2))
function sizeOf({ width, height }: MediaInfo): { width: number; height: number } {
  const wide = even(Math.min(PROXY_WIDTH, width))
  return { width: wide, height: even((height * wide) / width) }
}

/**
 * Small copies of footage that decodes slower than it plays: clips of the working size, for looking alone. They are made one
 * after the other, giving way to all else, and kept within a budget; what was used longest ago goes first, and comes back
 * when it is looked at.
 */
export class Proxies {
  private readonly queue = new PQueue({ concurrency: 1 })
  private readonly underway = new Map<string, { share: number; begun: boolean }>()
  private readonly stop = new AbortController()

  constructor(
    readonly folder: string,
    readonly budget = 20e9,
  ) {}

  /** The proxy of footage, or null until there is one; then it is on its way. */
  async of(footage: Proxied, source: Source): Promise<{ source: Source; info: MediaInfo } | null> {
    if (!needsProxy(footage.info)) return null
    const key = keyOf(footage)
    const path = this.pathOf(key)
    if (!(await stat(path).catch(() => null))) {
      this.make(key, footage.info, source)
      return null
    }
    const now = new Date()
    await utimes(path, now, now).catch(() => undefined)
    const { info } = footage
    const { frames, fps, encoding } = info
    const made = { kind: 'clip', codec: 'h264', pixelFormat: 'yuv420p10le', bits: 10, float: false } as const
    const as = { matrix: '709', range: 'limited', encoding } as const
    return {
      source: { type: 'file', path, proxy: { of: keyOfReading(info.reading), light: info.float } },
      info: { ...made, ...as, ...sizeOf(info), frames, fps, warnings: [] },
    }
  }

  private pathOf = (key: string): string => join(this.folder, `${key}.mp4`)

  private make(key: string, info: MediaInfo, source: Source): void {
    if (this.underway.has(key)) return
    const progress = { share: 0, begun: false }
    this.underway.set(key, progress)
    void this.queue
      .add(async () => {
        progress.begun = true
        await this.write(key, info, source, (share) => (progress.share = share))
      })
      // What cannot be made is not: the footage itself is looked at, and it is tried again when it is.
      .catch(() => undefined)
      .finally(() => this.underway.delete(key))
  }

  private async write(key: string, info: MediaInfo, source: Source, tell: (share: number) => void): Promise<void> {
    const { signal } = this.stop
    signal.throwIfAborted()
    await mkdir(this.folder, { recursive: true })
    const half = `${this.pathOf(key)}.part`
    const size = sizeOf(info)
    try {
      const frames = decodeFrames(source, info, { first: 0, count: info.frames, ...size, polite: true, signal })
      await writeProxy(half, { ...size, fps: info.fps }, frames, (done) => tell(done / info.frames))
      await rename(half, this.pathOf(key))
    } finally {
      await rm(half, { force: true })
    }
    await this.keepBudget(key)
  }

  private async keepBudget(newest: string): Promise<void> {
    const files = (await this.files()).sort((a, b) => a.time - b.time)
    let used = files.reduce((sum, f) => sum + f.size, 0)
    for (const { path, size } of files) {
      if (used <= this.budget) return
      if (path === this.pathOf(newest)) continue
      await rm(path, { force: true })
      used -= size
    }
  }

  private files = async () => (await filesBelow(this.folder)).filter(({ path }) => path.endsWith('.mp4'))

  list = async (): Promise<ProxyState[]> => {
    const made = (await this.files()).map(({ path, size }) => ({
      key: path.slice(this.folder.length + 1, -'.mp4'.length),
      state: 'made' as const,
      share: 1,
      bytes: size,
    }))
    const coming = [...this.underway].map(([key, { share, begun }]) => ({
      key,
      state: begun ? ('making' as const) : ('waiting' as const),
      share,
      bytes: 0,
    }))
    return [...coming, ...made.filter((m) => !this.underway.has(m.key))]
  }

  /** It comes back when its footage is looked at. */
  remove = (key: string): Promise<void> => rm(this.pathOf(key), { force: true })

  async close(): Promise<void> {
    this.stop.abort()
    this.queue.clear()
    await this.queue.onIdle()
  }
}
