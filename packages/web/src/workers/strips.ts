import {
  STRIP_PATCHES,
  STRIP_WEDGE,
  chain,
  encodingById,
  plainStages,
  plainSteps,
  recodeStages,
  type PointFunction,
  type Recipe,
  type Triple,
  type Trims,
} from '@fogbath/core'
import type { StripColours } from './protocol'
import type { Scene } from './treat'

/** Test strips: the footage's, what leaves each bath, and the screen's. */
export function stripsOf(recipe: Recipe, trims: Trims, encoding: string): StripColours[] {
  const steps = plainSteps(recipe, { trims })
  const shownIn = encodingById(encoding).refers === 'display' ? encoding : 'bt1886'
  const recode = plainStages(recodeStages(encodingById(shownIn)))
  return [steps.footage, ...steps.leaving, steps.whole].map((point) => stripOf(chain(point, recode)))
}

function stripOf(point: PointFunction): StripColours {
  const lights: Triple[] = [...STRIP_WEDGE.map((g): Triple => [g, g, g]), ...STRIP_PATCHES.map((p) => p.light)]
  const out = new Float64Array(3)
  return lights.map(([r, g, b]) => {
    point(r, g, b, out)
    return Array.from(out, (v) => Math.round(255 * Math.min(1, Math.max(0, v)))) as unknown as StripColours[number]
  })
}

const SAMPLES = 500

/**
 * How far each bath moves the picture at most, in code values 0..1, measured on pixels spread over the frame. Work on
 * neighbouring pixels is not seen here.
 * @param masks of the baths that have one, by bath
 */
export function changesOf(
  scene: Scene,
  recipe: Recipe,
  trims: Trims,
  masks: ReadonlyMap<string, Float32Array>,
): number[] {
  let here = 0
  const { footage, leaving } = plainSteps(recipe, {
    ...{ trims, refers: scene.refers },
    maskAt: (bath) => masks.get(bath.id)![here]!,
  })
  const steps = [footage, ...leaving]
  const n = scene.width * scene.height
  const stride = Math.max(1, Math.floor(n / SAMPLES))
  const most = leaving.map(() => 0)
  const [before, after] = [new Float64Array(3), new Float64Array(3)]
  const { pixels } = scene.camera
  for (let i = 0; i < n; i += stride) {
    here = i
    const [r, g, b] = [pixels[4 * i]!, pixels[4 * i + 1]!, pixels[4 * i + 2]!]
    steps.forEach((point, s) => {
      point(r, g, b, after)
      if (s > 0) for (let k = 0; k < 3; k++) most[s - 1] = Math.max(most[s - 1]!, Math.abs(after[k]! - before[k]!))
      before.set(after)
    })
  }
  return most
}
