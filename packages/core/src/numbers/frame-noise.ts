import { hash32 } from './random'

/** A number -1..1 for a frame, evenly spread and of mean 0. @param of what it is for, so that each has its own */
export const noiseOfFrame = (seed: number, of: number, frame: number): number =>
  hash32(hash32(hash32(seed | 0) + of) + frame) / 0x7fffffff - 1

/** The same, changing slowly: another number every `frames`, smooth between. */
export function slowNoise(seed: number, of: number, frame: number, frames: number): number {
  const place = frame / frames
  const part = place - Math.floor(place)
  const [a, b] = [0, 1].map((i) => noiseOfFrame(seed, of, Math.floor(place) + i)) as [number, number]
  return a + (b - a) * (part * part * (3 - 2 * part))
}
