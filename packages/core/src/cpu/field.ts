import { six } from '../colour/matrix'
import type { Field } from '../stages/space'
import { kernelMemory } from './memory'
import { runAlone } from './program'
import type { PlacedGrid, Step } from './step'

/** A field at points, eight numbers each: four factors, four sums. */
export interface Grid {
  readonly columns: number
  readonly rows: number
  readonly points: Float32Array
  readonly aspect: number
}

/** Where the points of a grid lie, u and v for column and row. */
type Places = (i: number, j: number) => readonly [u: number, v: number]

function gridAt(field: Field, columns: number, rows: number, aspect: number, places: Places): Grid {
  const points = new Float32Array(8 * columns * rows)
  const out = six()
  for (let j = 0, at = 0; j < rows; j++)
    for (let i = 0; i < columns; i++, at += 8) {
      field(...places(i, j), aspect, out)
      points.set([out[0], out[1], out[2], 1, out[3], out[4], out[5], 0], at)
    }
  return { columns, rows, points, aspect }
}

/** Columns of the grid on which smooth fields are worked out. */
const COLUMNS = 257

/** The grid last worked out for each field; the same field comes frame after frame. */
const grids = new WeakMap<Field, Grid>()

/** A smooth field on a grid whose outer points lie on the picture's edges. */
export function gridOf(field: Field, width: number, height: number): Grid {
  const aspect = width / height
  const columns = Math.min(COLUMNS, width + 1)
  const known = grids.get(field)
  if (known?.aspect === aspect && known.columns === columns) return known
  const rows = Math.max(2, Math.round((columns - 1) / aspect) + 1)
  const grid = gridAt(field, columns, rows, aspect, (i, j) => [i / (columns - 1), j / (rows - 1)])
  grids.set(field, grid)
  return grid
}

/** A field at the middle of each pixel: as many points as pixels. */
export const middlesOf = (field: Field, width: number, height: number): Grid =>
  gridAt(field, width, height, width / height, (i, j) => [(i + 0.5) / width, (j + 0.5) / height])

/** Changes each pixel of an RGBA float picture by its place, in place. */
export function applyField(field: Field, smooth: boolean, at: number, width: number, height: number): void {
  if (smooth) runAlone(fieldStep(field, width, height), at, width * height)
  else applyExact(field, at, width, height)
}

/** By the field at the middle of each pixel. */
function applyExact(field: Field, place: number, width: number, height: number): void {
  const picture = kernelMemory().floats(place, 4 * width * height)
  const out = six()
  for (let y = 0, at = 0; y < height; y++)
    for (let x = 0; x < width; x++, at += 4) {
      field((x + 0.5) / width, (y + 0.5) / height, width / height, out)
      for (let k = 0; k < 3; k++) picture[at + k] = picture[at + k]! * out[k]! + out[k + 3]!
    }
}

const places = new WeakMap<Grid, () => number>()

/** The grid of a smooth field, laid out for kernels. */
function placedGrid(field: Field, width: number, height: number): PlacedGrid {
  const grid = gridOf(field, width, height)
  const { columns, rows, points } = grid
  const memory = kernelMemory()
  const place =
    places.get(grid) ?? memory.keptPlace(4 * points.length, (at) => memory.floats(at, points.length).set(points))
  places.set(grid, place)
  return { address: place(), columns, rows }
}

/** A smooth field as a step of a run. */
export const fieldStep = (field: Field, width: number, height: number): Step => ({
  do: 'field',
  grid: placedGrid(field, width, height),
  width,
  height,
})
