import type { MaskPart } from '@fogbath/core/masks'
import { ShapeTrack, greyOf, type Grey, type Motion, type Tracked } from '@fogbath/core/tracking'
import type { MediaInfo } from '@fogbath/contract'
import { Fault } from '../errors'
import { decodeFrames } from './decode'
import type { Source } from './source'

/** Width at which frames are looked at, pixels. */
const WIDTH = 960
/** Frames that are decoded together where the way goes backwards. */
const BLOCK = 48

/** Which frames are looked at: those behind the shape's own, those before it, or both. */
export type TrackWay = 'both' | 'forward' | 'back'

export interface TrackOptions {
  /** The frame that shows the shape, counted from 0. */
  readonly frame: number
  readonly motions: readonly Motion[]
  readonly way?: TrackWay
  /** Frames that are looked at at most; all of the footage when left out. */
  readonly range?: { readonly first: number; readonly last: number }
  /** Called after each frame with how many were looked at, and what was found in it. */
  readonly onFrame?: (done: number, found: Tracked | null) => void
  readonly signal?: AbortSignal
}

export interface ShapeFound {
  /** In the order of frames. */
  readonly found: readonly Tracked[]
  /** Frames in which the shape was lost on its way forward or back. */
  readonly lost: readonly number[]
}

/** How many frames are looked at at most, the shape's own among them. */
export const framesTracked = (frame: number, way: TrackWay, { first, last }: { first: number; last: number }): number =>
  1 + (way === 'back' ? 0 : last - frame) + (way === 'forward' ? 0 : frame - first)

/** Tracks a shape through footage, from its frame to the ends or to where it is lost. */
export async function trackShape(
  source: Source,
  info: MediaInfo,
  part: MaskPart,
  {
    frame,
    motions,
    way = 'both',
    range: { first: from, last: to } = { first: 0, last: info.frames - 1 },
    onFrame,
    signal,
  }: TrackOptions,
): Promise<ShapeFound> {
  const width = Math.min(WIDTH, info.width)
  const height = Math.max(1, Math.round((info.height * width) / info.width))
  async function* greys(first: number, count: number): AsyncGenerator<Grey> {
    const run = { first, count, width, height, ...(signal && { signal }) }
    for await (const { data } of decodeFrames(source, info, run))
      yield greyOf(data, width, height, info.float ? 1 : 65535)
  }
  async function* backwards(): AsyncGenerator<Grey> {
    for (let end = frame; end > from; end -= BLOCK) {
      const first = Math.max(from, end - BLOCK)
      yield* (await collected(greys(first, end - first))).reverse()
    }
  }
  const [own] = await collected(greys(frame, 1))
  if (!own) throw new Fault('media', `Frame ${frame} could not be read.`)
  const found: Tracked[] = [{ frame, corners: new ShapeTrack(part, own, motions).cornersNow(), used: 1 }]
  onFrame?.(1, found[0]!)
  const lost: number[] = []
  let done = 1
  async function follow(frames: AsyncGenerator<Grey>, by: 1 | -1): Promise<void> {
    const track = new ShapeTrack(part, own!, motions)
    let at = frame
    for await (const grey of frames) {
      at += by
      const there = track.next(at, grey)
      onFrame?.(++done, there)
      if (there) found.push(there)
      else return void lost.push(at)
    }
  }
  if (way !== 'back') await follow(greys(frame + 1, to - frame), 1)
  if (way !== 'forward') await follow(backwards(), -1)
  return { found: found.sort((a, b) => a.frame - b.frame), lost }
}

async function collected<T>(list: AsyncIterable<T>): Promise<T[]> {
  const all: T[] = []
  for await (const one of list) all.push(one)
  return all
}
