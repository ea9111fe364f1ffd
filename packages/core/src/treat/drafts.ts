import { LRUCache } from 'lru-cache'
import { bt709ToLab, ciede2000, displayLight, type Triple } from '../colour'
import { Pictures, type Picture } from '../cpu/pictures'
import { runSteps } from '../cpu/program'
import type { Plan } from '../plan/plan'
import { PlanRunner } from '../plan/run'

/** Nodes a side, the fewest first. */
const SIDES = [33, 49] as const
type Side = (typeof SIDES)[number]
/** Tables that are there at a time. */
const MOST = 8
/** Pixels of a frame on which a table is tried, from all over it. */
const TRIED = 1024
/** A table is tried anew after so many pictures: what moves becomes another picture in the end. */
const AGAIN = 24
/** How far a table may lie from the exact run, CIEDE2000: on average, and at the 99th percentile. */
export const DRAFT_LIMITS = { mean: 0.25, most: 1.5 } as const

/** A picture from a table with so many nodes a side; the next one overwrites it. */
export interface Drafted {
  readonly picture: Picture
  readonly side: number
}

interface Table {
  /** Under which name its nodes are kept. */
  readonly name: string
  /** With how many nodes a side it was found to do; null where none of them do. */
  side: Side | null
  /** Pictures until it is tried again. */
  left: number
}

/**
 * Lines that look at single pixels alone, as one table from code values to code values: the line's own run works out the
 * nodes, and a picture is one look-up by tetrahedra. A table is believed only where, on pixels of the picture at hand, it was
 * shown to lie as near to the exact run as {@link DRAFT_LIMITS} says.
 */
export class Drafts {
  private readonly runner = new PlanRunner()
  private readonly pictures = new Pictures()
  private made = 0
  /** For how many nodes the codes lie ready. */
  private readonly laid = new Set<Side>()
  private readonly tables = new LRUCache<Plan, Table>({
    max: MOST,
    dispose: ({ name }) => this.pictures.giveBack(name),
  })

  /**
   * @param plan from display code values, as the footage has them @param camera the footage; it is only read
   * @returns null where the exact run has to do it
   */
  run(plan: Plan, camera: Picture): Drafted | null {
    if (!isOneRun(plan)) return null
    const known = this.tables.get(plan)
    const table: Table = known ?? { name: `nodes ${this.made++}`, side: null, left: 0 }
    if (!known) this.tables.set(plan, table)
    if (table.left-- === 0) this.prove(table, plan, camera)
    if (table.side === null) return null
    const picture = this.pictures.take('drawn', camera.n)
    this.read(table.name, table.side, camera, picture)
    return { picture, side: table.side }
  }

  /** Finds how many nodes do. */
  private prove(table: Table, plan: Plan, camera: Picture): void {
    table.left = AGAIN - 1
    // More nodes than were needed once are not fewer than are needed now.
    const sides = SIDES.filter((side) => side >= (table.side ?? 0))
    const before = table.side
    table.side = null
    for (const side of sides) {
      if (side !== before) this.bake(table.name, side, plan)
      if (!this.isNear(table.name, side, plan, camera)) continue
      table.side = side
      return
    }
    this.pictures.giveBack(table.name)
  }

  private bake(name: string, side: Side, plan: Plan): void {
    const made = this.runner.run(plan, this.codes(side), side ** 3, 1)
    this.pictures.copy(name, made.pixels)
  }

  /** Code values 0..1 at the nodes of a table, red running fastest. */
  private codes(side: Side): Picture {
    const picture = this.pictures.take(`codes at ${side}`, side ** 3)
    if (this.laid.has(side)) return picture
    this.laid.add(side)
    const { pixels } = picture
    const last = side - 1
    for (let i = 0; i < side ** 3; i++)
      pixels.set([(i % side) / last, (Math.floor(i / side) % side) / last, Math.floor(i / side ** 2) / last, 1], 4 * i)
    return picture
  }

  private isNear(name: string, side: Side, plan: Plan, camera: Picture): boolean {
    const count = Math.min(TRIED, camera.n)
    const [some, drawn] = [this.pictures.take('tried', count), this.pictures.take('tried on', count)]
    const { pixels } = camera
    for (let i = 0; i < count; i++) {
      const from = 4 * Math.floor(((i + 0.5) * camera.n) / count)
      some.pixels.set(pixels.subarray(from, from + 4), 4 * i)
    }
    const exact = this.runner.run(plan, some, count, 1)
    this.read(name, side, some, drawn)
    const apart = Float64Array.from({ length: count }, (_, i) => ciede2000(labAt(exact, i), labAt(drawn, i))).sort()
    const mean = apart.reduce((sum, d) => sum + d, 0) / count
    return mean <= DRAFT_LIMITS.mean && apart[Math.floor(0.99 * (count - 1))]! <= DRAFT_LIMITS.most
  }

  private read(name: string, side: Side, from: Picture, to: Picture): void {
    const { at: address } = this.pictures.take(name, side ** 3)
    runSteps(
      [
        { do: 'load', address: from.at, register: 'own' },
        { do: 'table', nodes: { address, side } },
        { do: 'store', address: to.at, register: 'own' },
      ],
      from.n,
    )
  }

  /** Gives the buffers back. */
  release(): void {
    this.tables.clear()
    this.laid.clear()
    this.runner.release()
    this.pictures.release()
  }
}

const isOneRun = ({ ops }: Plan): boolean => ops.length === 1 && ops[0]!.op === 'run'

/** Code values are taken for those of BT.1886: near enough for a difference between two pictures of the same encoding. */
const labAt = ({ pixels }: Picture, i: number): Triple =>
  bt709ToLab([displayLight(pixels[4 * i]!), displayLight(pixels[4 * i + 1]!), displayLight(pixels[4 * i + 2]!)])
