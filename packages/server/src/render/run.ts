import { type FrameData } from '@fogbath/core/cpu'
import { cropOf, wholeLine } from '@fogbath/core/line'
import { decodeFrames } from '../media/decode'
import { openWriter, type Target } from '../media/encode'
import type { MediaInfo } from '@fogbath/contract'
import type { Source } from '../media/source'
import type { Job } from './frame-worker'
import type { FramePool } from './pool'

export interface RunOptions {
  readonly source: Source
  readonly info: MediaInfo
  readonly first: number
  readonly count: number
  readonly job: Job
  /** Its size is that of what the line leaves of the footage. */
  readonly target: Omit<Target, 'width' | 'height'>
  readonly pool: FramePool
  readonly signal?: AbortSignal
  /** Gives way to everything else on this machine. */
  readonly polite?: boolean
  /** Called after each written frame with how many are done. */
  readonly onFrame?: (done: number) => void
}

/**
 * Decodes, works on and writes a run of frames. A few frames are under way at once, so memory does not grow with
 * length; they are written in order. When anything fails the writer is stopped and the error goes to the caller.
 */
export async function runFrames(o: RunOptions): Promise<void> {
  const polite = o.polite ?? false
  const { width, height } = cropOf({ baths: wholeLine(o.job.order) }, o.info.width, o.info.height)
  const writer = await openWriter({ ...o.target, width, height, polite })
  const underway: Promise<FrameData>[] = []
  const spare: ArrayBuffer[] = []
  let done = 0
  const writeOldest = async (): Promise<void> => {
    const codes = await underway.shift()!
    await writer.write(codes)
    spare.push(codes.buffer as ArrayBuffer)
    o.onFrame?.(++done)
  }
  try {
    let frame = o.first
    for await (const { data, width, height } of decodeFrames(o.source, o.info, {
      first: o.first,
      count: o.count,
      polite,
      spare,
      ...(o.signal ? { signal: o.signal } : {}),
    })) {
      o.signal?.throwIfAborted()
      const work = o.pool.work({ data, width, height, frame: frame++, job: o.job })
      // The failure is met when its turn to be written comes; until then it must not count as unhandled.
      work.catch(() => undefined)
      underway.push(work)
      if (underway.length > o.pool.width) await writeOldest()
    }
    while (underway.length > 0) await writeOldest()
    o.signal?.throwIfAborted()
    await writer.end()
  } catch (error) {
    await Promise.allSettled(underway)
    await writer.abort()
    throw error
  }
}
