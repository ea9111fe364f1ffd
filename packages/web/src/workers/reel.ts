import type { Order } from '@fogbath/core/treat'
import type { PlayRequest, ShotSource } from './protocol'

/** A shot of the reel as its edit shows it. */
export interface ReelPart {
  readonly source: ShotSource
  readonly order: Order
  /** Width of its footage, pixels. */
  readonly width: number
  /** First and last frame of footage that are seen. */
  readonly first: number
  readonly last: number
  /** Frames of footage for each that is shown: below 0 backwards, 0 held. */
  readonly speed: number
  /** Frames that it lasts, and how many a second. */
  readonly length: number
  readonly fps: number
  readonly clip: PlayRequest['clip']
}
export interface ReelPlace {
  readonly index: number
  /** Of its footage. */
  readonly frame: number
}
export interface ReelRequest {
  readonly parts: readonly ReelPart[]
  readonly from: ReelPlace
  readonly loop: boolean
}

const secondsOf = ({ length, fps }: ReelPart): number => length / fps
/** Seconds from the beginning to each part, and to the end. */
export function beginningsOf(parts: readonly ReelPart[]): number[] {
  const all = [0]
  for (const part of parts) all.push(all.at(-1)! + secondsOf(part))
  return all
}

const frameOf = ({ first, last, speed, fps }: ReelPart, seconds: number): number => {
  const moved = Math.trunc(seconds * fps * Math.abs(speed) + 1e-6)
  return speed < 0 ? Math.max(first, last - moved) : Math.min(last, first + moved)
}

/** What is shown so many seconds from the beginning; null behind the end. */
export function placeAt(parts: readonly ReelPart[], beginnings: readonly number[], seconds: number): ReelPlace | null {
  const index = parts.findIndex((_, i) => seconds < beginnings[i + 1]!)
  return index < 0 ? null : { index, frame: frameOf(parts[index]!, seconds - beginnings[index]!) }
}

/** When a place is shown; a frame that its edit leaves out at the nearest end of its shot. */
export function secondsAt(parts: readonly ReelPart[], beginnings: readonly number[], place: ReelPlace): number {
  const { first, last, speed, fps } = parts[place.index]!
  const frame = Math.min(last, Math.max(first, place.frame))
  const moved = speed < 0 ? last - frame : frame - first
  return beginnings[place.index]! + (speed === 0 ? 0 : moved / (fps * Math.abs(speed)))
}
