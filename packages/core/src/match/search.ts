import { leastSquares, type GoesOn } from './least-squares'
import { problemOf, type Problem } from './problem'
import { FEW, samplesOf, type MatchRequest, type Samples } from './samples'
import { samePixels, sameLook, sameTones, type Target } from './target'

export interface MatchProgress {
  readonly kind: string
  readonly step: number
  /** The distance so far. */
  readonly distance: number
}

export interface Fit {
  readonly problem: Problem
  readonly place: readonly number[]
  readonly cost: number
}

/** Steps that are given to tones alone, to each choice, to a process, and to the one that is finished. */
const STEPS = { tones: 3, choice: 2, process: 6, finished: 30 }
/** Pulls settings that nothing speaks for towards where they begin. */
const HOLD = 0.05
/** A choice that gains less than this share of what is off is not made. */
const LEAST_GAIN = 0.1
/** Reaches within which colours are shared, wide ones first; CIELAB. */
export const NEAR = 8
const REACHES = [16, 11, NEAR]
/** So many of the nearest are followed while choices are made. */
const FOLLOWED = 3
/** So many are finished, and the nearest of them is the result. */
const FINALISTS = 3

/** The way from several processes to one fit: tones first, then what can be chosen, then all numbers against all colours. */
export class Search {
  stopped = false

  constructor(
    private readonly request: MatchRequest,
    private readonly scene: Samples,
    private readonly onProgress?: (p: MatchProgress) => GoesOn,
  ) {}

  async run(): Promise<Fit> {
    const few = samplesOf(this.request, FEW)
    const targets = {
      tones: sameTones(few.reference),
      whole: this.request.sameFrame ? samePixels(few.reference) : sameLook(few.reference),
    }
    const begun: Fit[] = []
    for (const kind of this.request.kinds)
      if (!this.stopped || begun.length === 0)
        begun.push(...(await this.begun(problemOf(this.request, few, kind), targets)))
    const best = nearest(begun).map((fit) => ({ ...fit, problem: fit.problem.over(this.scene) }))
    if (this.stopped) return best[0]!
    const done: Fit[] = []
    for (const fit of best.slice(0, FINALISTS)) done.push(await this.finished(fit))
    return nearest(done)[0]!
  }

  private finished(fit: Fit): Promise<Fit> {
    return this.request.sameFrame
      ? this.moved(fit, samePixels(this.scene.reference), STEPS.finished)
      : this.narrowed(fit)
  }

  /** A process with its tones right, its choices made, and on its way. */
  private async begun(problem: Problem, { tones, whole }: { tones: Target; whole: Target }): Promise<Fit[]> {
    const toned = await this.moved({ problem, place: problem.start, cost: Infinity }, tones, STEPS.tones)
    const unchosen = await this.moved(toned, whole, STEPS.choice)
    let best = [unchosen]
    for (const { key, values } of problem.choices) {
      const tried = [...best]
      for (const from of best) tried.push(...(await this.chosen({ ...from, place: toned.place }, whole, key, values!)))
      // What has been left as it was is followed too: a later choice may be all that was wanted.
      best = [...new Set([...nearest(tried).slice(0, FOLLOWED), unchosen])]
    }
    const followed: Fit[] = []
    for (const fit of best) followed.push(await this.moved(fit, whole, STEPS.process))
    return followed
  }

  /** The same with another choice, as many as gain by it. */
  private async chosen(from: Fit, whole: Target, key: string, values: readonly string[]): Promise<Fit[]> {
    const found: Fit[] = []
    for (const value of values) {
      if (this.stopped) break
      const problem = from.problem.choosing(key, value)
      const tried = await this.moved({ ...from, problem }, whole, STEPS.choice)
      if (tried.cost < from.cost * (1 - LEAST_GAIN)) found.push(tried)
    }
    return found
  }

  /** Nearer to what both pictures hold. */
  private async narrowed(from: Fit): Promise<Fit> {
    let fit = from
    for (const reach of REACHES) {
      if (this.stopped) break
      const near = { fitted: fit.problem.labsAt(fit.place), reach }
      fit = await this.moved(fit, sameLook(this.scene.reference, near), STEPS.finished / REACHES.length)
    }
    return fit
  }

  private async moved({ problem, place }: Fit, target: Target, steps: number): Promise<Fit> {
    const { start, labsAt, kind } = problem
    const residuals = (at: readonly number[]): Float64Array =>
      Float64Array.from([...target.off(labsAt(at)), ...at.map((v, k) => HOLD * (v - start[k]!))])
    const onStep = async ({ step, cost }: { step: number; cost: number }): Promise<boolean> => {
      this.stopped ||= (await this.onProgress?.({ kind, step, distance: Math.sqrt(cost) })) === false
      return !this.stopped
    }
    return { problem, ...(await leastSquares(residuals, place, { steps, onStep })) }
  }
}

const nearest = (fits: readonly Fit[]): Fit[] => [...fits].sort((a, b) => a.cost - b.cost)
