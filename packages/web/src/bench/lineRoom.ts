/** Widths of tiles: as they like to be, as narrow as can be read, and one that is folded. */
const [WIDE, NARROW, FOLDED] = [138, 92, 40] as const

/** How wide each tile is, and which of them are folded. */
export interface TileRoom {
  readonly width: number
  readonly folded: boolean
}

/**
 * Gives tiles their room: all as wide as there is room for; where that is not enough, those furthest from the chosen one are folded,
 * so that the order stays to be seen at once.
 * @param count tiles @param chosen index of the chosen one, or -1 @param room pixels for all
 */
export function roomForTiles(count: number, chosen: number, room: number): TileRoom[] {
  const each = Math.floor(room / Math.max(1, count))
  const at = Math.max(0, chosen)
  // Folded tiles give the others their room; the chosen one is open in any case.
  const open = each >= NARROW ? count : Math.max(1, Math.floor((room - count * FOLDED) / (NARROW - FOLDED)))
  const left = room - (count - Math.min(count, open)) * FOLDED
  const width = Math.min(WIDE, Math.max(NARROW, Math.floor(left / Math.min(count, open))))
  const near = Array.from({ length: count }, (_, i) => i).sort((a, b) => Math.abs(a - at) - Math.abs(b - at))
  const opened = new Set(near.slice(0, open))
  return Array.from({ length: count }, (_, i) =>
    opened.has(i) ? { width, folded: false } : { width: FOLDED, folded: true },
  )
}
