import { kindById } from '../baths/kinds'
import type { SpaceStep } from '../baths/kind'
import type { Matrix3 } from '../colour/matrix'
import { DISPLAY, SCENE, type Domain } from '../kernels/domain'
import { makeLut, type Lut3d, type PointFunction } from '../kernels/lut3d'
import { atWork, bathPoint, chain, layPoint, rephotograph, setAndFinish, stagesOf, straightPoint } from './bath'
import type { Laying } from './blend'
import { prepared } from './plain'
import type { Bath, Recipe } from './recipe'
import { NO_TRIMS, trimPoint, type Trims } from './trims'

/** `camera`: scene light of the footage. `line`: display code values so far. `bath`: what a bath is making. */
export type BufferName = 'camera' | 'line' | 'bath'

export type Op =
  | { readonly op: 'lut'; readonly lut: Lut3d; readonly from: BufferName; readonly to: BufferName }
  | { readonly op: 'space'; readonly step: SpaceStep }
  | { readonly op: 'lay'; readonly how: Laying }

/** A line made ready to run over pictures. The last operation leaves the finished picture in `line`. */
export interface Plan {
  readonly ops: readonly Op[]
  readonly size: number
}

export interface CompileOptions {
  /** Nodes a side of the LUTs: QUICK_SIZE while something is being dragged, EXACT_SIZE for the exact picture. */
  readonly size?: number
  readonly trims?: Trims
}

/** Nodes a side that keep a compiled picture within 0.25 dE2000 of the plain form (99.9th percentile). */
export const EXACT_SIZE = 95
export const QUICK_SIZE = 21

/**
 * Compiles a line: runs of per-colour baths become one LUT each; a bath that looks at neighbouring pixels splits the
 * run into LUT, spatial steps, LUT, and is laid on the line as a picture.
 */
export function compileLine(recipe: Recipe, options: CompileOptions = {}): Plan {
  const size = options.size ?? EXACT_SIZE
  const baths = recipe.baths.filter(atWork)
  const builder = new PlanBuilder(size, trimPoint(options.trims ?? NO_TRIMS), recordsOfLine(baths))
  for (const bath of baths) builder.add(bath)
  return { ops: builder.end(recipe.strength), size }
}

/** The records of the first bath that looks at the camera's light. */
function recordsOfLine(baths: readonly Bath[]): Matrix3 | null {
  const first = baths.find((b) => kindById(b.kind).stretch === 'process')
  const stage = first ? stagesOf(first)[0] : undefined
  return stage?.at === 'point' ? (stage.records ?? null) : null
}

class PlanBuilder {
  private readonly ops: Op[] = []
  private readonly untreated: PointFunction
  private camera: PointFunction
  /** The run being gathered: a function of the camera's light, or, after a split, of the line's picture. */
  private run: PointFunction | null
  private base: 'camera' | 'line' = 'camera'

  constructor(
    private readonly size: number,
    trim: PointFunction,
    /** Records that the camera's LUTs stand along. */
    private readonly records: Matrix3 | null,
  ) {
    this.camera = trim
    this.untreated = chain(trim, straightPoint)
    this.run = this.untreated
  }

  add(bath: Bath): void {
    const kind = kindById(bath.kind)
    if (kind.stretch === 'prepare') {
      this.camera = prepared(this.camera, bath)
      this.run = chain(this.camera, straightPoint)
    } else if (stagesOf(bath).some((s) => s.at === 'space')) this.addSplit(bath)
    else if (kind.stretch === 'process' && bath.takes === 'camera' && this.base === 'line') {
      this.flush()
      this.bake(chain(this.camera, bathPoint(bath)), 'camera', 'bath')
      this.ops.push({ op: 'lay', how: bath })
    } else this.addToRun(bath)
  }

  private addToRun(bath: Bath): void {
    const own = bathPoint(bath)
    const line = this.run ?? identity
    const finish = kindById(bath.kind).stretch === 'finish'
    const input = finish ? line : bath.takes === 'camera' ? this.camera : chain(line, rephotograph)
    this.run = layPoint(bath, line, chain(input, own))
  }

  private addSplit(bath: Bath): void {
    this.flush()
    const process = kindById(bath.kind).stretch === 'process'
    const fromCamera = process && bath.takes === 'camera'
    let from: BufferName = fromCamera ? 'camera' : 'line'
    let domain: Domain = fromCamera ? SCENE : DISPLAY
    let entry: PointFunction | null = fromCamera ? this.camera : process ? rephotograph : null
    const stages = stagesOf(bath)
    const last = stages.findLastIndex((s) => s.at === 'point')
    stages.forEach((stage, i) => {
      if (stage.at === 'space') {
        this.ops.push({ op: 'space', step: stage.space })
        return
      }
      let point = entry ? chain(entry, stage.point) : stage.point
      if (process && i === last) point = chain(point, setAndFinish)
      if (i > 0) domain = stage.takes
      this.ops.push({
        op: 'lut',
        lut: makeLut(point, domain, this.size, from === 'camera' ? this.records : null),
        from,
        to: 'bath',
      })
      entry = null
      from = 'bath'
    })
    this.ops.push({ op: 'lay', how: bath })
  }

  /** Writes the gathered run into the line's picture. */
  private flush(): void {
    if (this.run) this.bake(this.run, this.base, 'line')
    this.run = null
    this.base = 'line'
  }

  private bake(point: PointFunction, from: 'camera' | 'line', to: BufferName): void {
    const camera = from === 'camera'
    const lut = makeLut(point, camera ? SCENE : DISPLAY, this.size, camera ? this.records : null)
    this.ops.push({ op: 'lut', lut, from, to })
  }

  end(strength: number): readonly Op[] {
    const whole: Laying = { lay: 'normal', under: false, strength }
    if (this.base === 'camera') {
      this.run = layPoint(whole, this.untreated, this.run!)
      this.flush()
    } else {
      this.flush()
      if (strength < 100) {
        this.bake(this.untreated, 'camera', 'bath')
        this.ops.push({ op: 'lay', how: { ...whole, strength: 100 - strength } })
      }
    }
    return this.ops
  }
}

const identity: PointFunction = (r, g, b, out) => {
  out[0] = r
  out[1] = g
  out[2] = b
}
