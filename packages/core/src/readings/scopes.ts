import { LUMA_709 } from '../colour/spaces'

/** Counts of a scope: rows · columns cells, each how many pixels fell into it. */
export interface ScopeImage {
  readonly columns: number
  readonly rows: number
  readonly counts: Uint32Array
}

/** Row of a code value: row 0 is 1.0, the last row 0; halves go down. Not-a-number counts as 0. */
const rowOf = (v: number, rows: number): number => {
  const row = ((1 - v) * (rows - 1) + 0.5) | 0
  return v > 0 ? (v < 1 ? row : 0) : rows - 1
}

/** Luma Y' of BT.709 (BT.709-6, item 3.2) from code values. */
export const lumaOf = (picture: Float32Array, at: number): number =>
  LUMA_709[0] * picture[at]! + LUMA_709[1] * picture[at + 1]! + LUMA_709[2] * picture[at + 2]!

/** The scope's column of each of the picture's. */
const columnsOf = (width: number, columns: number): Int32Array =>
  Int32Array.from({ length: width }, (_, x) => (x * columns) / width)

/** Part of a picture that is read: one number a pixel, those of at least one half are counted; null for all. */
export type Area = Float32Array | null

const outside = (area: Area, i: number): boolean => area !== null && area[i]! < 0.5

/** Luma waveform: columns follow the picture's columns. @param picture RGBA code values 0..1 */
export function waveform(
  picture: Float32Array,
  width: number,
  height: number,
  columns: number,
  rows: number,
  area: Area = null,
): ScopeImage {
  const counts = new Uint32Array(columns * rows)
  const column = columnsOf(width, columns)
  const [red, green, blue] = LUMA_709
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 4) {
      if (outside(area, at >> 2)) continue
      const luma = red * picture[at]! + green * picture[at + 1]! + blue * picture[at + 2]!
      const cell = rowOf(luma, rows) * columns + column[x]!
      counts[cell] = counts[cell]! + 1
    }
  return { columns, rows, counts }
}

/** RGB parade: three waveforms of one channel each, side by side. */
export function parade(
  picture: Float32Array,
  width: number,
  height: number,
  columns: number,
  rows: number,
  area: Area = null,
): ScopeImage {
  const third = Math.floor(columns / 3)
  const counts = new Uint32Array(third * 3 * rows)
  const column = columnsOf(width, third)
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 4) {
      if (outside(area, at >> 2)) continue
      for (let k = 0; k < 3; k++) {
        const cell = rowOf(picture[at + k]!, rows) * third * 3 + k * third + column[x]!
        counts[cell] = counts[cell]! + 1
      }
    }
  return { columns: third * 3, rows, counts }
}

/** Cb and Cr of BT.709 (BT.709-6, item 3.3), -0.5..0.5. */
export function chromaOf(picture: Float32Array, at: number): [cb: number, cr: number] {
  const y = lumaOf(picture, at)
  return [(picture[at + 2]! - y) / 1.8556, (picture[at]! - y) / 1.5748]
}

/** Vectorscope: Cb to the right, Cr upwards, square. */
export function vectorscope(picture: Float32Array, n: number, size: number, area: Area = null): ScopeImage {
  const counts = new Uint32Array(size * size)
  const place = (v: number): number => Math.min(size - 1, Math.max(0, Math.round((v + 0.5) * (size - 1))))
  for (let i = 0; i < n; i++) {
    if (outside(area, i)) continue
    const [cb, cr] = chromaOf(picture, 4 * i)
    counts[(size - 1 - place(cr)) * size + place(cb)]!++
  }
  return { columns: size, rows: size, counts }
}

/** Histograms of R, G, B and luma over `bins` levels, one after the other. */
export function histograms(picture: Float32Array, n: number, bins: number, area: Area = null): Uint32Array {
  const counts = new Uint32Array(4 * bins)
  const bin = (v: number): number => (v > 0 ? (v < 1 ? (v * (bins - 1) + 0.5) | 0 : bins - 1) : 0)
  const count = (at: number): void => {
    counts[at] = counts[at]! + 1
  }
  for (let i = 0; i < 4 * n; i += 4) {
    if (outside(area, i >> 2)) continue
    count(bin(picture[i]!))
    count(bins + bin(picture[i + 1]!))
    count(2 * bins + bin(picture[i + 2]!))
    count(3 * bins + bin(lumaOf(picture, i)))
  }
  return counts
}
