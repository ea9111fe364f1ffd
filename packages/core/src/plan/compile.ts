import { maskReads } from '../masks/mask'
import type { Mask } from '../masks/schema'
import { evenCurves, type PointStage, type Stage } from '../stages/stage'
import { SLOT, type Op, type Plan, type Slot } from './plan'
import { Runs, load, stageSteps, store } from './runs'
import type { BathWork, LineWork } from './work'

/**
 * Compiles a line into runs over single pixels, split only where neighbours or masks come in. What is covered completely
 * later is left out.
 */
export function compileWork(work: LineWork): Plan {
  const builder = new PlanBuilder(work)
  builder.addLook()
  builder.addAfter()
  return { ops: builder.end() }
}

/** The mask of a bath, and in which part of the line it stands; of that part the work holds only the baths before it. */
export interface MaskWork {
  readonly bath: string
  readonly mask: Mask
  readonly part: 'preparation' | 'look' | 'after'
}

/** Only what is needed to see a mask. */
export function compileMaskWork(work: LineWork, { bath, mask, part }: MaskWork): Plan {
  const builder = new PlanBuilder(work)
  if (maskReads(mask) === 'line') {
    if (part === 'look') builder.addBaths()
    if (part === 'after') {
      builder.addLook()
      builder.addAfter()
    }
  }
  return { ops: builder.endWithMask(bath, mask) }
}

/** Code values as a screen takes them. */
export const HELD: PointStage = evenCurves({
  key: 'held in 0..1',
  axis: { nodes: 'even', from: 0, to: 1, steps: 1 },
  f: (code) => code,
})

/** Whether nothing of the picture below is seen. */
const covers = ({ how, mask }: BathWork): boolean => !mask && how.lay === 'normal' && !how.under && how.strength >= 100

class PlanBuilder {
  private readonly runs = new Runs()
  private readonly prepared: Op[] = []
  /** Where the scene light of the baths comes from, and what is done to it first. */
  private camera: { slot: Slot; stages: readonly PointStage[] }
  /** Whether Prepare baths have changed the scene light. */
  private preparing = false
  /** Whether the line's picture is made; until then it is the untreated one, made only when something asks for it. */
  private made = false
  /** Whether a bath has worked on code values, which may have left 0..1. */
  private graded = false
  /** Whether the untreated picture is there for masks to read. */
  private footage = false
  /** What a look of less than full strength is laid on: the prepared picture without any look. */
  private base: { slot: Slot; stages: readonly PointStage[] }

  constructor(private readonly work: LineWork) {
    this.camera = { slot: work.given ? SLOT.SCENE : SLOT.CAMERA, stages: work.scene }
    for (const bath of work.preparation ?? []) this.add(bath)
    this.base = this.keptBase()
  }

  /** Baths of the look may change the prepared light once more; what lies beneath the look is kept from them. */
  private keptBase(): { slot: Slot; stages: readonly PointStage[] } {
    const { slot, stages } = this.untreated()
    if (slot !== SLOT.PREPARED || this.work.strength >= 100) return { slot, stages }
    this.prepared.push({ op: 'run', steps: [load(slot), ...stageSteps(stages), store(SLOT.BASE)] })
    return { slot: SLOT.BASE, stages: [] }
  }

  addBaths(): void {
    for (const bath of this.work.baths) this.add(bath)
  }

  /** The baths of the look, held in what a screen shows, at its strength. */
  addLook(): void {
    this.addBaths()
    this.needLine()
    this.hold()
    const { strength } = this.work
    if (strength >= 100) return
    const { slot, stages } = this.base
    this.runs.needInRegister()
    this.runs.push(load(slot), ...stageSteps(stages))
    this.runs.lay({ lay: 'normal', under: false, strength: 100 - strength }, null)
  }

  addAfter(): void {
    for (const bath of this.work.after ?? []) this.add(bath)
    this.hold()
  }

  /** Screens take code values from 0 to 1. */
  private hold(): void {
    if (!this.graded) return
    this.runs.take()
    this.runs.push(...stageSteps([HELD]))
    this.runs.keep()
    this.graded = false
  }

  private add(bath: BathWork): void {
    if (bath.from === 'prepare') return this.prepare(bath)
    if (bath.strand) return this.strand(bath, bath.strand)
    const anew = bath.from !== 'line' && covers(bath)
    if (anew) this.clear()
    else this.needLine()
    if (bath.mask) this.mask(bath.id, bath.mask)
    if (bath.from === 'camera') this.fromCamera(bath.stages)
    else if (bath.from === 'untreated') this.fromUntreated(bath.stages)
    else this.fromLine(bath)
    this.lay(bath)
    this.graded = (this.graded && !anew) || !bath.inside
    this.made = true
  }

