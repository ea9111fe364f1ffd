import type { Encoding } from '../encodings'
import { makeIngest } from '../cpu/ingest'
import { Pictures } from '../cpu/pictures'
import { FogBathError } from '../errors'
import { fitNodes, type Grid as Nodes, type Samples } from '../formats/cube-fit'
import type { Plan } from '../plan/plan'
import { PlanRunner } from '../plan/run'
import type { Curve, Grid } from './parts'

/** Nodes a side of a .cube. */
const CUBE_SIZES = { lowest: 2, highest: 129 } as const

/**
 * A line as one table over the code values 0..1 of an encoding; nodes are fitted, see cube-fit.ts.
 * @param plan ends in code values of `gives` @param codeAt code values at places 0..1 of the table
 */
export function cubeGrid(plan: Plan, takes: Encoding, gives: Encoding, size: number, codeAt: Curve): Grid {
  const { lowest, highest } = CUBE_SIZES
  if (!Number.isInteger(size) || size < lowest || size > highest)
    throw new FogBathError(
      'range',
      'size',
      `The LUT size is ${size}; it must be a whole number from ${lowest} to ${highest}.`,
    )
  const side = 2 * size - 1
  const codes = Float32Array.from({ length: side }, (_, i) => codeAt(i / (side - 1)))
  const samples = { side, values: sampled(plan, takes, codes) }
  const { values } = fitNodes(nodesIn(samples, size), samples, gives.refers === 'display')
  return { side: size, from: [0, 0, 0], to: [1, 1, 1], values }
}

/** Pixels that are worked on at a time. */
const SLAB = 1 << 19

/** The line at these codes a side, red running fastest. */
function sampled(plan: Plan, takes: Encoding, codes: Float32Array): Float32Array {
  const side = codes.length
  const runner = new PlanRunner()
  const pictures = new Pictures()
  const values = new Float32Array(3 * side ** 3)
  const planes = Math.max(1, Math.floor(SLAB / side ** 2))
  for (let first = 0; first < side; first += planes) {
    const n = side * side * Math.min(planes, side - first)
    const camera = pictures.take('camera', n)
    makeIngest(takes, 'f32')(colours(first * side * side, n, codes), camera)
    const { pixels } = runner.run(plan, camera, side, n / side)
    for (let i = 0, at = 3 * first * side * side; i < 4 * n; i++) if (i % 4 < 3) values[at++] = pixels[i]!
  }
  runner.release()
  pictures.release()
  return values
}

/** Some of all colours of these codes. */
function colours(first: number, count: number, codes: Float32Array): Float32Array {
  const side = codes.length
  const all = new Float32Array(3 * count)
  for (let i = 0, at = 0; i < count; i++)
    for (let k = 0, rest = first + i; k < 3; k++, rest = Math.floor(rest / side)) all[at++] = codes[rest % side]!
  return all
}

/** Every other place. */
function nodesIn(samples: Samples, side: number): Nodes {
  const values = new Float64Array(3 * side ** 3)
  let at = 0
  for (let b = 0; b < side; b++)
    for (let g = 0; g < side; g++)
      for (let r = 0; r < side; r++, at += 3) {
        const from = 6 * (r + samples.side * (g + samples.side * b))
        values.set(samples.values.subarray(from, from + 3), at)
      }
  return { side, values }
}
