import { grainOnPixels, type Grain } from '../stages/grain'
import { real, type Real } from './jobs'
import type { PlacedGrain, Step } from './step'

/** Grain as a step of a run. @param frame number of the frame, every one of which has grain of its own */
export const grainStep = (grain: Grain, width: number, frame: number): Step => ({
  do: 'grain',
  grain: { on: grainOnPixels(grain, width, frame), width, clear: grain.clear, silver: grain.silver },
})

const reachOf = ({ on }: PlacedGrain): number => on.weights.length - 1

/** Bytes that a thread needs of its own: addresses of the rows of noise, these rows, and one that is not blurred yet. */
export function roomOfGrain(grain: PlacedGrain): number {
  const reach = reachOf(grain)
  const rows = 2 * reach + 1
  return 16 * Math.ceil(rows / 4) + 16 * (rows * (grain.width + 4) + grain.width + 2 * (reach + 2))
}

/** What wasm/grain.ts is given. @param room where a thread's own room for it begins, behind the registers' beginning */
export function wordsOfGrain(grain: PlacedGrain, room: number): (number | Real)[] {
  const { key, own, common, silver, weights } = grain.on
  const factors = [...grain.clear, own, common, ...grain.silver, silver, ...weights]
  return [room, grain.width, key, reachOf(grain), ...factors.map(real)]
}