  /** Changes the scene light itself; strength mixes there. */
  private prepare({ id, stages, how, mask }: BathWork): void {
    const { runs } = this
    const points = stages.flatMap((s) => (s.at === 'space' ? [] : [s]))
    if (mask) this.prepareMask(id, mask)
    this.preparing = true
    if (!mask && how.strength >= 100 && points.length === stages.length) {
      this.camera = { ...this.camera, stages: [...this.camera.stages, ...points] }
      return
    }
    runs.push(load(this.camera.slot), ...stageSteps(this.camera.stages), store(SLOT.PREPARED))
    runs.endRun()
    runs.push(load(SLOT.PREPARED))
    runs.pass(stages)
    runs.push(load(SLOT.PREPARED, 'line'), { do: 'lay', how, mask: mask && id }, store(SLOT.PREPARED))
    runs.endRun()
    this.prepared.push(...runs.taken())
    this.camera = { slot: SLOT.PREPARED, stages: [] }
  }

  /** The mask of a Prepare bath: to it the line so far is the picture that no process has touched. */
  private prepareMask(id: string, mask: Mask): void {
    if (maskReads(mask) !== 'line') return this.mask(id, mask)
    const { slot, stages } = this.untreated()
    const steps = [load(slot), ...stageSteps(stages), store(SLOT.BATH)]
    this.runs.between({ op: 'run', steps }, { op: 'mask', bath: id, mask, reads: SLOT.BATH })
  }

  /** Nothing of what was made so far will be seen. */
  private clear(): void {
    this.runs.clear()
    this.footage = false
  }

  private mask(bath: string, mask: Mask): void {
    const reads = maskReads(mask)
    if (reads === 'line') this.runs.endRun()
    if (reads === 'footage' && !this.footage) {
      const steps = [load(SLOT.CAMERA), ...stageSteps(this.work.untreated), store(SLOT.FOOTAGE)]
      this.runs.between({ op: 'run', steps })
      this.footage = true
    }
    const slot = reads && (reads === 'line' ? SLOT.LINE : SLOT.FOOTAGE)
    this.runs.between({ op: 'mask', bath, mask, reads: slot })
  }

  private fromCamera(stages: readonly Stage[]): void {
    this.runs.push(load(this.camera.slot))
    this.runs.pass([...this.camera.stages, ...stages])
  }

  /** Another line, made in the place of this one, which waits beside it. */
  private strand(bath: BathWork, baths: readonly BathWork[]): void {
    const { runs } = this
    this.needLine()
    runs.endRun()
    if (bath.mask) this.mask(bath.id, bath.mask)
    runs.between({ op: 'run', steps: [load(SLOT.LINE), store(SLOT.KEPT)] })
    const inner = new PlanBuilder({ ...this.work, preparation: [] })
    inner.camera = this.camera
    inner.preparing = this.preparing
    if (bath.from === 'line') {
      inner.made = true
      inner.runs.lineInSlot()
    }
    for (const own of baths) inner.add(own)
    inner.needLine()
    inner.runs.endRun()
    runs.between(...inner.runs.taken())
    runs.push(load(SLOT.LINE), load(SLOT.KEPT, 'line'))
    runs.lineInRegister()
    this.lay(bath)
    this.graded = true
  }

  private fromUntreated(stages: readonly Stage[]): void {
    const { slot, stages: own } = this.untreated()
    this.runs.push(load(slot))
    this.runs.pass([...own, ...stages])
  }

  /** Where the picture that no process has touched comes from, and how its code values come about. */
  private untreated(): { slot: Slot; stages: readonly PointStage[] } {
    const { slot, stages } = this.camera
    if (this.preparing) return { slot, stages: [...stages, ...this.work.straight] }
    return { slot: SLOT.CAMERA, stages: this.work.untreated }
  }

  private fromLine(bath: BathWork): void {
    this.runs.take()
    if (covers(bath)) this.runs.lineNeededNoMore()
    this.runs.pass(bath.stages)
  }

  private lay(bath: BathWork): void {
    if (covers(bath)) this.runs.keep()
    else this.runs.lay(bath.how, bath.mask ? bath.id : null)
  }

  private needLine(): void {
    if (this.made) return
    const { slot, stages } = this.untreated()
    this.runs.push(load(slot), ...stageSteps(stages))
    this.runs.keep()
    this.made = true
  }

  endWithMask(bath: string, mask: Mask): readonly Op[] {
    if (maskReads(mask) === 'line') this.needLine()
    this.mask(bath, mask)
    return [...this.prepared, ...this.runs.taken()]
  }

  end(): readonly Op[] {
    const { runs } = this
    const { shown } = this.work
    if (shown.length > 0) {
      runs.take()
      runs.push(...stageSteps(shown), store(SLOT.LINE))
      runs.lineInSlot()
    }
    runs.endRun()
    return [...this.prepared, ...runs.taken()]
  }
}
