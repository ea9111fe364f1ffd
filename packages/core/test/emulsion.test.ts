import { three } from '../src/colour'
import { describe, expect, it } from 'vitest'
import { kindById } from '../src/baths'
import { compileLine, cropOf, newBath, type Recipe } from '../src/line'
import { plainStages } from '../src/stages'
import { SLOT, type Op, type Plan } from '../src/plan/plan'
import { halation, ringRadius, spreadOfResolution } from '../src/film/emulsion'
import { noiseOfFrame, slowNoise } from '../src/numbers/frame-noise'
import type { SpaceStep } from '../src/stages/space'
import { ran, settingsOf, shipped } from './helpers'

const line = (...baths: Recipe['baths']): Recipe => ({ ...shipped('plain'), baths })

/** A step alone on a picture. */
function stepped(step: SpaceStep, picture: Float32Array, width: number, height: number): Float32Array {
  const copy = [
    { do: 'load', slot: SLOT.CAMERA, register: 'own' },
    { do: 'store', slot: SLOT.LINE, register: 'own' },
  ] as const
  const ops: Op[] = [
    { op: 'run', steps: [...copy] },
    { op: 'space', slot: SLOT.LINE, step },
  ]
  return ran({ ops } satisfies Plan, picture, width, height)
}
const pictureOf = (width: number, height: number, f: (x: number, y: number, k: number) => number): Float32Array =>
  Float32Array.from({ length: 4 * width * height }, (_, i) =>
    i % 4 === 3 ? 1 : f((i >> 2) % width, Math.floor((i >> 2) / width), i % 4),
  )

describe('halation', () => {
  it('has its ring at 2 t tan θ of total reflection: 0.23 mm for a base of 0.13 mm and n = 1.5', () => {
    // tan(asin(1 / 1.5)) = 0.8944.
    expect(ringRadius(130)).toBeCloseTo(2 * 130 * 0.8944, 0)
  })
  it('sends light back in a ring of that radius, most of it red, with nothing in the middle', () => {
    const [W, H] = [400, 400]
    const spot = pictureOf(W, H, (x, y) => (Math.hypot(x - 200, y - 200) < 1.5 ? 1000 : 0))
    const radius = 80
    const made = stepped({ kind: 'spread', spread: halation(1, radius) }, spot, W, H)
    const along = Array.from({ length: 120 }, (_, i) => made[4 * (200 * W + 203 + i)]!)
    const furthest = 3 + along.indexOf(Math.max(...along.slice(2)))
    expect(furthest / ((radius * W) / 1000)).toBeGreaterThan(0.9)
    expect(furthest / ((radius * W) / 1000)).toBeLessThan(1.1)
    expect(along[4]!).toBeLessThan(0.25 * along[furthest - 3]!)
    const at = 4 * (200 * W + 200 + furthest)
    expect(made[at]! / made[at + 1]!).toBeCloseTo(0.08 / 1.08 / (0.02 / 1.02), 1)
    expect(made[at + 1]! / made[at + 2]!).toBeGreaterThan(4)
  })
  it('leaves even light, and all light together, what it is', () => {
    const even = stepped(
      { kind: 'spread', spread: halation(2, 30) },
      pictureOf(200, 100, () => 0.4),
      200,
      100,
    )
    for (const v of [even[0]!, even[4 * 10_050]!, even[4 * 19_999 + 2]!]) expect(v).toBeCloseTo(0.4, 5)
    const spot = pictureOf(200, 200, (x, y) => (Math.hypot(x - 100, y - 100) < 4 ? 10 : 0))
    const sum = (p: Float32Array) => p.reduce((all, v, i) => (i % 4 === 0 ? all + v : all), 0)
    expect(sum(stepped({ kind: 'spread', spread: halation(1, 30) }, spot, 200, 200)) / sum(spot)).toBeCloseTo(1, 2)
  })
})

/**
 * Modulation transfer by a slanted edge, after ISO 12233's method: the rows are laid over each other by the edge's slope
 * into a finer line, that is differentiated, windowed and transformed. @returns contrast left at cycles a pixel
 */
