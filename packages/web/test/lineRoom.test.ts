import { describe, expect, it } from 'vitest'
import { roomForTiles } from '../src/bench/lineRoom'

describe('room for tiles', () => {
  it('lets few of them be as wide as they like, and narrows more before any is compact', () => {
    expect(roomForTiles(3, 0, 612).every((t) => !t.compact && t.width === 138)).toBe(true)
    expect(roomForTiles(6, 0, 612).every((t) => !t.compact && t.width === 102)).toBe(true)
  })
  it('keeps the chosen one whole among many, and the others wide enough for nine letters', () => {
    for (const chosen of [0, 4, 11]) {
      const tiles = roomForTiles(12, chosen, 560)
      tiles.forEach((tile, i) => {
        expect(tile.compact).toBe(i !== chosen)
        expect(tile.width).toBe(i === chosen ? 128 : 70)
      })
    }
  })
  it('uses up what room there is', () => {
    const tiles = roomForTiles(8, 2, 700)
    expect(tiles.reduce((sum, t) => sum + t.width, 0)).toBeGreaterThan(690)
    expect(tiles.reduce((sum, t) => sum + t.width, 0)).toBeLessThanOrEqual(700)
    expect(roomForTiles(9, -1, 700).every((t) => t.compact)).toBe(true)
    expect(roomForTiles(0, -1, 612)).toEqual([])
  })
})
