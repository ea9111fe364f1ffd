import { describe, expect, it } from 'vitest'
import { roomForTiles } from '../src/bench/lineRoom'

const sum = (count: number, chosen: number, room: number): number =>
  roomForTiles(count, chosen, room).reduce((all, t) => all + t.width, 0)

describe('room for tiles', () => {
  it('lets few of them be as wide as they like, and narrows more before any is folded', () => {
    expect(roomForTiles(3, 0, 612).every((t) => !t.folded && t.width === 138)).toBe(true)
    expect(roomForTiles(6, 0, 612).every((t) => !t.folded && t.width === 102)).toBe(true)
  })
  it('folds those furthest from the chosen one, so that all fit', () => {
    for (const chosen of [0, 4, 9]) {
      const tiles = roomForTiles(10, chosen, 612)
      expect(sum(10, chosen, 612)).toBeLessThanOrEqual(612)
      expect(tiles[chosen]!.folded).toBe(false)
      const open = tiles.map((t, i) => (t.folded ? -1 : i)).filter((i) => i >= 0)
      // The open ones stand side by side, about the chosen one.
      expect(open.at(-1)! - open[0]!).toBe(open.length - 1)
    }
  })
  it('keeps the chosen one open where there is hardly any room, and gives nothing for none', () => {
    const tiles = roomForTiles(30, 12, 612)
    expect(tiles.filter((t) => !t.folded).length).toBe(1)
    expect(tiles[12]!.folded).toBe(false)
    expect(roomForTiles(0, -1, 612)).toEqual([])
  })
})
