/** Widths of tiles: as they like to be, as narrow as all that they hold can be, and compact: a name, strength, on or off, a mask's mark. */
const [WIDE, NARROW, COMPACT] = [138, 92, 70] as const
/** The chosen one among compact ones. */
const WHOLE = 128

/** How wide each tile is, and which of them are compact. */
export interface TileRoom {
  readonly width: number
  readonly compact: boolean
}

/**
 * Gives tiles their room: all as wide as there is room for; where that is not enough, all but the chosen one are compact, and
 * what has no room then is scrolled to.
 * @param count tiles @param chosen index of the chosen one, or -1 @param room pixels for all
 */
export function roomForTiles(count: number, chosen: number, room: number): TileRoom[] {
  const each = Math.floor(room / Math.max(1, count))
  const whole = { width: Math.min(WIDE, each), compact: false }
  if (each >= NARROW) return Array.from({ length: count }, () => whole)
  const compact = { width: Math.max(COMPACT, Math.floor((room - WHOLE) / Math.max(1, count - 1))), compact: true }
  return Array.from({ length: count }, (_, i) => (i === chosen ? { width: WHOLE, compact: false } : compact))
}
