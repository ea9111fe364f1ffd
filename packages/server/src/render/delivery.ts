import type { Delivery } from '@fogbath/core/delivery'
import { encodingOf, type EncodingRef } from '@fogbath/core/encodings'
import { framesASecond, timecode } from '@fogbath/core/numbers'
import type { MediaInfo } from '@fogbath/contract'
import type { Render } from '../db/models'
import type { BurnIn, Slate } from '../media/burn-in'
import type { ClipNotes } from '../media/encode'

type Delivered = Pick<Render, 'format' | 'delivery' | 'label' | 'recipe' | 'first' | 'count' | 'edition' | 'pieces'>

/** What a render becomes. */
export const deliveryOf = ({ format, delivery }: Pick<Delivered, 'format' | 'delivery'>): Delivery => ({
  ...delivery,
  format,
})

/** What is told of a run of frames: in the picture, before it, in the file. */
export interface Told {
  /** What it is called. */
  readonly label: string
  readonly look: string
  readonly info: MediaInfo
  readonly first: number
  readonly count: number
}

/** Timecode of a frame, where its footage carries some or a rate to count by. */
const timeAt = ({ info }: Told, frame: number): string | null =>
  info.kind === 'still' ? null : timecode(frame, info.fps, info.timecode)

/** Frames that stand before the others. */
export const leadOf = ({ slate }: Pick<Delivery, 'slate'>): 0 | 1 => (slate ? 1 : 0)

/** Rate of what is written: stills in a row are shown as film is. */
export const rateOf = (fps: string): string => (framesASecond(fps) > 0 ? fps : '24')

/** What is written into pictures. @param slated their first frame is a slate */
export function burnInOf({ burnIn }: Delivery, told: Told, slated: boolean): BurnIn | null {
  if (!burnIn) return null
  return {
    shot: burnIn.shot ? told.label : null,
    timecode: burnIn.timecode ? timeAt(told, told.first - (slated ? 1 : 0)) : null,
    fps: rateOf(told.info.fps),
    note: burnIn.note ?? null,
  }
}

/** What stands before a clip. Of what changes from day to day it says nothing: the same render is the same file. */
export function slateOf({ slate, burnIn }: Delivery, told: Told, edition: string, encoding: EncodingRef): Slate | null {
  if (!slate) return null
  const { label, look, count, first, info } = told
  const [from, to] = [timeAt(told, first), timeAt(told, first + count - 1)]
  const rate = info.kind === 'still' ? '' : `, ${Number(framesASecond(info.fps).toFixed(3))} a second`
  return {
    title: label,
    lines: [
      look,
      ...(from && to ? [`${from} to ${to}`] : []),
      `${count} ${count === 1 ? 'frame' : 'frames'}${rate}`,
      encodingOf(encoding).label,
      ...(burnIn?.note ? [burnIn.note] : []),
      `edition ${edition}`,
    ],
  }
}

/** What a clip says of itself: its timecode goes on from that of the footage; the look and what worked it out. */
export function notesOf(delivery: Delivery, { look, first, info }: Told, edition: string): ClipNotes {
  const start = info.timecode ? timecode(first - leadOf(delivery), info.fps, info.timecode) : undefined
  return { timecode: start, made: `Fog Bath, ${look}, edition ${edition}` }
}
