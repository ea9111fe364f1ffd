import type { Field } from '../baths/kind'
import { kernelMemory } from './memory'

/** Changes each pixel of an RGBA float picture by its place, in place. */
export function applyField(field: Field, smooth: boolean, picture: Float32Array, width: number, height: number): void {
  if (smooth) applySmooth(gridOf(field, width, height), picture, width, height)
  else applyExact(field, picture, width, height)
}

function applyExact(field: Field, picture: Float32Array, width: number, height: number): void {
  const out = new Float64Array(6)
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 4) {
      field((x + 0.5) / width, (y + 0.5) / height, width / height, out)
      for (let k = 0; k < 3; k++) picture[at + k] = picture[at + k]! * out[k]! + out[k + 3]!
    }
}

/** A field at the points of a grid, eight numbers each: four factors, four sums. */
interface Grid {
  readonly columns: number
  readonly rows: number
  readonly points: Float32Array
  readonly aspect: number
}

/** Columns of the grid on which smooth fields are worked out. */
const COLUMNS = 257
/** The grid last worked out for each field; the same field comes frame after frame. */
const grids = new WeakMap<Field, Grid>()

function gridOf(field: Field, width: number, height: number): Grid {
  const aspect = width / height
  const known = grids.get(field)
  const columns = Math.min(COLUMNS, width + 1)
  if (known?.aspect === aspect && known.columns === columns) return known
  const rows = Math.max(2, Math.round((columns - 1) / aspect) + 1)
  const points = new Float32Array(8 * columns * rows)
  const out = new Float64Array(6)
  for (let j = 0, at = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, at += 8) {
      field(i / (columns - 1), j / (rows - 1), aspect, out)
      points.set([out[0]!, out[1]!, out[2]!, 1, out[3]!, out[4]!, out[5]!, 0], at)
    }
  const grid = { columns, rows, points, aspect }
  grids.set(field, grid)
  return grid
}

/** Linear interpolation, first down the grid's columns into one row, then along it. */
function applySmooth(grid: Grid, picture: Float32Array, width: number, height: number): void {
  const { columns, rows, points } = grid
  const length = 8 * columns
  const memory = kernelMemory()
  memory.borrow(4 * length + 16 * width, ({ at, memory: bytes }) => {
    const atPixels = at + 4 * length
    const mixed = new Float32Array(bytes, at, length)
    const pixels = new Float32Array(bytes, atPixels, 4 * width)
    for (let y = 0; y < height; y++) {
      const place = ((y + 0.5) / height) * (rows - 1)
      const above = Math.min(rows - 2, Math.floor(place))
      const from = above * length
      for (let i = 0; i < length; i++) {
        const top = points[from + i]!
        mixed[i] = top + (points[from + length + i]! - top) * (place - above)
      }
      const target = picture.subarray(4 * y * width, 4 * (y + 1) * width)
      pixels.set(target)
      memory.kernels.fieldRow(atPixels, width, at, columns, (columns - 1) / width)
      target.set(pixels)
    }
  })
}
