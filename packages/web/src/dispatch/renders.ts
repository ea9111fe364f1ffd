import type { Piece, Render } from '@fogbath/contract'
import { deliveryFormat, type Delivery } from '@fogbath/core/delivery'
import { UNTREATED, writtenIn } from '@fogbath/core/treat'
import { refOf } from '../api/encodings'
import type { Wanted } from '../workers/protocol'

/** What is told of a render in a step of its progress. */
export type Step = Pick<Render, 'id' | 'state' | 'done' | 'count' | 'left' | 'rate' | 'message'>

export const isInLine = ({ state }: Pick<Render, 'state'>): boolean =>
  state === 'waiting' || state === 'running' || state === 'paused'

/** What it is kept in, in words. */
export function formatInWords(id: Render['format']): string {
  const { label, ending, moving } = deliveryFormat(id)
  return `${label}, ${moving ? `.${ending}` : `.${ending} in a .zip`}`
}

const timeInWords = (seconds: number): string =>
  seconds < 90 ? `${Math.max(1, Math.round(seconds))} s` : `${Math.round(seconds / 60)} min`

/** How far a render is and how quickly it goes. */
export function paceInWords({ state, done, count, rate, left }: Step): string {
  if (state !== 'running') return state === 'paused' ? `${done}/${count}` : ''
  const words = [`${done}/${count}`]
  if (rate !== null) words.push(`${rate.toFixed(1)} fps`)
  if (left !== null) words.push(`${timeInWords(left)} left`)
  return words.join(' · ')
}

/** How far all that is in line is together; those that were stood aside do not count. */
export function lineInWords(line: readonly Step[]): string {
  const going = line.filter(({ state }) => state !== 'paused')
  const [done, count] = [going.reduce((n, r) => n + r.done, 0), going.reduce((n, r) => n + r.count, 0)]
  const rate = going.find((r) => r.rate !== null)?.rate
  const words = [`${going.length} in line`, `${done} of ${count} frames`]
  if (rate) words.push(`about ${timeInWords((count - done) / rate)} left`)
  return going.length > 0 ? words.join(' · ') : ''
}

/** A move of one by keys: ids in their new order, or null at an end. */
export function movedBy(ids: readonly number[], id: number, by: -1 | 1): number[] | null {
  const at = ids.indexOf(id)
  const to = at + by
  if (at < 0 || to < 0 || to >= ids.length) return null
  const moved = [...ids]
  moved.splice(at, 1)
  moved.splice(to, 0, id)
  return moved
}

type Made = Pick<Render, 'id' | 'pieces' | 'first' | 'count' | 'format' | 'delivery' | keyof Piece>

/** The piece that a frame of a render is of, and the frame in its footage. @param frame counted from 0, without a slate */
function pieceAt(render: Made, frame: number): { readonly piece: Piece; readonly frame: number } {
  if (!render.pieces) return { piece: render, frame: render.first + frame }
  let left = frame
  for (const piece of render.pieces) {
    if (left < piece.count) return { piece, frame: piece.first + left }
    left -= piece.count
  }
  const piece = render.pieces.at(-1)!
  return { piece, frame: piece.first + piece.count - 1 }
}

/** A frame of a render, as the page works it out. */
export function workedOut(render: Made, frame: number, width: number): Wanted {
  const { piece, frame: at } = pieceAt(render, frame)
  const { mediumId, reading, encoding, preparation, recipe, after } = piece
  const order = { encoding: refOf(encoding), preparation, recipe, after }
  return { source: { type: 'shot', mediumId, reading }, frame: at, width, order }
}

/** The same frame of the footage. */
export function ofFootage(render: Made, frame: number, width: number): Wanted {
  const { order, ...wanted } = workedOut(render, frame, width)
  return { ...wanted, order: { ...UNTREATED, encoding: order.encoding } }
}

/** The same frame as it stands in the file that was made. */
export function ofFile(render: Made, frame: number, width: number): Wanted {
  const delivery: Delivery = { ...render.delivery, format: render.format }
  const asked = delivery.to === undefined ? undefined : refOf(delivery.to)
  const encoding = writtenIn(delivery, refOf(pieceAt(render, 0).piece.encoding), asked)
  const at = frame + (delivery.slate ? 1 : 0)
  return { source: { type: 'render', renderId: render.id }, frame: at, width, order: { ...UNTREATED, encoding } }
}
