import type { Encoding } from '../colour/encodings'
import { makeIngest } from '../cpu/ingest'
import { Pictures } from '../cpu/pictures'
import { FogBathError } from '../errors'
import { fitNodes } from '../formats/cube-fit'
import type { Plan } from '../plan/plan'
import { PlanRunner } from '../plan/run'
import type { Grid } from './parts'

/** Nodes a side of a .cube. */
const CUBE_SIZES = { lowest: 2, highest: 129 } as const

/**
 * A line as one table over the code values 0..1 of an encoding; nodes are fitted, see cube-fit.ts.
 * @param plan ends in code values of `gives`
 */
export function cubeGrid(plan: Plan, takes: Encoding, gives: Encoding, size: number): Grid {
  const { lowest, highest } = CUBE_SIZES
  if (!Number.isInteger(size) || size < lowest || size > highest)
    throw new FogBathError(
      'range',
      'size',
      `The LUT size is ${size}; it must be a whole number from ${lowest} to ${highest}.`,
    )
  const [nodes, samples] = [size, 2 * size - 1].map((side) => ({ side, values: sampled(plan, takes, side) }))
  const { values } = fitNodes(nodes!, samples!, gives.refers === 'display')
  return { side: size, from: [0, 0, 0], to: [1, 1, 1], values }
}

/** The line at so many even places a side, red running fastest. */
function sampled(plan: Plan, takes: Encoding, side: number): Float64Array {
  const runner = new PlanRunner()
  const pictures = new Pictures()
  const camera = pictures.take('camera', side ** 3)
  const codes = Float32Array.from({ length: 3 * side ** 3 }, (_, i) => {
    const node = Math.floor(i / 3)
    return (Math.floor(node / side ** (i % 3)) % side) / (side - 1)
  })
  makeIngest(takes, 'f32')(codes, camera)
  const { pixels } = runner.run(plan, camera, side * side, side)
  const values = Float64Array.from(codes, (_, i) => pixels[4 * Math.floor(i / 3) + (i % 3)]!)
  runner.release()
  pictures.release()
  return values
}
