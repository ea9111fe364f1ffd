import { triple, bt709ToLab, displayLight, type Triple, three } from '@fogbath/core/colour'
import { entryOf, plainSteps, wholeLine, type Line } from '@fogbath/core/line'
import { plainStages, type PointFunction } from '@fogbath/core/stages'
import { type Scene } from '@fogbath/core/treat'

/** One line of the simulated densitometer: a place as it leaves a bath. */
interface ProbeStep {
  readonly code: Triple
  readonly light: Triple
  readonly lab: Triple
  /** Density of red, green and blue light: -log10 of display light. */
  readonly density: Triple
}

export interface ProbeReading {
  /** Mean scene light of the area, linear BT.709. */
  readonly scene: Triple
  /** The footage first, then after each bath, then the finished picture. */
  readonly steps: readonly ProbeStep[]
  /** Scene light, and code values, as they come to each bath. */
  readonly coming: readonly { readonly light: Triple; readonly code: Triple }[]
}

/** A place of a picture, 0..1, and the square around it, whose half side is `reach` of the width. */
interface Place {
  readonly u: number
  readonly v: number
  readonly reach: number
}

/**
 * Means over the square around a place.
 * @param masks of the baths that have one, by bath
 */
export function readProbe(scene: Scene, line: Line, at: Place, masks: ReadonlyMap<string, Float32Array>): ProbeReading {
  const { pixels } = scene.camera
  const channels = [0, 1, 2].map((k) => (i: number) => pixels[4 * i + k]!)
  const seen = triple(mean(scene, at, channels))
  const shares = new Map([...masks].map(([id, plane]) => [id, mean(scene, at, [(i) => plane[i]!])[0]!]))
  const steps = plainSteps(line.recipe, { around: line, refers: scene.refers, maskAt: (bath) => shares.get(bath.id)! })
  return {
    scene: valueOf(plainStages(entryOf([], scene.refers).scene), seen),
    coming: wholeLine(line).map((_, i) => ({
      light: valueOf(steps.lights[i]!, seen),
      code: valueOf(steps.entering[i]!, seen),
    })),
    steps: [steps.footage, ...steps.leaving, steps.whole].map((point) => readStep(point, seen)),
  }
}

/** Means of values of pixels over the area. */
function mean(
  { width, height }: Scene,
  { u, v, reach: share }: Place,
  values: readonly ((pixel: number) => number)[],
): number[] {
  const reach = Math.max(0, Math.round(share * width))
  const [cx, cy] = [Math.min(width - 1, Math.floor(u * width)), Math.min(height - 1, Math.floor(v * height))]
  const sums = values.map(() => 0)
  let count = 0
  for (let y = Math.max(0, cy - reach); y <= Math.min(height - 1, cy + reach); y++)
    for (let x = Math.max(0, cx - reach); x <= Math.min(width - 1, cx + reach); x++, count++)
      values.forEach((value, k) => (sums[k]! += value(y * width + x)))
  return sums.map((s) => s / count)
}

function valueOf(point: PointFunction, [r, g, b]: Triple): Triple {
  const out = three()
  point(r, g, b, out)
  return [out[0], out[1], out[2]]
}

function readStep(point: PointFunction, light: Triple): ProbeStep {
  const code = valueOf(point, light)
  const shown = triple(code.map(displayLight))
  const density = triple(shown.map((l) => -Math.log10(Math.max(l, 1e-5))))
  return { code, light: shown, lab: bt709ToLab(shown), density }
}
