import { type FrameData } from '@fogbath/core/cpu'
import { cropOf, wholeLine, type Crop } from '@fogbath/core/line'
import { decodeAlpha, decodeFrames, hasAlpha } from '../media/decode'
import { Fault } from '../errors'
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
  readonly target: Omit<Target, 'width' | 'height' | 'alpha'>
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
  const crop = cropOf({ baths: wholeLine(o.job.order) }, o.info.width, o.info.height)
  const alpha = o.target.delivery.alpha === true && hasAlpha(o.info)
  const writer = await openWriter({ ...o.target, width: crop.width, height: crop.height, alpha, polite })
  const seen = { first: o.first, count: o.count, polite, ...(o.signal ? { signal: o.signal } : {}) }
  const alphas = alpha ? decodeAlpha(o.source, o.info, seen) : null
  const underway: { codes: Promise<FrameData>; alpha: FrameData | undefined }[] = []
  const spare: ArrayBuffer[] = []
  let done = 0
  const writeOldest = async (): Promise<void> => {
    const oldest = underway.shift()!
    const codes = await oldest.codes
    await writer.write(codes, oldest.alpha && asCodes(cropped(oldest.alpha, o.info.width, crop), o.job.float))
    spare.push(codes.buffer as ArrayBuffer)
    o.onFrame?.(++done)
  }
  try {
    let frame = o.first
    for await (const { data, width, height } of decodeFrames(o.source, o.info, {
      ...seen,
      spare,
    })) {
      o.signal?.throwIfAborted()
      const work = o.pool.work({ data, width, height, frame: frame++, job: o.job })
      // The failure is met when its turn to be written comes; until then it must not count as unhandled.
      work.catch(() => undefined)
      const next = await alphas?.next()
      if (next?.done) throw new Fault('media', `The footage has no alpha for frame ${frame - 1}.`)
      underway.push({ codes: work, alpha: next?.value })
      if (underway.length > o.pool.width) await writeOldest()
    }
    while (underway.length > 0) await writeOldest()
    o.signal?.throwIfAborted()
    await writer.end()
  } catch (error) {
    await Promise.allSettled(underway.map(({ codes }) => codes))
    await alphas?.return(undefined)
    await writer.abort()
    throw error
  }
}

/** What the line leaves of a plane. */
function cropped(plane: FrameData, width: number, crop: Crop): FrameData {
  if (plane.length === crop.width * crop.height) return plane
  const out =
    plane instanceof Float32Array
      ? new Float32Array(crop.width * crop.height)
      : new Uint16Array(crop.width * crop.height)
  for (let y = 0; y < crop.height; y++) {
    const from = (crop.y + y) * width + crop.x
    out.set(plane.subarray(from, from + crop.width), y * crop.width)
  }
  return out
}

/** Alpha as the delivery has its numbers. */
function asCodes(plane: FrameData, float: boolean): FrameData {
  if (plane instanceof Float32Array)
    return float ? plane : Uint16Array.from(plane, (v) => Math.round(65535 * Math.min(1, Math.max(0, v))))
  return float ? Float32Array.from(plane, (v) => v / 65535) : plane
}
