import { STRIP_PATCHES, STRIP_WEDGE } from '@fogbath/core/charts'
import { triple, type Triple, three } from '@fogbath/core/colour'
import { encodingById } from '@fogbath/core/encodings'
import { recodeStages } from '@fogbath/core/cpu'
import { plainSteps, type Line } from '@fogbath/core/line'
import { chain, plainStages, type PointFunction } from '@fogbath/core/stages'
import { shownIn, type Order, type Scene } from '@fogbath/core/treat'
import type { StripColours } from './protocol'

/** Test strips: the footage's, what leaves each bath, and the screen's. */
export function stripsOf({ recipe, encoding, ...around }: Order): StripColours[] {
  const steps = plainSteps(recipe, { around })
  const recode = plainStages(recodeStages(encodingById(shownIn(encoding))))
  return [steps.footage, ...steps.leaving, steps.whole].map((point) => stripOf(chain(point, recode)))
}

function stripOf(point: PointFunction): StripColours {
  const lights: Triple[] = [...STRIP_WEDGE.map((g): Triple => [g, g, g]), ...STRIP_PATCHES.map((p) => p.light)]
  const out = three()
  return lights.map(([r, g, b]) => {
    point(r, g, b, out)
    return triple(Array.from(out, (v) => Math.round(255 * Math.min(1, Math.max(0, v)))))
  })
}

const SAMPLES = 500

/**
 * How far each bath moves the picture at most, in code values 0..1, measured on pixels spread over the frame. Work on
 * neighbouring pixels is not seen here.
 * @param masks of the baths that have one, by bath
 */
export function changesOf(scene: Scene, line: Line, masks: ReadonlyMap<string, Float32Array>): number[] {
  let here = 0
  const { footage, leaving } = plainSteps(line.recipe, {
    around: line,
    refers: scene.refers,
    maskAt: (bath) => masks.get(bath.id)![here]!,
  })
  const steps = [footage, ...leaving]
  const n = scene.width * scene.height
  const stride = Math.max(1, Math.floor(n / SAMPLES))
  const most = leaving.map(() => 0)
  const [before, after] = [three(), three()]
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
