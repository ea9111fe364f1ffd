import { STILL, type Warp } from '../numbers/warp'

export type Motion = 'move' | 'turn' | 'scale' | 'shear' | 'perspective'

/** Ways in which what is tracked may move, each by small steps of a homography about the middle. */
export const MOTIONS: Readonly<Record<Motion, readonly (readonly number[])[]>> = {
  move: [
    [0, 0, 1, 0, 0, 0, 0, 0, 0],
    [0, 0, 0, 0, 0, 1, 0, 0, 0],
  ],
  turn: [[0, -1, 0, 1, 0, 0, 0, 0, 0]],
  scale: [[1, 0, 0, 0, 1, 0, 0, 0, 0]],
  shear: [
    [1, 0, 0, 0, -1, 0, 0, 0, 0],
    [0, 1, 0, 1, 0, 0, 0, 0, 0],
  ],
  perspective: [
    [0, 0, 0, 0, 0, 0, 1, 0, 0],
    [0, 0, 0, 0, 0, 0, 0, 1, 0],
  ],
}
export const ALL_MOTIONS = Object.keys(MOTIONS) as Motion[]

/** 1 and small steps along generators. */
export const stepped = (generators: readonly (readonly number[])[], by: ArrayLike<number>): Warp =>
  STILL.map((v, k) => v + generators.reduce((sum, g, n) => sum + by[n]! * g[k]!, 0)) as unknown as Warp
