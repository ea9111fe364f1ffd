import { three, triple, type Triple } from '../../colour/matrix'
import { displayCode, displayLight } from '../../colour/transfer'
import { projectPlain } from '../../film/projection'
import { layOne, type LayMode } from '../../lay/blend'
import type { Projection } from '../../spectra/projection'
import { held } from '../../stages/held'
import { SIDE } from '../../stages/nodes'
import type { ThreeStripSettings } from './settings'

/** How the print of each record goes on the others: red, green, blue. */
export const laysOf = (s: ThreeStripSettings) => [s.layRed, s.layGreen, s.layBlue] as const
export const strengthsOf = (s: ThreeStripSettings): Triple => [
  s.strengthRed / 100,
  s.strengthGreen / 100,
  s.strengthBlue / 100,
]

/**
 * Display-linear light as code values, which lay modes work on, and what of it lies beyond them: the gamut is fitted once, when
 * all prints are laid.
 */
interface Printed {
  readonly codes: Triple
  readonly beyond: Triple
}
function splitLight(light: Float64Array): Printed {
  const inside = Array.from(light, (v) => Math.min(1, Math.max(0, v)))
  return { codes: triple(inside.map(displayCode)), beyond: triple(inside.map((v, k) => light[k]! - v)) }
}

interface Prints {
  readonly projection: Projection
  /** Amounts of the three dyes and the key's silver for three densities. */
  readonly amounts: (c: number, m: number, y: number, out: Float64Array) => void
  readonly valueAt: (place: number) => number
  readonly to: Triple
}

const laidOn = (line: Printed, print: Printed, lay: LayMode, share: number): Printed => ({
  codes: layOne({ lay, under: false, strength: 100 * share }, line.codes, print.codes),
  beyond: triple(line.beyond.map((v, k) => v + (print.beyond[k]! - v) * share)),
})

/**
 * Nodes of a print whose records do not all lie in dye over each other: those that do are one print, with the key image; on
 * it the prints of the others, each in its own dye alone, are laid in the order red, green, blue (own design).
 */
export function nodesOfLaid(s: ThreeStripSettings, { projection, amounts, valueAt, to }: Prints): Float32Array {
  const project = projectPlain(projection)
  const [lays, strengths] = [laysOf(s), strengthsOf(s)]
  const values = Array.from({ length: SIDE }, (_, i) => valueAt((to[0] * i) / (SIDE - 1)))
  const light = three()
  const own = new Float64Array(4)
  /** The light of some dyes of the three densities. */
  const printed = (densities: Triple, keep: (dye: number) => boolean, key: boolean): Printed => {
    amounts(...densities, own)
    for (let k = 0; k < 3; k++) if (!keep(k)) own[k] = 0
    if (!key) own[3] = 0
    project(own, light)
    return splitLight(light)
  }
  const alone = [0, 1, 2].map((k) =>
    values.map((v) => printed([k === 0 ? v : 0, k === 1 ? v : 0, k === 2 ? v : 0], (dye) => dye === k, false)),
  )
  // What lies in dye is the same wherever the others' densities are: the key image has that of the green record.
  const counts = lays.map((lay, k) => lay === 'dye' || (k === 1 && s.key > 0))
  const bases = new Map<string, Printed>()
  const baseAt = (at: readonly number[]): Printed => {
    const place = counts.map((counted, k) => (counted ? at[k]! : 0))
    const name = place.join()
    const known = bases.get(name)
    if (known) return known
    const [c, m, y] = place.map((i) => values[i]!)
    const made = printed([c!, m!, y!], (dye) => lays[dye] === 'dye', true)
    bases.set(name, made)
    return made
  }
  const nodes = new Float32Array(4 * SIDE ** 3)
  for (let i = 0; i < SIDE ** 3; i++) {
    const at = [i % SIDE, Math.floor(i / SIDE) % SIDE, Math.floor(i / SIDE ** 2)] as const
    let whole = baseAt(at)
    for (const [k, lay] of lays.entries())
      if (lay !== 'dye') whole = laidOn(whole, alone[k]![at[k]!]!, lay, strengths[k]!)
    for (let k = 0; k < 3; k++) nodes[4 * i + k] = held(displayLight(whole.codes[k]!) + whole.beyond[k]!)
  }
  return nodes
}
