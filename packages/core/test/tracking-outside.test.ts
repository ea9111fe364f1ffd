import type opencv from '@techstark/opencv-js'
import { createRequire } from 'node:module'
import { beforeAll, expect, it } from 'vitest'
import { ALL_MOTIONS, ShapeTrack } from '../src/tracking'
import type { Grey } from '../src/tracking'
import { CORNERS, H, W, frameOf, mean, part, seen } from './moving'

/** It has a `then` that answers with itself: to wait for it, as an import does, would never end. */
const cv = createRequire(import.meta.url)('@techstark/opencv-js') as typeof opencv
beforeAll(
  () =>
    new Promise<void>((ready) => {
      if (typeof cv.Mat === 'function') ready()
      else cv.onRuntimeInitialized = () => ready()
    }),
)

/** A frame as OpenCV takes it. */
function matOf({ pixels }: Grey): opencv.Mat {
  const mat = new cv.Mat(H, W, cv.CV_32FC1)
  mat.data32F.set(pixels)
  return mat
}

it('is found where OpenCV finds it: enhanced correlation (Evangelidis and Psarakis 2008, findTransformECC) of the same frames', () => {
  const first = frameOf(0, false)
  const track = new ShapeTrack(part, first, ALL_MOTIONS)
  const template = matOf(first)
  // The shape alone counts, as in the track.
  const inside = cv.Mat.zeros(H, W, cv.CV_8UC1)
  const [[left, top], , [right, bottom]] = CORNERS
  cv.rectangle(inside, new cv.Point(left, top), new cv.Point(right - 1, bottom - 1), new cv.Scalar(255), -1)
  const warp = cv.Mat.eye(3, 3, cv.CV_32FC1)
  const until = new cv.TermCriteria(cv.TermCriteria_COUNT + cv.TermCriteria_EPS, 60, 1e-6)
  for (const frame of [1, 2, 3, 4, 5, 6]) {
    const grey = frameOf(frame, false)
    const own = track.next(frame, grey)!
    const input = matOf(grey)
    // Its warp goes from the template to the input; only where the template's shape lies is looked.
    cv.findTransformECC(template, input, warp, cv.MOTION_HOMOGRAPHY, until, inside, 5)
    input.delete()
    const m = warp.data32F
    const theirs = CORNERS.map(([x, y]) => {
      const w = m[6]! * x + m[7]! * y + m[8]!
      return [(m[0]! * x + m[1]! * y + m[2]!) / w, (m[3]! * x + m[4]! * y + m[5]!) / w] as const
    })
    const known = CORNERS.map(([x, y]) => seen(frame, x, y))
    const apart = (a: readonly (readonly number[])[], b: readonly (readonly number[])[]): number =>
      mean(a.map((p, k) => Math.hypot(p[0]! - b[k]![0]!, p[1]! - b[k]![1]!)))
    const ours = own.corners.map(({ x, y }) => [(x * W) / 100, (y * H) / 100])
    expect(apart(theirs, known)).toBeLessThan(0.3)
    expect(apart(ours, theirs)).toBeLessThan(0.3)
  }
  for (const mat of [template, inside, warp]) mat.delete()
})
