interface Placed<M> {
  readonly name: string
  /** Its footage; null where it was not found. */
  readonly medium: M | null
  readonly first: number
  readonly last: number
}
interface PlacedShot<M> extends Placed<M> {
  readonly id: number
}

/** What becomes of the shots of a production for an event of an edit. */
export interface EditChange {
  /** The shot that it is; null for one that is new. */
  readonly shot: number | null
  /** Of one that is new: the shot that shows the same footage, whose treatment it takes. */
  readonly like: number | null
  /** Its in or out are others. */
  readonly trimmed: boolean
  /** It stands elsewhere among those that stay. */
  readonly moved: boolean
}

const overlap = (a: Placed<unknown>, b: Placed<unknown>): number =>
  Math.min(a.last, b.last) - Math.max(a.first, b.first) + 1

/**
 * Which shot is which when an edit is taken in again: a shot stays with the frames of footage that it shows. Pairs that share
 * most frames are made first, among equal ones those of the same name, then the earlier; what shares none is the same shot only
 * where footage and name are.
 * @param events of the edit in order @param shots of the production in order
 * @returns one change for each event, and the shots that no event is
 */
export function changesOfEdit<M>(
  events: readonly Placed<M>[],
  shots: readonly PlacedShot<M>[],
): { readonly changes: readonly EditChange[]; readonly gone: readonly number[] } {
  const pairs = events
    .flatMap((event, i) =>
      shots
        .filter((shot) => event.medium !== null && shot.medium === event.medium)
        .map((shot) => ({ i, shot, shared: overlap(event, shot), named: event.name === shot.name })),
    )
    .filter(({ shared, named }) => shared > 0 || named)
    // Sorting keeps the order of the edit among equals.
    .sort((a, b) => Math.max(0, b.shared) - Math.max(0, a.shared) || Number(b.named) - Number(a.named))
  const paired = new Map<number, PlacedShot<M>>()
  const taken = new Set<number>()
  for (const { i, shot } of pairs) {
    if (paired.has(i) || taken.has(shot.id)) continue
    paired.set(i, shot)
    taken.add(shot.id)
  }
  const places = new Map(shots.map(({ id }, place) => [id, place]))
  const kept = [...paired].sort(([a], [b]) => a - b).map(([, { id }]) => id)
  const still = new Set(longestRise(kept.map((id) => places.get(id)!)).map((place) => shots[place]!.id))
  const changes = events.map((event, i): EditChange => {
    const shot = paired.get(i)
    if (!shot) return { shot: null, like: likeOf(event, shots), trimmed: false, moved: false }
    const trimmed = shot.first !== event.first || shot.last !== event.last
    return { shot: shot.id, like: null, trimmed, moved: !still.has(shot.id) }
  })
  return { changes, gone: shots.filter(({ id }) => !taken.has(id)).map(({ id }) => id) }
}

function likeOf<M>(event: Placed<M>, shots: readonly PlacedShot<M>[]): number | null {
  const alike = shots.filter(
    (shot) => event.medium !== null && shot.medium === event.medium && overlap(event, shot) > 0,
  )
  return alike.sort((a, b) => overlap(event, b) - overlap(event, a))[0]?.id ?? null
}

/** The longest run of a list that rises, its members not side by side: what has not moved. */
function longestRise(values: readonly number[]): number[] {
  const best: { readonly length: number; readonly before: number }[] = []
  for (const [i, value] of values.entries()) {
    let [length, before] = [1, -1]
    for (let k = 0; k < i; k++)
      if (values[k]! < value && best[k]!.length >= length) [length, before] = [best[k]!.length + 1, k]
    best.push({ length, before })
  }
  const rise: number[] = []
  let at = best.reduce((most, b, i) => (b.length > (best[most]?.length ?? 0) ? i : most), -1)
  for (; at >= 0; at = best[at]!.before) rise.unshift(values[at]!)
  return rise
}
