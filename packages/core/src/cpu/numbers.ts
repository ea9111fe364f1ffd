import { LUMA_709 } from '../colour/spaces'
import { LAY_MODES } from '../lay/blend'

/** Numbers of the steps of a run. */
export const STEP = {
  load: 1,
  store: 2,
  keep: 3,
  take: 4,
  mix: 5,
  held: 6,
  curves: 7,
  solid: 8,
  ramp: 9,
  fit: 10,
  lay: 11,
  select: 12,
  storePlane: 13,
  table: 14,
  shade: 15,
  hues: 16,
  storeShrunk: 17,
  loadStretched: 18,
  field: 19,
  grain: 20,
  chroma: 21,
} as const

/** Numbers of the jobs on pictures. */
export const JOB = {
  run: 1,
  blurAlong: 2,
  blurDown: 3,
  shrink: 4,
  stretch: 5,
  clearVeil: 6,
  shift: 7,
  ingest16: 8,
  emit8: 9,
  emit16: 10,
  emitFloats: 11,
  bakeRows: 12,
  resampleDown: 13,
  resampleAlong: 14,
  planesToCodes: 15,
  sumOf: 16,
  joinUp: 17,
  leastOf: 18,
} as const

const named = (group: string, numbers: Readonly<Record<string, number>>): [string, number][] =>
  Object.entries(numbers).map(([name, value]) => [
    `${group}_${name.replace(/[A-Z]/g, '_$&').replaceAll('-', '_').toUpperCase()}`,
    value,
  ])

/**
 * Names by which the kernels' source calls these numbers, those of lay modes and the weights of luma. `npm run kernels` puts the numbers in
 * their place: a constant of another file keeps a choice in loops over pixels, which laying by a mode pays with a fifth.
 * @public
 */
export const KERNEL_NUMBERS: ReadonlyMap<string, number> = new Map([
  ...named('STEP', STEP),
  ...named('JOB', JOB),
  ...named('LUMA', { red: LUMA_709[0], green: LUMA_709[1], blue: LUMA_709[2] }),
  ...named('LAY', Object.fromEntries(LAY_MODES.map((name, value) => [name, value]))),
])
