import { expect, it } from 'vitest'
import { fitNodes, type Grid } from '../src/formats/cube-fit'

const SIDE = 9

/** A bowl in each channel: a parabola, whose error half-way between two nodes is known (h²/4). */
const bowl = (side: number): Grid => {
  const square = (i: number): number => (i / (side - 1)) ** 2
  const values = new Float64Array(3 * side ** 3)
  for (let i = 0; i < side ** 3; i++)
    values.set([square(i % side), square(Math.floor(i / side) % side), square(Math.floor(i / side ** 2))], 3 * i)
  return { side, values }
}

it('halves what a straight line between the nodes of a bowl is off', () => {
  const { values } = fitNodes(bowl(SIDE), bowl(2 * SIDE - 1))
  // The red of a row far from its ends.
  const row = Array.from({ length: SIDE }, (_, i) => values[3 * (i + SIDE * (4 + SIDE * 4))]!)
  const step = 1 / (SIDE - 1)
  for (let i = 2; i < SIDE - 3; i++) {
    const halfWay = (row[i]! + row[i + 1]!) / 2 - ((i + 0.5) * step) ** 2
    const atNode = row[i]! - (i * step) ** 2
    expect(Math.max(Math.abs(halfWay), Math.abs(atNode))).toBeLessThan((0.65 * step ** 2) / 4)
  }
  expect([...values.slice(0, 3), ...values.slice(-3)]).toEqual([0, 0, 0, 1, 1, 1])
})

it('leaves what is straight alone', () => {
  const ramp = (side: number): Grid => {
    const values = Float64Array.from({ length: 3 * side ** 3 }, (_, i) => (Math.floor(i / 3) % side) / (side - 1))
    return { side, values }
  }
  fitNodes(ramp(5), ramp(9)).values.forEach((v, i) => expect(v).toBeCloseTo(ramp(5).values[i]!, 12))
})
