import { describe, expect, it } from 'vitest'
import { labToBt709, type Triple } from '../src/colour'
import { Pictures, emit16 } from '../src/cpu'
import { lineFigures, pictureFigures } from '../src/readings'
import { type PointFunction } from '../src/stages'
import { blurRecords } from '../src/cpu/blur'
import { shiftRecords } from '../src/cpu/shift'
import { fillOutline } from '../src/masks/shapes'
import { inMemory } from './helpers'
import { drawn, maskOf, part } from './mask-helpers'

const pictures = new Pictures()
const STILL = { x: 0, y: 0, rotation: 0 }

describe('the width of a blur', () => {
  // The variance of a convolution is the sum of the variances: of a single point it is sigma squared.
  it.each([1.5, 3.9, 4.1, 6, 9, 12, 20, 30])('of sigma %d is that of the spread of a single point', (sigma) => {
    const side = 8 * Math.ceil(sigma) + 61
    const middle = side >> 1
    const picture = new Float32Array(4 * side * side)
    picture[4 * (middle * side + middle)] = 1
    inMemory(picture, (at) => blurRecords([(1000 * sigma) / side, 0, 0], at, side, side))
    let [sum, along, down, mean] = [0, 0, 0, 0]
    for (let y = 0; y < side; y++)
      for (let x = 0; x < side; x++) {
        const v = picture[4 * (y * side + x)]!
        sum += v
        mean += v * (x - middle)
        along += v * (x - middle) ** 2
        down += v * (y - middle) ** 2
      }
    expect(sum).toBeCloseTo(1, 3)
    // A shrunk picture cannot tell where in its square a point lay; the spread must not be moved by more than that.
    expect(Math.abs(mean / sum)).toBeLessThan(0.6 * Math.max(1, sigma / 4))
    const off = (mean / sum) ** 2
    // Cut at three sigma or a little beyond, a normal distribution keeps 0.973 to 0.985 of its variance.
    const kept = (along / sum - off) / sigma ** 2
    expect(kept).toBeGreaterThan(0.976)
    expect(kept).toBeLessThan(1.001)
    expect(Math.abs(down / along - 1)).toBeLessThan(0.02)
  })
})

describe('a record that slips', () => {
  const side = 21
  const dot = (x: number, y: number): Float32Array => {
    const picture = new Float32Array(4 * side * side)
    for (let k = 0; k < 4; k++) picture[4 * (y * side + x) + k] = 1
    return picture
  }
  const placeOf = (picture: Float32Array, k: number): [number, number] => {
    let at = 0
    for (let i = 0; i < side * side; i++) if (picture[4 * i + k]! > picture[4 * at + k]!) at = i
    return [at % side, Math.floor(at / side)]
  }
  const moved = (how: Partial<typeof STILL>, picture: Float32Array) => {
    inMemory(picture, (at) => shiftRecords([{ ...STILL, ...how }, STILL, STILL], at, side, side))
    return picture
  }

  it('turns clockwise about the middle of the picture: what lay on top comes to lie at the right', () => {
    const picture = moved({ rotation: 90 }, dot(10, 3))
    expect(placeOf(picture, 0)).toEqual([17, 10])
    expect(placeOf(picture, 1)).toEqual([10, 3])
    expect(placeOf(moved({ rotation: 180 }, dot(10, 3)), 0)).toEqual([10, 17])
    expect(placeOf(moved({ rotation: -90 }, dot(10, 3)), 0)).toEqual([3, 10])
  })
  it('moves to the right and down by per mille of the width, also when it is turned', () => {
    expect(placeOf(moved({ x: 3000 / side, y: 2000 / side }, dot(10, 10)), 0)).toEqual([13, 12])
    expect(placeOf(moved({ x: 3000 / side, rotation: 90 }, dot(10, 3)), 0)).toEqual([20, 10])
  })
  it('mixes the pixels it comes to lie between, and goes on with the edge outside', () => {
    const picture = moved({ x: 500 / side }, dot(10, 10))
    // Half-way the cubic weighs its four neighbours -1, 9, 9 and -1 sixteenths.
    expect([9, 10, 11, 12].map((x) => 16 * picture[4 * (10 * side + x)]!)).toEqual([-1, 9, 9, -1])
    const edge = moved({ x: 2000 / side }, dot(0, 10))
    expect([0, 1, 2].map((x) => edge[4 * (10 * side + x)])).toEqual([1, 1, 1])
  })
})

