import type { MediaInfo } from '@fogbath/contract'
import { conformed, nearestRate } from '@fogbath/core/footage'
import { frameRate, type Stream } from './tags'

/** Further than so many frames from where a steady rate would have it, a picture shows that the rate is not steady. */
const APART = 0.6

/**
 * Frames and rate of a clip. One whose pictures do not come at a steady rate is conformed to the usual rate that lies
 * nearest to the one at which most of them come: it has as many frames as its seconds have then, and says how many those are.
 * @param times at which pictures are shown, seconds, in any order; none where the file does not tell
 */
export function rateOf(
  stream: Stream,
  frames: number,
  times: readonly number[],
): Pick<MediaInfo, 'fps' | 'frames' | 'varies'> {
  const fps = frameRate(stream)
  const ordered = [...times].sort((a, b) => a - b)
  if (frames < 3 || ordered.length !== frames) return { fps, frames }
  const first = ordered[0]!
  const length = ordered.at(-1)! - first
  const mean = length / (frames - 1)
  const between = ordered.slice(1).map((t, i) => t - ordered[i]!)
  const usual = between.sort((a, b) => a - b)[between.length >> 1]!
  if (usual <= 0 || ordered.every((t, i) => Math.abs(t - first - i * mean) <= APART * mean)) return { fps, frames }
  const rate = nearestRate(1 / usual)
  // The last one is shown for as long as the others are on the whole.
  return { fps: rate, frames: conformed(length + mean, rate), varies: length + mean }
}
