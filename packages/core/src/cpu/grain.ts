import { grainOnPixels, type Grain } from '../stages/grain'
import { runJob } from './jobs'
import { kernelMemory } from './memory'

/** Rows that a thread takes at a time: the more, the fewer rows of noise are worked out twice. */
const ROWS = 64
/** Vectors before the weights, see wasm/grain.ts. */
const HEAD = 24

/** Adds grain to the densities of an RGBA float picture, in place. */
export function addGrain(grain: Grain, frame: number, at: number, width: number, height: number): void {
  const { key, own, common, silver, weights } = grainOnPixels(grain, width, frame)
  const reach = weights.length - 1
  const memory = kernelMemory()
  const length = HEAD + 4 * weights.length
  memory.borrow(4 * length, (given) => {
    memory.ints(given, 2).set([key, reach])
    const three = (v: number): number[] => [v, v, v, 0]
    memory
      .floats(given + 16, length - 4)
      .set([
        ...[...grain.clear, 0],
        ...three(own),
        ...three(common),
        ...[...grain.silver, 0],
        ...three(silver),
        ...[...weights].flatMap((w) => [w, w, w, w]),
      ])
    const row = 16 * width
    runJob({
      ...{
        kind: 'grain',
        units: height,
        per: ROWS,
        scratch: 16 * (1 + (reach >> 1)) + (2 * reach + 2) * row + 32 * (reach + 2),
      },
      words: [at, given, width],
    })
  })
}
