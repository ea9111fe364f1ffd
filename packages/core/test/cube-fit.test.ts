import { expect, it } from 'vitest'
import { fitNodes, type Grid, type Samples } from '../src/formats/cube-fit'

const SIDE = 9

const samplesOf = ({ side, values }: Grid): Samples => ({ side, values: Float32Array.from(values) })

/** A bowl in each channel: a parabola, whose error half-way between two nodes is known (h²/4). */
const bowl = (side: number): Grid => {
  const square = (i: number): number => (i / (side - 1)) ** 2
  const values = new Float64Array(3 * side ** 3)
  for (let i = 0; i < side ** 3; i++)
    values.set([square(i % side), square(Math.floor(i / side) % side), square(Math.floor(i / side ** 2))], 3 * i)
  return { side, values }
}

it('halves what a straight line between the nodes of a bowl is off', () => {
  const { values } = fitNodes(bowl(SIDE), samplesOf(bowl(2 * SIDE - 1)), false)
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
  fitNodes(ramp(5), samplesOf(ramp(9)), true).values.forEach((v, i) => expect(v).toBeCloseTo(ramp(5).values[i]!, 12))
})

it('ends in black within a cell as sharply as the function, where what lies beyond is cut off', () => {
  // Black up to 0.3, then straight to white: the corner lies within a cell.
  const corner = (v: number): number => Math.max(0, (v - 0.3) / 0.7)
  const grid = (side: number): Grid => {
    const values = Float64Array.from({ length: 3 * side ** 3 }, (_, i) => {
      const node = Math.floor(i / 3)
      return corner((Math.floor(node / side ** (i % 3)) % side) / (side - 1))
    })
    return { side, values }
  }
  /** The greatest error on the grey axis, as it is seen. */
  const worst = (values: Float64Array): number => {
    const grey = (i: number): number => values[3 * i * (1 + SIDE + SIDE * SIDE)]!
    const errors = Array.from({ length: 801 }, (_, i) => {
      const place = (i / 800) * (SIDE - 1)
      const cell = Math.min(SIDE - 2, Math.floor(place))
      const read = grey(cell) + (place - cell) * (grey(cell + 1) - grey(cell))
      return Math.abs(Math.min(1, Math.max(0, read)) - corner(i / 800))
    })
    return Math.max(...errors)
  }
  const [held, free] = [false, true].map((cut) =>
    worst(fitNodes(grid(SIDE), samplesOf(grid(2 * SIDE - 1)), cut).values),
  )
  expect(held).toBeGreaterThan(0.02)
  expect(free).toBeLessThan(0.6 * held!)
})
