import { kindById } from '../baths/kinds'
import type { SpaceStep, Stage } from '../baths/kind'
import { codeCurve, type CodeCurve } from '../kernels/curve'
import { DISPLAY, SCENE } from '../kernels/domain'
import { makeLut, type Lut3d, type PointFunction } from '../kernels/lut3d'
import { maskWork, type MaskWork } from '../masks/mask'
import { atWork, chain, rephotographed, setAndFinish, stagesOf, straightPoint } from './bath'
import type { Laying } from './blend'
import { prepared } from './plain'
import type { Bath, Recipe } from './recipe'
import { NO_TRIMS, trimPoint, type Trims } from './trims'

/**
 * `camera`: scene light of the footage. `line`: display code values so far. `bath`: what a bath is making.
 * `footage`: the untreated picture, where masks read it.
 */
export type BufferName = 'camera' | 'line' | 'bath' | 'footage'

export type Op =
  | { readonly op: 'lut'; readonly lut: Lut3d; readonly from: BufferName; readonly to: BufferName }
  | { readonly op: 'curve'; readonly curve: CodeCurve; readonly from: BufferName; readonly to: BufferName }
  | { readonly op: 'point'; readonly point: PointFunction; readonly from: BufferName; readonly to: BufferName }
  | { readonly op: 'space'; readonly step: SpaceStep }
  | { readonly op: 'mask'; readonly mask: MaskWork; readonly bath: string }
  /** `mask`: id of the bath whose mask limits what is laid, or null. */
  | { readonly op: 'lay'; readonly how: Laying; readonly mask: string | null }

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
export const EXACT_SIZE = 129
export const QUICK_SIZE = 21

/**
 * Compiles a line. The per-colour work of a bath becomes one LUT; steps on neighbouring pixels split it. LUTs are not
 * drawn together across baths: where one picture is cut to 0..1 and photographed again, or mixed with another, the
 * colour bends too sharply for one grid to follow. What is covered completely later is left out.
 */
export function compileLine(recipe: Recipe, options: CompileOptions = {}): Plan {
  const builder = new PlanBuilder(options.size ?? EXACT_SIZE, trimPoint(options.trims ?? NO_TRIMS))
  for (const bath of recipe.baths.filter(atWork)) builder.add(bath)
  return { ops: builder.end(recipe.strength), size: builder.size }
}

/** Only what is needed to see the mask of one bath; see maskPlane in run.ts. Null when the bath has none. */
export function compileMask(recipe: Recipe, bathId: string, options: CompileOptions = {}): Plan | null {
  const at = recipe.baths.findIndex((b) => b.id === bathId)
  const mask = recipe.baths[at]?.mask
  if (!mask) return null
  const builder = new PlanBuilder(options.size ?? EXACT_SIZE, trimPoint(options.trims ?? NO_TRIMS))
  const before = maskWork(mask).reads === 'line' ? recipe.baths.slice(0, at).filter(atWork) : []
  for (const bath of before) builder.add(bath)
  return { ops: builder.endWithMask(bathId, maskWork(mask)), size: builder.size }
}

/** Whether nothing of the picture below is seen. */
const covers = (how: Laying & { readonly mask: unknown }): boolean =>
  !how.mask && how.lay === 'normal' && !how.under && how.strength >= 100

class PlanBuilder {
  private ops: Op[] = []
  private camera: PointFunction
  /** Whether the line's picture is there; until then it is the untreated one, made only when something asks for it. */
  private made = false
  /** Whether the untreated picture is there for masks to read. */
  private footage = false

  constructor(
    readonly size: number,
    private readonly trim: PointFunction,
  ) {
    this.camera = trim
  }

