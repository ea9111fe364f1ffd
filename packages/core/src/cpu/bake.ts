import { transmittance } from '../film/pow10'
import { NODE_SHIFT, octaveNodes } from '../numbers/octaves'
import { SAMPLES } from '../spectra/grid'
import { held } from '../stages/held'
import type { Solid } from '../stages/stage'
import { runJob } from './jobs'
import { kernelMemory } from './memory'

/** Rows of nodes that a thread takes at a time. */
const TILE = 64
/** Light is held by a table: that below 2^-24 as none, that above 16 as 16. */
const LEAST = -24
const OCTAVES = octaveNodes(LEAST, 4)
/** Its last node stands twice, so that there is one behind it. */
const HELD = Float32Array.from([...OCTAVES, OCTAVES.at(-1)!], held)
/** Words in front of the spectra: where that table lies and how to read it, the offset of the light. */
const WORDS = 8

type Sides = readonly [Float64Array, Float64Array, Float64Array]
type AbsorbingSolid = Exclude<Solid, { nodes: unknown }>

/**
 * Works out the nodes of a solid: four floats each, three of them light as {@link held} holds it, in single precision (the relative error of a
 * sum of positive weights is below 1e-5).
 */
export function bakeSolid(solid: Solid, side: number, at: number): void {
  const memory = kernelMemory()
  if ('nodes' in solid) return memory.floats(at, 4 * side ** 3).set(solid.nodes())
  const wide = 4 * Math.ceil(side / 4)
  const passed = passedSpectra(solid, side, wide)
  const words = WORDS + passed.length
  memory.borrow(4 * (words + HELD.length), (given) => {
    const table = given + 4 * words
    memory.ints(given, 4).set([table, 1, 0, (OCTAVES.length - 1) << NODE_SHIFT])
    memory.floats(given + 8, 1)[0] = 2 ** LEAST
    memory.floats(given + 16, 1)[0] = solid.projection.offset
    memory.floats(given + 4 * WORDS, passed.length).set(passed)
    memory.floats(table, HELD.length).set(HELD)
    runJob({
      kind: 'bakeRows',
      units: side ** 2,
      per: TILE,
      words: [given, at, side, SAMPLES, wide],
      scratch: 16 * SAMPLES,
    })
  })
}

/** What the sides of a solid let pass and what weighs it, in the order in which wasm/bake.ts takes it. */
function passedSpectra(solid: AbsorbingSolid, side: number, wide: number): Float32Array {
  const { components, weights } = solid.projection
  const [first, second, third] = amountsBySide(solid, side).map((amounts) => (node: number, wavelength: number) => {
    let density = 0
    for (const [k, component] of components.entries())
      density += amounts[node * components.length + k]! * component[wavelength]!
    return transmittance(density)
  })
  const all = new Float32Array(SAMPLES * (wide + 2 * side + 3))
  let next = 0
  for (let w = 0; w < SAMPLES; w++, next += wide) for (let i = 0; i < side; i++) all[next + i] = first!(i, w)
  for (const passes of [second!, third!])
    for (let i = 0; i < side; i++) for (let w = 0; w < SAMPLES; w++) all[next++] = passes(i, w)
  for (const weight of weights) {
    all.set(weight, next)
    next += SAMPLES
  }
  return all
}

/**
 * Amounts of the absorbers that come from each side: the first side's hold those of the corner where all begin, the others' what is added to it.
 * @returns for each side as many numbers a node as there are components
 */
function amountsBySide({ from, to, valueAt, amounts, projection }: AbsorbingSolid, side: number): Sides {
  const count = projection.components.length
  const corner = new Float64Array(count)
  const here = new Float64Array(count)
  const start = from.map(valueAt) as [number, number, number]
  amounts(...start, corner)
  return [0, 1, 2].map((k) => {
    const all = new Float64Array(count * side)
    for (let i = 0; i < side; i++) {
      const values = [...start] as typeof start
      values[k] = valueAt(from[k]! + ((to[k]! - from[k]!) * i) / (side - 1))
      amounts(...values, here)
      for (let c = 0; c < count; c++) all[i * count + c] = here[c]! - (k === 0 ? 0 : corner[c]!)
    }
    return all
  }) as unknown as Sides
}
