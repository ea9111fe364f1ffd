import type { Laying } from '../lay/blend'
import type { Grain, GrainOnPixels } from '../stages/grain'
import type { PointStage } from '../stages/stage'

/** Grain as a step of a run adds it to densities. */
export interface PlacedGrain extends Pick<Grain, 'clear' | 'silver'> {
  readonly on: GrainOnPixels
  readonly width: number
}

/** A grid in the kernels' memory, to be used at once. */
export interface PlacedGrid {
  readonly address: number
  readonly columns: number
  readonly rows: number
}

/** Nodes over code values 0..1 in the kernels' memory, as many a side as `side`; four floats each. */
interface PlacedNodes {
  readonly address: number
  readonly side: number
}

/**
 * A step of a run over single pixels. Two registers hold the pixels on their way: `line`, what the line has made so far,
 * and `own`, what is being made; stages work on `own`. Addresses are those of pictures or planes.
 *
 * - `load`, `store`: a picture into a register and back; `storePlane`: the first channel of `own` into a plane
 * - `storeShrunk`, `loadStretched`: the same beside a wide blur, see wasm/shrunk.ts
 * - `field`: factors and sums by place, from a grid over the picture; `grain`: noise by place
 * - `table`: code values through nodes that lie ready, see {@link PlacedNodes}
 * - `keep`: `own` becomes the line; `take`: the line into `own`
 * - `lay`: `own` is laid on the line, where a mask lets it; the result is in both
 */
export type Register = 'own' | 'line'

export type Step =
  | { readonly do: 'load' | 'store'; readonly address: number; readonly register: Register }
  | { readonly do: 'storePlane'; readonly address: number }
  | { readonly do: 'storeShrunk' | 'loadStretched'; readonly small: Shrunk }
  | { readonly do: 'field'; readonly grid: PlacedGrid; readonly width: number; readonly height: number }
  | { readonly do: 'grain'; readonly grain: PlacedGrain }
  | { readonly do: 'table'; readonly nodes: PlacedNodes }
  | { readonly do: 'keep' | 'take' }
  | { readonly do: 'stage'; readonly stage: PointStage }
  | { readonly do: 'lay'; readonly how: Laying; readonly mask: number }

/** A picture of so many pixels, shrunk `factor` times along each side. */
export interface Shrunk {
  readonly address: number
  readonly width: number
  readonly height: number
  readonly factor: number
  readonly w: number
  readonly h: number
}