describe('dither of deliveries with 10 bits', () => {
  it('has the variance of triangular noise of one step either way, 1/6, and no mean (Lipshitz, Wannamaker, Vanderkooy 1992)', () => {
    const n = 40_000
    const step = 65535 / 1023
    for (const value of [0.25, 0.5004, 0.811]) {
      const picture = new Float32Array(4 * n).fill(value)
      const out = new Uint16Array(3 * n)
      emit16(pictures.copy('flat', picture), out, 10, 1)
      const errors = Array.from(out, (v) => (v - value * 65535) / step)
      const mean = errors.reduce((a, b) => a + b, 0) / errors.length
      const variance = errors.reduce((a, b) => a + (b - mean) ** 2, 0) / errors.length
      expect(Math.abs(mean)).toBeLessThan(0.01)
      expect(variance).toBeCloseTo(1 / 6, 2)
      expect(Math.max(...errors.map(Math.abs))).toBeLessThan(1.01)
    }
  })
  it('is left out where all 16 bits are delivered, and ends stay ends', () => {
    const out = new Uint16Array(6)
    emit16(pictures.copy('two', Float32Array.of(0.5, 0, 1, 1, -0.3, 1.2, NaN, 1)), out, 16, 5)
    expect([...out]).toEqual([32768, 0, 65535, 0, 65535, 0])
  })
})

describe('the soft edge of an outline', () => {
  it('falls off like the normal distribution with a quarter of its width', () => {
    const points = [
      [50, -50],
      [150, -50],
      [150, 150],
      [50, 150],
    ]
    for (const edge of [4, 8, 16]) {
      const plane = drawn(maskOf([part('outline', { points, round: false, edge })]))
      // Phi(z) (Abramowitz and Stegun 1964, table 26.1).
      for (const [z, phi] of [
        [-1, 0.15866],
        [0, 0.5],
        [1, 0.84134],
        [2, 0.97725],
      ] as const) {
        const x = 160 + (z * 3.2 * edge) / 4
        const [low, share] = [Math.floor(x - 0.5), x - 0.5 - Math.floor(x - 0.5)]
        const row = 90 * 320
        expect(plane[row + low]! * (1 - share) + plane[row + low + 1]! * share, `${edge} ${z}`).toBeCloseTo(phi, 2)
      }
    }
  })
  it('is sharp at 0, covering pixels by the share that lies inside', () => {
    const plane = new Float32Array(100)
    fillOutline(
      {
        points: [
          [25, 0],
          [75, 0],
          [75, 100],
          [25, 100],
        ],
        round: false,
        edge: 0,
      } as never,
      plane,
      { width: 10, height: 10 },
    )
    expect([...plane.subarray(30, 40)].map((v) => Math.round(v * 100) / 100)).toEqual([
      0, 0, 0.5, 1, 1, 1, 1, 0.5, 0, 0,
    ])
  })
})

describe('lost detail', () => {
  const pixel = (luma: number): number[] => [luma, luma, luma, 1]
  it.each([
    // picture, footage, squeezed, clipped
    [0.02, 0.06, 100, 0],
    [0.029, 0.051, 100, 0],
    [0.031, 0.06, 0, 0],
    [0.02, 0.049, 0, 0],
    [0.99, 0.9, 0, 100],
    [0.986, 0.969, 0, 100],
    [0.984, 0.9, 0, 0],
    [0.99, 0.975, 0, 0],
    [0.5, 0.5, 0, 0],
  ])('at %d where the footage has %d: %d %% squeezed, %d %% clipped', (now, was, shadows, highlights) => {
    const figures = pictureFigures(Float32Array.from(pixel(now)), Float32Array.from(pixel(was)), 1)
    expect(figures.map((f) => f.value)).toEqual([shadows, highlights])
    expect(figures.map((f) => f.advice !== null)).toEqual([shadows > 3, highlights > 3])
  })
})

describe('the turn of skin', () => {
  const code = (light: number): number => Math.max(0, light) ** (1 / 2.4)
  /** A picture in which every colour is one of a hue, and lightness and chroma are those of the footage's patch. */
  const inHue =
    (degrees: number): PointFunction =>
    (_r, _g, _b, out) => {
      const angle = (degrees * Math.PI) / 180
      const light: Triple = labToBt709([60, 25 * Math.cos(angle), 25 * Math.sin(angle)])
      out.set(light.map(code))
    }
  it.each([
    [40, 60, 20],
    [60, 40, -20],
    [350, 10, 20],
    [10, 350, -20],
    [20, 190, 170],
    [190, 20, -170],
  ])('from %d to %d degrees is %d, the short way round', (from, to, turn) => {
    const figure = lineFigures(inHue(to), inHue(from)).find((f) => f.id === 'skin-hue')!
    expect(figure.value).toBeCloseTo(turn, 1)
    expect(figure.advice !== null).toBe(Math.abs(turn) > 18)
  })
})
