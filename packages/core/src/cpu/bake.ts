import type { Projection } from '../film/projection'
import { octaveTable } from '../numbers/octaves'
import { SAMPLES } from '../spectra/grid'
import { held } from '../stages/held'
import type { Solid } from '../stages/stage'
import { real, runJob } from './jobs'
import { kernelMemory } from './memory'

/** Wavelengths go through the kernel in fours; the grid's end is padded with zero weights. */
const FOURS = Math.ceil(SAMPLES / 4)
/** Colours that a thread takes at a time. */
const TILE = 1024

/**
 * Light through absorbers for many colours, by the SIMD kernel in single precision: relative error of a sum of positive
 * weights below 1e-5.
 * @param amounts as many for each colour as there are components @param to address of four floats for each colour
 */
export function projectMany(projection: Projection, amounts: Float32Array, to: number): void {
  const memory = kernelMemory()
  const { components, weights, offset } = projection
  const count = components.length
  const n = amounts.length / count
  const spectra = new Float32Array(4 * FOURS * (count + 3))
  for (const [i, s] of [...components, ...weights].entries()) spectra.set(s, 4 * FOURS * i)
  memory.borrow(4 * (spectra.length + amounts.length), (at) => {
    const atAmounts = at + 4 * spectra.length
    memory.floats(at, spectra.length).set(spectra)
    memory.floats(atAmounts, amounts.length).set(amounts)
    runJob({ kind: 'project', units: n, per: TILE, words: [atAmounts, to, count, FOURS, at, real(offset)] })
  })
}

/** What a light is held as, by table: light above 16 is as white as 16. */
const heldLight = octaveTable(held, -24, 4)

/** Works out the nodes of a solid: four floats each, three of them light as {@link held} holds it. */
export function bakeSolid(solid: Solid, side: number, at: number): void {
  if ('nodes' in solid)
    return kernelMemory()
      .floats(at, 4 * side ** 3)
      .set(solid.nodes())
  const { from, to, valueAt, amounts, projection } = solid
  const count = projection.components.length
  const all = new Float32Array(count * side ** 3)
  const one = new Float64Array(count)
  const values = (k: 0 | 1 | 2) =>
    Array.from({ length: side }, (_, i) => valueAt(from[k] + ((to[k] - from[k]) * i) / (side - 1)))
  const [xs, ys, zs] = [values(0), values(1), values(2)]
  let next = 0
  for (const z of zs)
    for (const y of ys)
      for (const x of xs) {
        amounts(x, y, z, one)
        for (let k = 0; k < count; k++) all[next++] = one[k]!
      }
  projectMany(projection, all, at)
  const nodes = kernelMemory().floats(at, 4 * side ** 3)
  for (let i = 0; i < nodes.length; i += 4)
    for (let k = i; k < i + 3; k++) nodes[k] = nodes[k]! < 0 ? -heldLight(-nodes[k]!) : heldLight(nodes[k]!)
}
