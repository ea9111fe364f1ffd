import { TABLE_COLUMNS, shaderOf, type RunShader } from '@fogbath/core/gpu'
import { maskWork } from '@fogbath/core/masks'
import { SLOT, type Plan, type RunStep, type Slot } from '@fogbath/core/plan'
import { type PointStage, type SpaceStep } from '@fogbath/core/stages'
import type { Device, Texture } from './device'
import { SpacePasses } from './space'

/** The texture of a program's tables, and the keys of what stands in its rows. */
interface TableSheet {
  readonly texture: Texture
  readonly rows: number
  readonly keys: (string | undefined)[]
}

/** Masks drawn from the picture, and what this graphics cannot hold, are left to the processor. */
function canDraw({ ops }: Plan, width: number, height: number, side: number): boolean {
  const exact = ops.some((op) => op.op === 'space' && op.step.kind === 'field' && !op.step.smooth)
  // Such a field takes two texels a pixel.
  if (Math.max(exact ? 2 * width : width, height) > side) return false
  return ops.every((op) => op.op !== 'mask' || op.reads === null)
}

/** Runs plans on graphics hardware. Tables and solids are those of the processor. */
export class GraphicsRunner {
  private readonly slots = new Map<Slot, Texture>()
  private readonly free: Texture[] = []
  private readonly sheets = new Map<string, TableSheet>()
  private readonly masks = new Map<string, { readonly plane: Float32Array; readonly texture: Texture }>()
  private readonly space: SpacePasses
  private size = { width: 0, height: 0 }

  constructor(private readonly device: Device) {
    this.space = new SpacePasses(device)
  }

  /**
   * @param camera the footage as the plan takes it, RGBA; not changed @param frame its number
   * @returns display code values (0..1), in a texture that the next run overwrites; null where this graphics cannot do it
   */
  run(plan: Plan, camera: Texture, width: number, height: number, frame = 0): Texture | null {
    if (!canDraw(plan, width, height, this.device.limits.side)) return null
    this.resize(width, height)
    for (const op of plan.ops) {
      if (op.op === 'run') {
        if (!this.runSteps(op.steps, camera)) return null
      } else if (op.op === 'space') {
        this.runSpace(op.slot, op.step, frame)
      } else this.drawMask(op.bath, maskWork(op.mask)(null, width, height))
    }
    return this.slots.get(SLOT.LINE) ?? null
  }

  private runSpace(slot: Slot, step: SpaceStep, frame: number): void {
    const { width, height } = this.size
    const taken: Texture[] = []
    const spare = (): Texture => {
      taken.push(this.spare())
      return taken[taken.length - 1]!
    }
    const done = this.space.apply(step, this.slots.get(slot)!, spare, [width, height], frame)
    this.put(slot, done)
    this.free.push(...taken.filter((t) => t !== done))
  }

  /** Stages on single pixels. @returns a picture of its own, which the caller drops */
  apply(stages: readonly PointStage[], from: Texture, width: number, height: number): Texture | null {
    this.resize(width, height)
    const register = 'own' as const
    const steps: RunStep[] = [
      { do: 'load', slot: SLOT.CAMERA, register },
      ...stages.map((stage) => ({ do: 'stage', stage }) as const),
      { do: 'store', slot: SLOT.LINE, register },
    ]
    return this.drawRun(shaderOf(steps), from)?.[0] ?? null
  }

  /** Runs steps over single pixels into the slots that they store. */
  private runSteps(steps: readonly RunStep[], camera: Texture): boolean {
    const shader = shaderOf(steps)
    const drawn = this.drawRun(shader, camera)
    drawn?.forEach((texture, i) => this.put(shader.writes[i]!, texture))
    return drawn !== null
  }

  /** @returns a picture for each slot that is written; null where this graphics cannot hold what the run needs */
  private drawRun(shader: RunShader, camera: Texture): Texture[] | null {
    const { textures, given } = this.device.limits
    const samplers = 1 + shader.reads.length + shader.solids.length + shader.masks.length
    if (samplers > textures || shader.given.length / 4 > given - 8 || shader.writes.length > 4) return null
    const program = this.device.program(shader.source)
    const inputs: Record<string, Texture | undefined> = { tables: this.tablesOf(shader) }
    shader.reads.forEach((slot, i) => {
      inputs[`picture${i}`] = slot === SLOT.CAMERA ? camera : this.slots.get(slot)!
    })
    shader.solids.forEach(({ key, side, nodes }, i) => {
      inputs[`solid${i}`] = this.device.solid(key, side, nodes)
    })
    shader.masks.forEach((bath, i) => (inputs[`mask${i}`] = this.masks.get(bath)!.texture))
    const targets = shader.writes.map(() => this.spare())
    const { width, height } = this.size
    this.device.draw(program, { textures: inputs, given: shader.given }, targets, width, height)
    return targets
  }

  /** The tables of a run in one texture of its own; only those that changed travel. */
  private tablesOf({ source, tables }: RunShader): Texture | undefined {
    const rows = tables.reduce((sum, t) => sum + t.rows, 0)
    if (rows === 0) return undefined
    let sheet = this.sheets.get(source)
    if (!sheet || sheet.rows < rows) {
      if (sheet) this.device.drop(sheet.texture)
      sheet = { texture: this.device.floats(TABLE_COLUMNS, rows), rows, keys: [] }
      this.sheets.set(source, sheet)
    }
    for (const { key, texels, row, rows: own } of tables) {
      const here = `${key} ${own}`
      if (sheet.keys[row] === here) continue
      const filled = new Float32Array(4 * TABLE_COLUMNS * own)
      const values = texels()
      filled.set(values.subarray(0, filled.length))
      this.device.fill(sheet.texture, filled, TABLE_COLUMNS, own, 4, row)
      // Whatever began inside these rows is gone.
      sheet.keys.fill(undefined, row, row + own)
      sheet.keys[row] = here
    }
    return sheet.texture
  }

  private drawMask(bath: string, plane: Float32Array): void {
    const known = this.masks.get(bath)
    // What only depends on the size is the same plane from frame to frame.
    if (known?.plane === plane) return
    if (known) this.device.drop(known.texture)
    const { width, height } = this.size
    const texture = this.device.floats(width, height, 1)
    this.device.fill(texture, plane, width, height, 1)
    this.masks.set(bath, { plane, texture })
  }

  private spare(): Texture {
    return this.free.pop() ?? this.device.floats(this.size.width, this.size.height)
  }

  /** A slot gets a new picture; its old one may be drawn over. */
  private put(slot: Slot, texture: Texture): void {
    const old = this.slots.get(slot)
    if (old && old !== texture) this.free.push(old)
    this.slots.set(slot, texture)
  }

  private resize(width: number, height: number): void {
    if (this.size.width === width && this.size.height === height) return
    for (const texture of [...this.slots.values(), ...this.free]) this.device.drop(texture)
    for (const { texture } of this.masks.values()) this.device.drop(texture)
    this.slots.clear()
    this.free.length = 0
    this.masks.clear()
    this.size = { width, height }
  }
}
