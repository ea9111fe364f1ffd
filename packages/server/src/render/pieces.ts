import type { Piece } from '@fogbath/contract'
import { Medium, type Render } from '../db/models'
import { asRead } from '../db/shots'
import { Fault } from '../errors'
import type { Footage } from '../media/store'
import type { Told } from './delivery'

/** Frames in one part: what a restart has to do again at most. */
const PART = 24

/** A piece with its footage. */
export interface FoundPiece extends Piece {
  readonly medium: Footage
}

/** What a render is made of, in order: the row itself, or the shots of one file. @throws Fault where footage is gone */
export async function piecesOf(render: Render): Promise<FoundPiece[]> {
  const { pieces, label, mediumId, reading, first, count, encoding, recipe, preparation, after, time } = render
  const all = pieces ?? [{ label, mediumId, reading, first, count, encoding, recipe, preparation, after, time }]
  const rows = new Map((await Medium.findAll({ where: { id: all.map((p) => p.mediumId) } })).map((m) => [m.id, m]))
  return all.map((piece) => {
    const row = rows.get(piece.mediumId)
    if (!row) throw new Fault('not-found', `The footage of ${piece.label} is gone.`)
    return { ...piece, medium: asRead(row.toJSON(), piece.reading) }
  })
}

/** What is told of a whole render: the first piece says where it begins. */
export const toldOf = (render: Render, [piece]: readonly FoundPiece[]): Told => ({
  label: render.label,
  look: render.pieces ? `${render.pieces.length} shots` : render.recipe.name,
  info: piece!.medium.info,
  first: piece!.first,
  count: render.count,
})

/** Frames of a piece that are rendered at a stretch. */
export interface Run {
  readonly piece: FoundPiece
  /** In its footage. */
  readonly first: number
  readonly count: number
  /** By what the part is known: the frame of its footage, or of the one file of several shots. */
  readonly at: number
}

export function* runsOf(render: Render, pieces: readonly FoundPiece[]): Generator<Run> {
  let before = 0
  for (const piece of pieces) {
    for (let done = 0; done < piece.count; done += PART) {
      const first = piece.first + done
      const count = Math.min(PART, piece.count - done)
      yield { piece, first, count, at: render.pieces ? before + done : first }
    }
    before += piece.count
  }
}