function slantedEdge(picture: Float32Array, width: number, height: number, slope: number) {
  const bins = 4
  const sums = new Float64Array(bins * width)
  const counts = new Float64Array(bins * width)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const bin = Math.round(bins * (x - slope * (y - height / 2)))
      if (bin < 0 || bin >= sums.length) continue
      sums[bin]! += picture[4 * (y * width + x) + 1]!
      counts[bin]!++
    }
  const edge = Array.from(sums, (v, i) => v / Math.max(1, counts[i]!))
  const spread = edge.slice(1).map((v, i) => v - edge[i]!)
  const centre = spread.indexOf(Math.max(...spread))
  const reach = bins * 24
  const own = spread.slice(centre - reach, centre + reach)
  const windowed = own.map((v, i) => v * (0.54 - 0.46 * Math.cos((2 * Math.PI * i) / (own.length - 1))))
  return (cyclesPerPixel: number): number => {
    const f = cyclesPerPixel / bins
    let [re, im, whole] = [0, 0, 0]
    windowed.forEach((v, i) => {
      re += v * Math.cos(2 * Math.PI * f * i)
      im += v * Math.sin(2 * Math.PI * f * i)
      whole += v
    })
    return Math.hypot(re, im) / whole
  }
}

describe('sharpness of film', () => {
  it.each([20, 40])('leaves half of the contrast at %i cycles a millimetre, by a slanted edge', (cycles) => {
    const [W, H, gauge, slope] = [600, 200, 3.3, 0.1]
    const pixelsPerMm = W / gauge
    const edge = pictureOf(W, H, (x, y) => Math.min(1, Math.max(0, x - slope * (y - H / 2) - W / 2 + 0.5)))
    const sigma = spreadOfResolution(cycles) / gauge
    const made = stepped({ kind: 'blur', sigmas: [sigma, sigma, sigma] }, edge, W, H)
    const [before, after] = [slantedEdge(edge, W, H, slope), slantedEdge(made, W, H, slope)]
    const at = cycles / pixelsPerMm
    expect(after(at) / before(at)).toBeGreaterThan(0.48)
    expect(after(at) / before(at)).toBeLessThan(0.52)
  })

  /** Mean change of light from pixel to pixel over a process of an edge. */
  const steepness = (settings: object): number => {
    const [W, H] = [960, 8]
    const edge = pictureOf(W, H, (x) => (x < W / 2 ? 0.09 : 0.36))
    const made = ran(compileLine(line(newBath('colour-print', 'p', settings as never))), edge, W, H)
    return made[4 * (3 * W + W / 2) + 1]! - made[4 * (3 * W + W / 2 - 1) + 1]!
  }
  it('is lost with every generation, and won by adjacency', () => {
    const narrow = { gauge: 'small', resolvesPrint: 40 }
    const [sharp, one, four] = [steepness({}), steepness(narrow), steepness({ ...narrow, generations: '4' })]
    expect(one).toBeLessThan(sharp)
    expect(four).toBeLessThan(one)
    expect(steepness({ gauge: 'narrow', adjacency: 40 })).toBeGreaterThan(sharp + 0.01)
  })
})

it('long exposures turn a metered grey darker, and blue least answers', () => {
  const shown = (exposureTime: number) => {
    const stages = kindById('colour-print').stages(settingsOf('colour-print', { exposureTime, holdGrey: true }))
    const out = three()
    plainStages(stages)(0.18, 0.18, 0.18, out)
    return [...out]
  }
  const [grey, night] = [shown(1), shown(100)]
  for (let k = 0; k < 3; k++) expect(night[k]!).toBeLessThan(grey[k]!)
  expect(night[0]! / night[2]!).toBeGreaterThan((1.2 * grey[0]!) / grey[2]!)
})

it.each(['colour-print', 'black-and-white', 'three-strip', 'two-strip', 'aged-print'])(
  '%s with an emulsion that does next to nothing is what it is without',
  (kind) => {
    const [W, H] = [96, 32]
    const ramp = pictureOf(W, H, (x, y, k) => 0.02 + (0.6 * x) / W + (k === 0 ? 0.1 : (0.05 * y) / H))
    const of = (settings: object) => ran(compileLine(line(newBath(kind, 'p', settings as never))), ramp, W, H)
    const [without, next] = [of({}), of({ adjacency: 1e-6, grain: 1e-6, grainPrint: 1e-6, halation: 1e-6 })]
    expect(next.findIndex((v, i) => Math.abs(v - without[i]!) > 1.2e-3)).toBe(-1)
  },
)

