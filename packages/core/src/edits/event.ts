import type { Decision } from '../formats'
import { framesASecond } from '../numbers/frame-rate'
import { frameOf, timecode as timecodeOf } from '../numbers/timecode'

/** One shot of an edit, as its list says it. */
export interface EditEvent {
  /** Where it stands, for messages: `line 12`, or `clip 3 of V1`. */
  readonly place: string
  readonly name: string
  /** What its footage may be called, the likeliest first: files with or without an ending, reels. */
  readonly footage: readonly string[]
  /** Frames of the footage that the edit shows, at `rate` frames a second. */
  readonly first: number
  readonly count: number
  /** Frames that it lasts in the edit. */
  readonly length: number
  readonly rate: string
  /** What `first` counts from: midnight of the footage's timecode, its first frame, or whichever of both holds it. */
  readonly from: 'midnight' | 'start' | 'either'
  /** Frames that dissolves and wipes show besides, before and behind. */
  readonly handles: { readonly before: number; readonly after: number }
  /** Frames of footage for each that is shown: 1 as it was taken, below 0 backwards, 0 held. */
  readonly speed: number
  readonly decision: Decision | null
}

export interface EditList {
  readonly title: string
  readonly events: readonly EditEvent[]
  /** What could not be read, each in a sentence that says where it stands; the rest is there. */
  readonly left: readonly string[]
}

/** What is known of a file that an event may be from. */
export interface EditedFootage {
  readonly name: string
  readonly frames: number
  readonly fps: string
  /** Of its first frame; left out where it carries none. */
  readonly timecode?: string
}

/** Frames from midnight to a whole timecode; dropped numbers are left out where a semicolon stands before its frames. */
export const framesFromMidnight = (text: string, fps: string): number => frameOf(text, 0, fps, midnightOf(text))
/** Midnight as such timecode writes it. */
const midnightOf = (text: string): string => (text.includes(';') ? '00:00:00;00' : '00:00:00:00')

/** Frames of footage that an edit takes, counted from 0, both included; handles are within them. */
export interface EditedRange {
  readonly first: number
  readonly last: number
  readonly before: number
  readonly after: number
}

/**
 * The frames of footage that an event shows, handles with them.
 * @returns or why it is not from this footage
 */
export function framesIn(event: EditEvent, footage: EditedFootage): EditedRange | string {
  const { name, frames, fps, timecode = '00:00:00:00' } = footage
  // A still shows itself, whatever its list counts from.
  if (frames === 1) return { first: 0, last: 0, before: 0, after: 0 }
  // An edit may count in another rate than its footage.
  const scale = rateScale(event.rate, fps)
  const [shown, before, after] = [event.count, event.handles.before, event.handles.after].map((v) =>
    Math.ceil(v * scale),
  )
  const first = Math.round(event.first * scale)
  const starts = { midnight: framesFromMidnight(timecode, fps), start: 0 }
  const counts = event.from === 'either' ? (['midnight', 'start'] as const) : [event.from]
  for (const from of counts) {
    const at = first - starts[from]
    // What a dissolve shows beyond the end of the footage is not there to be shown.
    if (at >= 0 && at + shown! <= frames) {
      const [first, end] = [Math.max(0, at - before!), Math.min(frames, at + shown! + after!)]
      return { first, last: end - 1, before: at - first, after: end - at - shown! }
    }
  }
  const last = timecodeOf(frames - 1, fps, timecode)
  const counted = event.from === 'start' ? timecode : midnightOf(timecode)
  const [from, to] = [first, first + shown! - 1].map((n) => timecodeOf(n, fps, counted))
  return `${name} goes from ${timecode} to ${last}, and the edit shows ${from} to ${to}.`
}

/** Frames at one rate for each at another, both as timecode counts them. */
export const rateScale = (from: string, to: string): number =>
  Math.round(framesASecond(to)) / Math.round(framesASecond(from)) || 1

/** Frames of footage that so many frames of an edit show at a speed; a held one shows one. */
export const framesShown = (count: number, speed: number): number =>
  Math.max(1, Math.ceil(count * Math.abs(speed) - 1e-9))
