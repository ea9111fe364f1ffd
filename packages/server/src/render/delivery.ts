import type { Delivery } from '@fogbath/core/delivery'
import { timecode } from '@fogbath/core/numbers'
import type { Render } from '../db/models'
import type { BurnIn } from '../media/burn-in'
import type { ClipNotes } from '../media/encode'
import type { Footage } from '../media/store'

type Delivered = Pick<Render, 'format' | 'delivery' | 'label' | 'recipe' | 'first' | 'edition'>

/** What a render becomes. */
export const deliveryOf = ({ format, delivery }: Pick<Delivered, 'format' | 'delivery'>): Delivery => ({
  ...delivery,
  format,
})

/** Timecode of a frame, where its footage carries some or a rate to count by. */
const timeAt = ({ info }: Footage, frame: number): string | null =>
  info.kind === 'still' ? null : timecode(frame, info.fps, info.timecode)

/** What is written into the pictures of a part. */
export function burnInOf(render: Delivered, medium: Footage, first: number): BurnIn | null {
  const { burnIn } = render.delivery
  if (!burnIn) return null
  return {
    shot: burnIn.shot ? render.label : null,
    timecode: burnIn.timecode ? timeAt(medium, first) : null,
    fps: medium.info.fps,
    note: burnIn.note ?? null,
  }
}

/** What a clip says of itself: its timecode goes on from that of the footage; the look and what worked it out. */
export const notesOf = ({ recipe, first, edition }: Delivered, { info }: Footage): ClipNotes => ({
  ...(info.timecode && { timecode: timecode(first, info.fps, info.timecode) }),
  made: `Fog Bath, ${recipe.name}, edition ${edition}`,
})
