/** Cuts of a shot: those that were found, corrected by hand. Frames are those at which the shots behind the first begin. */
export interface CutMarks {
  readonly found: readonly number[]
  readonly added: ReadonlySet<number>
  readonly removed: ReadonlySet<number>
}
export const NO_CUTS: CutMarks = { found: [], added: new Set(), removed: new Set() }

const inOrder = (frames: Iterable<number>): number[] => [...new Set(frames)].sort((a, b) => a - b)

/** The marks as they stand. */
export const marksOf = ({ found, added, removed }: CutMarks): number[] =>
  inOrder([...found.filter((frame) => !removed.has(frame)), ...added])

/** What was corrected stays when others are found, as with another threshold. */
export const foundAnew = (marks: CutMarks, found: readonly number[]): CutMarks => ({ ...marks, found })

const without = (set: ReadonlySet<number>, frame: number): Set<number> => {
  const rest = new Set(set)
  rest.delete(frame)
  return rest
}
export const withCut = ({ found, added, removed }: CutMarks, frame: number): CutMarks => ({
  found,
  added: new Set([...added, frame]),
  removed: without(removed, frame),
})
export const withoutCut = ({ found, added, removed }: CutMarks, frame: number): CutMarks => ({
  found,
  added: without(added, frame),
  removed: new Set([...removed, frame]),
})
/** Onto another frame; where one is already, the two are one. */
export const cutMoved = (marks: CutMarks, from: number, to: number): CutMarks => withCut(withoutCut(marks, from), to)

/** Frames that a strip shows. */
export interface StripView {
  readonly from: number
  readonly count: number
}
/** Fewer frames are no overview. */
const FEWEST = 24

/** So many times as many frames, about one of them; never beyond the shot. */
export function zoomed(
  view: StripView,
  times: number,
  about: number,
  { first, last }: { readonly first: number; readonly last: number },
): StripView {
  const whole = last - first + 1
  const count = Math.min(whole, Math.max(Math.min(FEWEST, whole), Math.round(view.count * times)))
  const share = (about - view.from) / view.count
  return scrolledTo(Math.round(about - share * count), count, { first, last })
}
/** A view that begins at a frame, as far as there is one. */
export const scrolledTo = (
  from: number,
  count: number,
  { first, last }: { readonly first: number; readonly last: number },
): StripView => ({ from: Math.min(Math.max(from, first), last - count + 1), count })
