import { availableParallelism } from 'node:os'
import type { MediaInfo } from '@fogbath/contract'
import { PROXY_WIDTH } from '@fogbath/core/footage'
import { decodeArgs } from './decode'
import { processorSeconds } from './ffmpeg'
import type { Source } from './source'

/** Frames by which the speed of decoding is measured. */
const MEASURED = 24
/** What ffmpeg takes to start, seconds of a processor (measured: 0.06 to 0.12). */
const START = 0.1
/** A decoder keeps no more processors busy than about so many. */
const MOST_BUSY = 4

/**
 * How many frames a second of footage are decoded at the working size, by the time that processors work on it: how busy the
 * machine is at the moment does not count. What a decoder takes to start is taken off.
 */
export async function speedOf(source: Source, info: MediaInfo): Promise<Pick<MediaInfo, 'speed'>> {
  if (info.frames < MEASURED) return {}
  const width = Math.min(PROXY_WIDTH, info.width)
  const size = { width, height: Math.max(1, Math.round((info.height * width) / info.width)) }
  const first = Math.floor((info.frames - MEASURED) / 2)
  const args = [...decodeArgs(source, info, { first, count: MEASURED, ...size }), '-f', 'null', '-']
  const seconds = (await processorSeconds(args)) - START
  const busy = Math.min(MOST_BUSY, availableParallelism())
  return { speed: Math.round((10 * busy * MEASURED) / Math.max(0.01, seconds)) / 10 }
}