describe('a picture half as wide', () => {
  it.each(['dream-glow', 'soft-portrait', 'sepia-glow'])('looks the same through %s', (id) => {
    const [W, H] = [960, 540]
    const scene = (u: number, v: number, k: number): number =>
      0.08 + 0.5 * u + (Math.hypot(u - 0.5, (v - 0.5) * 0.56) < 0.08 ? 0.4 : 0) - 0.05 * k * v
    const recipe = shipped(id)
    // Grain is another at another size; its statistics are tested beside it.
    const calm = {
      ...recipe,
      baths: recipe.baths
        .filter((b) => b.kind !== 'grain')
        .map((b) => ({ ...b, settings: { ...b.settings, ...('grain' in b.settings && { grain: 0 }) } })),
    }
    const of = (w: number, h: number) =>
      ran(
        compileLine(calm, { refers: 'display' }),
        pictureOf(w, h, (x, y, k) => scene((x + 0.5) / w, (y + 0.5) / h, k)),
        w,
        h,
      )
    const [large, small] = [of(2 * W, 2 * H), of(W, H)]
    let sum = 0
    for (let y = 0; y < H; y++)
      for (let x = 0; x < W; x++) {
        const at = 4 * (2 * y * 2 * W + 2 * x) + 1
        const mean = (large[at]! + large[at + 4]! + large[at + 8 * W]! + large[at + 8 * W + 4]!) / 4
        sum += Math.abs(mean - small[4 * (y * W + x) + 1]!)
      }
    expect((255 * sum) / (W * H)).toBeLessThan(0.5)
  })
})

describe('movement from frame to frame', () => {
  it('strays to all sides alike, evenly, each frame by the same number always', () => {
    const frames = Array.from({ length: 20_000 }, (_, f) => f)
    for (const stray of [(f: number) => noiseOfFrame(3, 1, f), (f: number) => slowNoise(3, 1, f, 12)]) {
      const found = frames.map(stray)
      expect(Math.abs(found.reduce((a, b) => a + b, 0) / found.length)).toBeLessThan(0.02)
      expect(Math.max(...found.map(Math.abs))).toBeLessThanOrEqual(1)
      expect(stray(77)).toBe(stray(77))
    }
    const own = frames.map((f) => noiseOfFrame(3, 1, f))
    const other = frames.map((f) => noiseOfFrame(3, 2, f))
    expect(Math.abs(own.reduce((sum, v, i) => sum + v * other[i]!, 0) / own.length)).toBeLessThan(0.02)
  })
  it('keeps the picture where nothing strays, and the same seed gives the same dust', () => {
    const [W, H] = [320, 180]
    const grey = pictureOf(W, H, () => 0.5)
    const of = (kind: string, settings: object, frame: number) =>
      ran(compileLine(line(newBath(kind, 'm', settings as never)), { refers: 'display' }), grey, W, H, undefined, frame)
    const same = (a: Float32Array, b: Float32Array) => a.every((v, i) => v === b[i])
    expect(same(of('dust', { specks: 20 }, 4), of('dust', { specks: 20 }, 4))).toBe(true)
    expect(same(of('dust', { specks: 20 }, 4), of('dust', { specks: 20 }, 5))).toBe(false)
    expect(same(of('dust', { specks: 20, seed: 1 }, 4), of('dust', { specks: 20, seed: 2 }, 4))).toBe(false)
    // On even grey a shift shows nothing; flicker moves all of it by one factor.
    const flickered = of('weave', { across: 3, down: 3, flicker: 20 }, 9)
    const factor = flickered[0]! / grey[0]!
    expect(factor).not.toBeCloseTo(1, 3)
    expect(flickered.findIndex((v, i) => i % 4 < 3 && Math.abs(v - factor * grey[i]!) > 1e-5)).toBe(-1)
  })
})

