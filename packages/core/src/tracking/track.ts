import { FogBathError } from '../errors'
import type { MaskPart } from '../masks/schema'
import { pyramidOf, type Grey } from './grey'
import { PlanarTracker } from './planar'
import { frameOf, insideOf, type Corner } from './shape'
import { STILL, warped, type Warp } from '../numbers/warp'
import { type Motion } from './motions'

/** Where a shape is in one frame. */
export interface Tracked {
  readonly frame: number
  readonly corners: readonly Corner[]
  /** Share of the shape that could be used, 0..1. */
  readonly used: number
}

/** Sizes of the picture that are looked at; the first is half of what comes in. */
const LEVELS = 2
/** Fewer places than this say nothing. */
const LEAST_PLACES = 200
/** Where less of a shape can be used it is lost. */
const LOST = 0.4

/** Nothing grows or shrinks by so many times from one frame to the next. */
const MOST_GROWN = 1.5

/** Twice the areas of the triangles at each corner: all of one sign where a frame is convex and has not turned over. */
const turnsOf = (corners: readonly Corner[]): number[] =>
  corners.map((b, k) => {
    const [a, c] = [corners[(k + 3) % 4]!, corners[(k + 1) % 4]!]
    return (b.x - a.x) * (c.y - b.y) - (b.y - a.y) * (c.x - b.x)
  })
const isConvex = (corners: readonly Corner[]): boolean => turnsOf(corners).every((t) => t > 0)
/** Of a frame of four corners: the triangles at two opposite ones. */
const areaOf = (corners: readonly Corner[]): number => {
  const [a, , c] = turnsOf(corners)
  return (a! + c!) / 2
}

/** A shape from one frame to its neighbours, one way; begun again at the same frame for the other. */
export class ShapeTrack {
  private readonly tracker: PlanarTracker
  private readonly corners: readonly (readonly [number, number])[]
  private readonly middle: readonly [number, number]
  private readonly radius: number
  private warp: Warp = STILL
  lost = false

  /** @param grey the frame that shows the shape, about 960 pixels wide */
  constructor(
    part: MaskPart,
    private readonly grey: Grey,
    motions: readonly Motion[],
  ) {
    const pyramid = smaller(grey)
    const { width, height } = pyramid[0]!
    this.corners = frameOf(part, width / height).map(({ x, y }) => [(x * width) / 100, (y * height) / 100] as const)
    const mean = (k: 0 | 1): number => this.corners.reduce((sum, c) => sum + c[k], 0) / 4
    this.middle = [mean(0), mean(1)]
    this.radius = Math.max(...this.corners.map((c) => Math.hypot(c[0] - this.middle[0], c[1] - this.middle[1])))
    this.tracker = new PlanarTracker(pyramid, (level) => insideOf(part, level), this.middle, this.radius, motions)
    if (this.tracker.places < LEAST_PLACES)
      throw new FogBathError(
        'range',
        'shape',
        `The shape covers ${this.tracker.places} pixels of the picture; ${LEAST_PLACES} are needed to track it.`,
      )
  }

  /** The shape in the next frame of that way; null from the frame on in which it is lost. */
  next(frame: number, grey: Grey): Tracked | null {
    if (this.lost) return null
    const before = areaOf(this.cornersNow())
    const { warp, used } = this.tracker.next(smaller(grey), this.warp)
    this.warp = warp
    const corners = this.cornersNow()
    const grown = areaOf(corners) / before
    this.lost = !(used >= LOST && grown > 1 / MOST_GROWN && grown < MOST_GROWN && isConvex(corners))
    return this.lost ? null : { frame, corners, used }
  }

  /** Its frame where it is now. */
  cornersNow(): Corner[] {
    const { width, height } = this.grey
    const [w, h] = [width >> 1, height >> 1]
    return this.corners.map(([x, y]) => {
      const [u, v] = warped(this.warp, (x - this.middle[0]) / this.radius, (y - this.middle[1]) / this.radius)
      return {
        x: (100 * (this.middle[0] + this.radius * u)) / w,
        y: (100 * (this.middle[1] + this.radius * v)) / h,
      }
    })
  }
}

const smaller = (grey: Grey): Grey[] => pyramidOf(grey, LEVELS + 1).slice(1)
