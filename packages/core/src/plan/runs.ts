import type { Register } from '../cpu/step'
import type { Laying } from '../lay/blend'
import type { PointStage, Stage } from '../stages/stage'
import { joined } from './join'
import { SLOT, type Op, type RunStep, type Slot } from './plan'
import { tidied } from './tidy'

export const load = (slot: Slot, register: Register = 'own'): RunStep => ({ do: 'load', slot, register })
export const store = (slot: Slot, register: Register = 'own'): RunStep => ({ do: 'store', slot, register })
export const stageSteps = (stages: readonly PointStage[]): RunStep[] =>
  joined(stages).map((stage) => ({ do: 'stage', stage }))

/** Runs over single pixels, put together step by step, and operations between them. */
export class Runs {
  private ops: Op[] = []
  /** The run that is being put together. */
  private steps: RunStep[] = []
  /** Where the line's picture stands: in its register, in its slot, in both, or nowhere. */
  private at = { register: false, slot: false }

  push(...steps: readonly RunStep[]): void {
    this.steps.push(...steps)
  }

  /** An operation that is no run, between what came before and what comes. */
  between(...ops: readonly Op[]): void {
    this.ops.push(...ops)
  }

  /** The line's picture was put into its slot by others. */
  lineInSlot(): void {
    this.at = { register: false, slot: true }
  }

  /** The line's picture is in its register alone. */
  lineInRegister(): void {
    this.at = { register: true, slot: false }
  }

  /** The line's picture will be made anew: where it stands it is needed by nobody. */
  lineNeededNoMore(): void {
    this.at = { register: false, slot: false }
  }

  /** Nothing of what was made so far will be seen. */
  clear(): void {
    this.ops = []
    this.steps = []
    this.lineNeededNoMore()
  }

  needInRegister(): void {
    if (!this.at.register) this.push(load(SLOT.LINE, 'line'))
    this.at = { ...this.at, register: true }
  }

  /** Brings the line's picture into `own`, where a bath that was kept or laid has left it already. */
  take(): void {
    this.needInRegister()
    const last = this.steps.at(-1)?.do
    if (last !== 'keep' && last !== 'lay') this.push({ do: 'take' })
  }

  /** What is in `own` is the line from now on. */
  keep(): void {
    this.push({ do: 'keep' })
    this.lineInRegister()
  }

  lay(how: Laying, mask: string | null): void {
    this.needInRegister()
    this.push({ do: 'lay', how, mask })
    this.lineInRegister()
  }

  /** Stages on `own`. Where neighbours are looked at the picture is put down and taken up again. */
  pass(stages: readonly Stage[]): void {
    let points: PointStage[] = []
    for (const stage of stages) {
      if (stage.at !== 'space') {
        points.push(stage)
        continue
      }
      this.push(...stageSteps(points), store(SLOT.BATH))
      points = []
      this.endRun()
      this.between({ op: 'space', slot: SLOT.BATH, step: stage.space })
      this.push(load(SLOT.BATH))
    }
    this.push(...stageSteps(points))
  }

  /** Puts the line's picture down where only a register holds it; registers end with their run. */
  endRun(): void {
    if (this.at.register && !this.at.slot) {
      this.push(store(SLOT.LINE, 'line'))
      this.at = { register: true, slot: true }
    }
    if (this.steps.length > 0) this.between({ op: 'run', steps: tidied(this.steps) })
    this.steps = []
    this.at = { ...this.at, register: false }
  }

  /** What was put together so far, once its run has ended; it begins anew. */
  taken(): readonly Op[] {
    const { ops } = this
    this.ops = []
    return ops
  }
}