describe('a frame', () => {
  const framed = (settings: object) => line(newBath('colour-print', 'p'), newBath('frame', 'f', settings as never))
  it.each([
    [{ ratio: 'square' }, 1920, 1080, { x: 420, y: 0, width: 1080, height: 1080 }],
    [{ ratio: 'square', across: -100 }, 1920, 1080, { x: 0, y: 0, width: 1080, height: 1080 }],
    [{ ratio: '2.39', down: 100 }, 1920, 1080, { x: 0, y: 276, width: 1920, height: 804 }],
    [{ ratio: '9:16' }, 1280, 720, { x: 438, y: 0, width: 406, height: 720 }],
    [{ ratio: 'square', cut: false }, 1920, 1080, { x: 0, y: 0, width: 1920, height: 1080 }],
    [{ ratio: 'own', corners: 40 }, 1921, 1081, { x: 0, y: 0, width: 1921, height: 1081 }],
  ])('%j cuts %i by %i', (settings, width, height, crop) => {
    expect(cropOf(framed(settings), width, height)).toEqual(crop)
  })
  it('is that of the last bath at work, and none when it is lifted out', () => {
    const both = line(newBath('frame', 'a', { ratio: 'square' }), newBath('frame', 'b', { ratio: '4:3' }))
    expect(cropOf(both, 1200, 600).width).toBe(800)
    const lifted = { ...both, baths: both.baths.map((b) => ({ ...b, in: false })) }
    expect(cropOf(lifted, 1200, 600)).toEqual({ x: 0, y: 0, width: 1200, height: 600 })
  })
  it('paints the surround outside and the card inside, and leaves the window alone', () => {
    const [W, H] = [400, 300]
    const plan = compileLine(
      line(newBath('frame', 'f', { ratio: 'square', surround: '#ff0000', margin: 50, card: '#00ff00' })),
      { refers: 'display' },
    )
    const made = ran(
      plan,
      pictureOf(W, H, () => 0.5),
      W,
      H,
    )
    const at = (x: number, y: number) =>
      [...made.slice(4 * (y * W + x), 4 * (y * W + x) + 3)].map((v) => Math.round(10 * v) / 10)
    expect(at(20, 150)).toEqual([1, 0, 0])
    expect(at(60, 150)).toEqual([0, 1, 0])
    expect(at(200, 150)).toEqual([0.5, 0.5, 0.5])
    expect(at(200, 4)).toEqual([0, 1, 0])
  })
})

it('haze is taken away, and laid over', () => {
  const [W, H] = [200, 100]
  const hazy = pictureOf(W, H, (x, _y, k) => 0.3 + 0.5 * (x / W) * (k === 0 ? 1 : 0.6))
  const of = (amount: number) =>
    ran(compileLine(line(newBath('haze', 'h', { amount })), { refers: 'display' }), hazy, W, H)
  const contrast = (p: Float32Array) => p[4 * (50 * W + 190)]! - p[4 * (50 * W + 10)]!
  expect(contrast(of(60))).toBeGreaterThan(1.05 * contrast(hazy))
  expect(contrast(of(-60))).toBeLessThan(0.9 * contrast(hazy))
  expect(of(60)[4 * (50 * W + 100) + 1]!).toBeLessThan(hazy[4 * (50 * W + 100) + 1]!)
})

it('an 8-bit gradient under grain does not band: neighbouring codes mix over many columns', () => {
  const [W, H] = [2048, 32]
  const gradient = pictureOf(W, H, (x) => 0.4 + (0.04 * x) / W)
  const made = ran(compileLine(line(newBath('grain', 'g', { grain: 4 })), { refers: 'display' }), gradient, W, H)
  const mean = (x: number) =>
    Array.from({ length: H }, (_, y) => Math.round(255 * made[4 * (y * W + x) + 1]!)).reduce((a, b) => a + b, 0) / H
  // Rounded without dither, the mean over 32 rows and 64 columns follows the gradient within a quarter of a code.
  for (let x = 64; x < W - 64; x += 128) {
    const block = Array.from({ length: 64 }, (_, i) => mean(x + i)).reduce((a, b) => a + b, 0) / 64
    expect(Math.abs(block - 255 * (0.4 + (0.04 * (x + 31.5)) / W))).toBeLessThan(0.5)
  }
})