  add(bath: Bath): void {
    const { stretch } = kindById(bath.kind)
    if (stretch === 'prepare') {
      this.camera = prepared(this.camera, bath)
      return
    }
    const fromCamera = stretch === 'process' && bath.takes === 'camera'
    if (fromCamera && covers(bath)) this.clear()
    else this.needLine(this.camera)
    if (bath.mask) this.mask(bath.id, maskWork(bath.mask))
    this.make(bath, fromCamera)
    this.lay(bath, bath.mask ? bath.id : null)
    this.made = true
  }

  /** Nothing of what was made so far will be seen. */
  private clear(): void {
    this.ops = []
    this.footage = false
  }

  private mask(bath: string, mask: MaskWork): void {
    if (mask.reads === 'footage' && !this.footage) {
      this.untreated(this.trim, 'footage')
      this.footage = true
    }
    this.ops.push({ op: 'mask', mask, bath })
  }

  /** What the bath makes, as a picture of its own. */
  private make(bath: Bath, fromCamera: boolean): void {
    const process = kindById(bath.kind).stretch === 'process'
    let from: BufferName = fromCamera ? 'camera' : 'line'
    if (process && !fromCamera) {
      this.ops.push({ op: 'curve', curve: REPHOTOGRAPHED, from, to: 'bath' })
      from = 'bath'
    }
    merged(stagesOf(bath), process).forEach((stage, i) => {
      if (stage.at === 'space') {
        this.ops.push({ op: 'space', step: stage.space })
        return
      }
      const takes = i > 0 ? stage.takes : process ? SCENE : DISPLAY
      const point = from === 'camera' ? chain(this.camera, stage.point) : stage.point
      if (stage.exact) this.ops.push({ op: 'point', point, from, to: 'bath' })
      else this.lut({ ...stage, takes, point }, from, 'bath')
      from = 'bath'
    })
  }

  private lut(stage: PointStage, from: BufferName, to: BufferName): void {
    const lut = makeLut(stage.point, stage.takes, this.size, stage.records ?? null)
    this.ops.push({ op: 'lut', lut, from, to })
  }

  /** Lays the bath's picture on the line's; where it covers all, its last LUT writes there at once. */
  private lay({ lay, under, strength }: Laying, mask: string | null): void {
    const last = this.ops[this.ops.length - 1]
    if (covers({ lay, under, strength, mask }) && last?.op === 'lut')
      this.ops[this.ops.length - 1] = { ...last, to: 'line' }
    else this.ops.push({ op: 'lay', how: { lay, under, strength }, mask })
  }

  private needLine(light: PointFunction): void {
    if (!this.made) this.untreated(light, 'line')
    this.made = true
  }

  private untreated(light: PointFunction, to: BufferName): void {
    this.lut({ at: 'point', takes: SCENE, point: chain(light, straightPoint) }, 'camera', to)
  }

  endWithMask(bath: string, mask: MaskWork): readonly Op[] {
    if (mask.reads === 'line') this.needLine(this.camera)
    this.mask(bath, mask)
    return this.ops
  }

  end(strength: number): readonly Op[] {
    this.needLine(this.camera)
    if (strength < 100) {
      this.untreated(this.trim, 'bath')
      this.lay({ lay: 'normal', under: false, strength: 100 - strength }, null)
    }
    return this.ops
  }
}

const REPHOTOGRAPHED = codeCurve(rephotographed)

type PointStage = Extract<Stage, { at: 'point' }>

/** Stages with neighbouring per-colour ones joined; a process ends in display code values. */
function merged(stages: readonly Stage[], process: boolean): Stage[] {
  const joined: Stage[] = []
  for (const stage of stages) {
    const before = joined[joined.length - 1]
    if (stage.at === 'point' && before?.at === 'point' && !before.exact)
      joined[joined.length - 1] = { ...before, point: chain(before.point, stage.point) }
    else joined.push(stage)
  }
  const last = joined.findLastIndex((s) => s.at === 'point')
  return joined.map((s, i) =>
    process && i === last && s.at === 'point' ? { ...s, point: chain(s.point, setAndFinish) } : s,
  )
}
