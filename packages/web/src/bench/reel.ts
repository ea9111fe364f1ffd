import type { Shot } from '@fogbath/contract'
import { plainCut } from '@fogbath/core/edits'
import { readsMatrix } from '@fogbath/core/cpu'
import type { Line, Look } from '@fogbath/core/line'
import { framesASecond } from '@fogbath/core/numbers'
import { frameOrder, sourceOf } from '../workers/order'
import type { PlayRequest } from '../workers/protocol'
import type { ReelPart } from '../workers/reel'

/** The clip of a shot, where the page can come to the same numbers as the server. */
export function clipOf({ mediumId, reading, medium: { info } }: Shot): PlayRequest['clip'] {
  const { kind, width, height, frames, bits, matrix, range, chromaAt } = info
  const usual = range === 'limited' && (chromaAt === 'left' || chromaAt === 'unspecified')
  // What is done to the frames themselves is the server's work.
  const asStored = info.varies === undefined && !reading.fields && !info.stored && !reading.bits
  const even = width % 2 === 0 && height % 2 === 0
  if (kind !== 'clip' || !usual || !asStored || !even || !readsMatrix(matrix)) return null
  return { mediumId, width, height, frames, bits, matrix }
}

/** A still that no edit says a length of is seen so long. */
const STILL_SECONDS = 2
const STILL_RATE = 24

/** A shot in the reel: what its edit shows of it, without what is only there for dissolves. */
export function partOf(shot: Shot, line: Look & Partial<Line>): ReelPart {
  const { info } = shot.medium
  const fps = framesASecond(info.fps) || STILL_RATE
  const still = { before: 0, after: 0, speed: 0, length: STILL_SECONDS * fps }
  const cut = shot.cut ?? (shot.first === shot.last ? still : plainCut(shot))
  return {
    source: sourceOf(shot),
    order: frameOrder(shot, line).order,
    width: info.width,
    first: shot.first + cut.before,
    last: shot.last - cut.after,
    speed: cut.speed,
    length: Math.max(1, cut.length),
    fps,
    clip: clipOf(shot),
  }
}
