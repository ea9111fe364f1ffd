import type { Register } from '../cpu/program'
import { maskReads } from '../masks/mask'
import type { Mask } from '../masks/schema'
import { evenCurves, type PointStage, type Stage } from '../stages/stage'
import { joined } from './join'
import type { BathWork, LineWork } from './work'
import { SLOT, type Op, type Plan, type RunStep, type Slot } from './plan'
import { tidied } from './tidy'

/**
 * Compiles a line into runs over single pixels, split only where neighbours or masks come in. What is covered completely
 * later is left out.
 */
export function compileWork(work: LineWork): Plan {
  const builder = new PlanBuilder(work)
  for (const bath of work.baths) builder.add(bath)
  return { ops: builder.end(work.strength, work.shown) }
}

/** Only what is needed to see the mask of the last bath, whose own work is left out. */
export function compileMaskWork(work: LineWork, bath: string, mask: Mask): Plan {
  const builder = new PlanBuilder(work)
  if (maskReads(mask) === 'line') for (const before of work.baths) builder.add(before)
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

const load = (slot: Slot, register: Register = 'own'): RunStep => ({ do: 'load', slot, register })
const store = (slot: Slot, register: Register = 'own'): RunStep => ({ do: 'store', slot, register })
const stageSteps = (stages: readonly PointStage[]): RunStep[] => joined(stages).map((stage) => ({ do: 'stage', stage }))

class PlanBuilder {
  private readonly prepared: Op[] = []
  private ops: Op[] = []
  /** The run that is being put together. */
  private run: RunStep[] = []
  /** Where the scene light of the baths comes from, and what is done to it first. */
  private camera: { slot: Slot; stages: readonly PointStage[] }
  /** Whether Prepare baths have changed the scene light. */
  private preparing = false
  /** Whether the line's picture is made; until then it is the untreated one, made only when something asks for it. */
  private made = false
  /** Where it stands. */
  private at = { register: false, slot: false }
  /** Whether a bath has worked on code values, which may have left 0..1. */
  private graded = false
  /** Whether the untreated picture is there for masks to read. */
  private footage = false

  constructor(private readonly work: LineWork) {
    this.camera = { slot: work.given ? SLOT.SCENE : SLOT.CAMERA, stages: work.scene }
  }

  add(bath: BathWork): void {
    if (bath.from === 'prepare') return this.prepare(bath)
    if (bath.strand) return this.strand(bath, bath.strand)
    if (bath.from !== 'line' && covers(bath)) this.clear()
    else this.needLine()
    if (bath.mask) this.mask(bath.id, bath.mask)
    if (bath.from === 'camera') this.fromCamera(bath.stages)
    else if (bath.from === 'untreated') this.fromUntreated(bath.stages)
    else this.fromLine(bath)
    this.lay(bath)
    this.graded = bath.from !== 'camera'
    this.made = true
  }

  /** Changes the scene light itself; strength mixes there. */
  private prepare({ id, stages, how, mask }: BathWork): void {
    const points = stages.flatMap((s) => (s.at === 'space' ? [] : [s]))
    if (mask) this.prepareMask(id, mask)
    this.preparing = true
    if (!mask && how.strength >= 100 && points.length === stages.length) {
      this.camera = { ...this.camera, stages: [...this.camera.stages, ...points] }
      return
    }
    this.run.push(load(this.camera.slot), ...stageSteps(this.camera.stages))
    this.run.push(store(SLOT.PREPARED))
    this.endRun()
    this.run.push(load(SLOT.PREPARED))
    this.pass(stages)
    this.run.push(load(SLOT.PREPARED, 'line'), { do: 'lay', how, mask: mask && id }, store(SLOT.PREPARED))
    this.endRun()
    this.prepared.push(...this.ops)
    this.ops = []
    this.camera = { slot: SLOT.PREPARED, stages: [] }
  }

  /** The mask of a Prepare bath: to it the line so far is the picture that no process has touched. */
  private prepareMask(id: string, mask: Mask): void {
    if (maskReads(mask) !== 'line') return this.mask(id, mask)
    const { slot, stages } = this.untreated()
    const steps = [load(slot), ...stageSteps(stages), store(SLOT.BATH)]
    this.ops.push({ op: 'run', steps }, { op: 'mask', bath: id, mask, reads: SLOT.BATH })
  }

  /** Nothing of what was made so far will be seen. */
  private clear(): void {
    this.ops = []
    this.run = []
    this.footage = false
    this.at = { register: false, slot: false }
  }

  private mask(bath: string, mask: Mask): void {
    const reads = maskReads(mask)
    if (reads === 'line') this.endRun()
    if (reads === 'footage' && !this.footage) {
      this.ops.push({
        op: 'run',
        steps: [load(SLOT.CAMERA), ...stageSteps(this.work.untreated), store(SLOT.FOOTAGE)],
      })
      this.footage = true
    }
    const slot = reads && (reads === 'line' ? SLOT.LINE : SLOT.FOOTAGE)
    this.ops.push({ op: 'mask', bath, mask, reads: slot })
  }

  private fromCamera(stages: readonly Stage[]): void {
    this.run.push(load(this.camera.slot))
    this.pass([...this.camera.stages, ...stages])
  }

  /** Another line, made in the place of this one, which waits beside it. */
  private strand(bath: BathWork, baths: readonly BathWork[]): void {
    this.needLine()
    this.endRun()
    if (bath.mask) this.mask(bath.id, bath.mask)
    this.ops.push({ op: 'run', steps: [load(SLOT.LINE), store(SLOT.KEPT)] })
    const inner = new PlanBuilder(this.work)
    Object.assign(inner, { camera: this.camera, preparing: this.preparing })
    if (bath.from === 'line') Object.assign(inner, { made: true, at: { register: false, slot: true } })
    for (const own of baths) inner.add(own)
    inner.needLine()
    inner.endRun()
    this.ops.push(...inner.ops)
    this.run.push(load(SLOT.LINE), load(SLOT.KEPT, 'line'))
    this.at = { register: true, slot: false }
    this.lay(bath)
    this.graded = true
  }

  private fromUntreated(stages: readonly Stage[]): void {
    const { slot, stages: own } = this.untreated()
    this.run.push(load(slot))
    this.pass([...own, ...stages])
  }

  /** Where the picture that no process has touched comes from, and how its code values come about. */
  private untreated(): { slot: Slot; stages: readonly PointStage[] } {
    const { slot, stages } = this.camera
    if (this.preparing) return { slot, stages: [...stages, ...this.work.straight] }
    return { slot: SLOT.CAMERA, stages: this.work.untreated }
  }

  private fromLine(bath: BathWork): void {
    this.take()
    // Nothing is laid on it: the line is what the bath makes of it, and need not be put down.
    if (covers(bath)) this.at = { register: false, slot: false }
    this.pass(bath.stages)
  }

  /** Brings the line's picture into `own`, where a bath that was kept or laid has left it already. */
  private take(): void {
    this.needInRegister()
    const last = this.run.at(-1)?.do
    if (last !== 'keep' && last !== 'lay') this.run.push({ do: 'take' })
  }

  /** Stages on `own`. Where neighbours are looked at the picture is put down and taken up again. */
  private pass(stages: readonly Stage[]): void {
    let points: PointStage[] = []
    for (const stage of stages) {
      if (stage.at !== 'space') {
        points.push(stage)
        continue
      }
      this.run.push(...stageSteps(points), store(SLOT.BATH))
      points = []
      this.endRun()
      this.ops.push({ op: 'space', slot: SLOT.BATH, step: stage.space })
      this.run.push(load(SLOT.BATH))
    }
    this.run.push(...stageSteps(points))
  }

  private lay(bath: BathWork): void {
    if (covers(bath)) this.run.push({ do: 'keep' })
    else {
      this.needInRegister()
      this.run.push({ do: 'lay', how: bath.how, mask: bath.mask ? bath.id : null })
    }
    this.at = { register: true, slot: false }
  }

  private needLine(): void {
    if (this.made) return
    const { slot, stages } = this.untreated()
    this.run.push(load(slot), ...stageSteps(stages), { do: 'keep' })
    this.at = { register: true, slot: false }
    this.made = true
  }

  private needInRegister(): void {
    if (!this.at.register) this.run.push(load(SLOT.LINE, 'line'))
    this.at = { ...this.at, register: true }
  }

  /** Puts the line's picture down where only a register holds it; registers end with their run. */
  private endRun(): void {
    if (this.at.register && !this.at.slot) {
      this.run.push(store(SLOT.LINE, 'line'))
      this.at = { register: true, slot: true }
    }
    if (this.run.length > 0) this.ops.push({ op: 'run', steps: tidied(this.run) })
    this.run = []
    this.at = { ...this.at, register: false }
  }

  /** Brings the line's code values into 0..1. */
  private holdLine(): void {
    this.take()
    this.run.push(...stageSteps([HELD]), { do: 'keep' })
    this.at = { register: true, slot: false }
  }

  endWithMask(bath: string, mask: Mask): readonly Op[] {
    if (maskReads(mask) === 'line') this.needLine()
    this.mask(bath, mask)
    return [...this.prepared, ...this.ops]
  }

  end(strength: number, shown: readonly PointStage[]): readonly Op[] {
    this.needLine()
    if (this.graded) this.holdLine()
    if (strength < 100) {
      this.needInRegister()
      this.run.push(load(SLOT.CAMERA), ...stageSteps(this.work.untreated))
      this.run.push({ do: 'lay', how: { lay: 'normal', under: false, strength: 100 - strength }, mask: null })
      this.at = { register: true, slot: false }
    }
    if (shown.length > 0) {
      this.take()
      this.run.push(...stageSteps(shown), store(SLOT.LINE))
      this.at = { register: true, slot: true }
    }
    this.endRun()
    return [...this.prepared, ...this.ops]
  }
}
