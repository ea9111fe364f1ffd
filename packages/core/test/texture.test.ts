import { three } from '../src/colour'
import { describe, expect, it } from 'vitest'
import { kindById } from '../src/baths'
import { LAY_MODES } from '../src/lay'
import { compileLine, newBath, plainLine, type Recipe } from '../src/line'
import { seededRandom } from '../src/numbers'
import { ran, settingsOf, shipped } from './helpers'
import { maskOf, part } from './mask-helpers'

const [W, H] = [320, 180]
const line = (baths: Recipe['baths']): Recipe => ({ ...shipped('plain'), baths })
/** Code values of a picture of display footage that a line makes. */
const made = (baths: Recipe['baths'], codes: Float32Array, width = W, height = H): Float32Array =>
  ran(compileLine(line(baths), { refers: 'display' }), codes, width, height)
const flat = (v: number, n = W * H): Float32Array =>
  Float32Array.from({ length: 4 * n }, (_, i) => (i % 4 === 3 ? 1 : v))
/** Green at a place 0..1. */
const at = (picture: Float32Array, u: number, v: number, width = W, height = H): number =>
  picture[4 * (Math.floor(v * (height - 1)) * width + Math.floor(u * (width - 1))) + 1]!

describe('a vignette', () => {
  const of = (settings: object, codes = flat(0.5)) => made([newBath('vignette', 'v', settings as never)], codes)
  it('leaves the middle, and takes the stops that it says off the corners', () => {
    const picture = of({ edges: -100, size: 60, softness: 50 })
    expect(at(picture, 0.5, 0.5)).toBeCloseTo(0.5, 4)
    // Three stops of light: an eighth of it.
    expect((at(picture, 0, 0) / 0.5) ** 2.4).toBeCloseTo(1 / 8, 3)
    expect(at(of({ edges: 50, size: 60, softness: 50 }), 0, 0)).toBeGreaterThan(0.5)
  })
  it('keeps the proportions of the channels by exposure, and comes to its paint', () => {
    const colours = Float32Array.from({ length: 4 * W * H }, (_, i) => [0.6, 0.3, 0.2, 1][i % 4]!)
    const dark = of({ edges: -80, size: 50, softness: 40 }, colours)
    expect(dark[0]! / dark[1]!).toBeCloseTo(2, 4)
    const painted = of({ edges: -100, works: 'paint', paint: '#ff8000', size: 50, softness: 40 }, colours)
    expect([...painted.slice(0, 3)].map((v) => Math.round(255 * v))).toEqual([255, 128, 0])
  })
  it('is an ellipse, or nearly a rectangle, moved and turned', () => {
    const ring = { edges: -100, size: 90, softness: 2 }
    const corner = (settings: object) => at(of({ ...ring, ...settings }), 0.1, 0.1)
    expect(corner({})).toBeLessThan(0.3)
    expect(corner({ square: 100 })).toBeCloseTo(0.5, 2)
    expect(at(of({ ...ring, size: 30, across: 60 }), 0.8, 0.5)).toBeCloseTo(0.5, 2)
    expect(at(of({ ...ring, size: 30, across: 60 }), 0.5, 0.5)).toBeLessThan(0.3)
    // Turned upright, the ellipse's long side reaches beyond the picture above.
    expect(at(of({ ...ring, size: 70, rotation: 90 }), 0.5, 0.02)).toBeCloseTo(0.5, 2)
    expect(at(of({ ...ring, size: 70 }), 0.5, 0.02)).toBeLessThan(0.3)
  })
  it('is the same at any size of the picture', () => {
    const small = of({ edges: -60 })
    const large = made([newBath('vignette', 'v', { edges: -60 })], flat(0.5, 4 * W * H), 2 * W, 2 * H)
    for (const [u, v] of [
      [0, 0],
      [0.2, 0.7],
      [0.9, 0.4],
    ] as const)
      expect(at(large, u, v, 2 * W, 2 * H)).toBeCloseTo(at(small, u, v), 2)
  })
})

describe('a glow', () => {
  /** One bright square on black. */
  const spot = Float32Array.from({ length: 4 * W * H }, (_, i) => {
    const [x, y] = [(i >> 2) % W, Math.floor((i >> 2) / W)]
    return i % 4 === 3 || (Math.abs(x - 160) < 8 && Math.abs(y - 90) < 8) ? 1 : 0
  })
  const of = (settings: object, how: object = {}, codes: Float32Array = spot) =>
    made([{ ...newBath('glow', 'g', settings as never), ...how }], codes)
  it('spreads from what is bright, ever less, in its tint', () => {
    const picture = of({ radius: 20, tint: '#ff8000' }, { strength: 100 })
    const row = [0.55, 0.565, 0.58].map((u) => at(picture, u, 0.5))
    expect(row[0]).toBeGreaterThan(row[1]!)
    expect(row[1]).toBeGreaterThan(row[2]!)
    expect(row[2]).toBeGreaterThan(0.0005)
    const place = 4 * (90 * W + Math.floor(0.56 * W))
    expect(picture[place + 1]! / picture[place]!).toBeCloseTo(128 / 255, 2)
    expect(picture[place + 2]).toBeCloseTo(0, 5)
  })
  it('takes nothing from what lies below its threshold, and is nothing at a strength of 0', () => {
    const dark = flat(0.3)
    expect(at(of({ threshold: 60, knee: 20 }, {}, dark), 0.4, 0.4)).toBeCloseTo(0.3, 6)
    const untouched = made([], spot)
    expect(of({}, { strength: 0 }).findIndex((v, i) => v !== untouched[i])).toBe(-1)
  })
  it('sums to the light that glows, however far it goes', () => {
    const sum = (radius: number) =>
      of({ radius }, { lay: 'normal', strength: 100 }).reduce((all, v, i) => (i % 4 === 1 ? all + v : all), 0)
    expect(sum(12) / sum(0)).toBeCloseTo(1, 2)
  })
})

describe('detail', () => {
  /** An edge from 0.4 to 0.6 at the middle. */
  const edge = Float32Array.from({ length: 4 * W * H }, (_, i) => (i % 4 === 3 ? 1 : (i >> 2) % W < W / 2 ? 0.4 : 0.6))
  const of = (amount: number, radius: number) => made([newBath('detail', 'd', { amount, radius })], edge)
  const contrast = (p: Float32Array) => at(p, 0.505, 0.5) - at(p, 0.494, 0.5)
  it('overshoots beside an edge by the amount of what the blur differs there, and leaves what is flat', () => {
    // Half a pixel from the edge a Gaussian of 1.6 pixels leaves 0.5 - erf(0.5 / (1.6 √2)) / 2 = 0.377 of the step on its own side.
    const picture = of(50, 5)
    expect(at(picture, 0.5032, 0.5)).toBeCloseTo(0.6 + 0.5 * 0.2 * 0.377, 2)
    expect(at(picture, 0.1, 0.5)).toBeCloseTo(0.4, 5)
    expect(contrast(of(100, 5))).toBeGreaterThan(contrast(of(50, 5)))
  })
  it('softens below 0, down to the blur itself', () => {
    expect(contrast(of(-50, 5))).toBeLessThan(contrast(edge))
    expect(contrast(of(-100, 5))).toBeLessThan(contrast(of(-50, 5)))
    expect(contrast(of(-100, 5))).toBeGreaterThan(0)
  })
  it('does nothing at 0', () => {
    expect(of(0, 5).findIndex((v, i) => Math.abs(v - edge[i]!) > 1e-7)).toBe(-1)
  })
})

describe('a mask on a bath that prepares the light', () => {
  it('lets it work where it lies and nowhere else', () => {
    const left = maskOf([part('rectangle', { x: 25, y: 50, width: 50, height: 120, edge: 0 })])
    const bath = newBath('balance', 'b', { exposure: 1, kelvin: 4000 })
    const print = newBath('colour-print', 'p')
    for (const strength of [100, 50]) {
      const whole = made([{ ...bath, strength }, print], flat(0.4))
      const none = made([print], flat(0.4))
      const half = made([{ ...bath, strength, mask: left }, print], flat(0.4))
      expect(at(half, 0.2, 0.5)).toBeCloseTo(at(whole, 0.2, 0.5), 5)
      expect(at(half, 0.8, 0.5)).toBeCloseTo(at(none, 0.8, 0.5), 5)
      expect(Math.abs(at(half, 0.2, 0.5) - at(half, 0.8, 0.5))).toBeGreaterThan(0.05)
    }
  })
})

it('baths of texture leave the plain form of a line alone where they do nothing', () => {
  expect(kindById('vignette').stages(settingsOf('vignette', { edges: 0 }))).toEqual([])
  const out = three()
  plainLine(line([newBath('vignette', 'v')]), undefined, 'display')(0.2, 0.4, 0.6, out)
  expect([...out]).toEqual([0.2, 0.4, 0.6])
})

describe('kinds whose code values stay within 0..1', () => {
  const random = seededRandom(31)
  const noise = Float32Array.from({ length: 4 * 64 * 36 }, (_, i) =>
    i % 4 === 3 ? 1 : Math.round(1.2 * random()) * random(),
  )
  const ends = (picture: Float32Array): [number, number] => [
    picture.reduce((least, v) => Math.min(least, v), 1),
    picture.reduce((most, v) => Math.max(most, v), 0),
  ]
  it('do so in every mode, at any strength, over and under', () => {
    const settings = {
      glow: { threshold: 5, knee: 100, radius: 40, tint: '#ff2080' },
      vignette: { edges: -90, size: 40 },
      instant: {},
    }
    for (const [kind, own] of Object.entries(settings))
      for (const lay of LAY_MODES) {
        const bath = { ...newBath(kind, 'b', own as never), takes: 'line', lay, under: random() < 0.5 } as const
        const [least, most] = ends(made([{ ...bath, strength: 100 * random() }], noise, 64, 36))
        expect(least, `${kind} ${lay}`).toBeGreaterThan(-1e-6)
        expect(most, `${kind} ${lay}`).toBeLessThan(1 + 1e-6)
      }
  })
  it('are held there behind one that leaves them', () => {
    const steep = newBath('contrast', 'c', { amount: 100 } as never)
    const lighter = newBath('vignette', 'v', { edges: 100 })
    const darker = newBath('vignette', 'v', { edges: -20 })
    for (const baths of [[lighter], [steep, darker], [lighter, newBath('glow', 'g')]]) {
      const [least, most] = ends(made(baths, noise, 64, 36))
      expect(least).toBeGreaterThanOrEqual(0)
      expect(most).toBeLessThanOrEqual(1)
    }
    expect(ends(made([lighter], noise, 64, 36))[1]).toBe(1)
  })
})

describe('weave', () => {
  const FRAMES = 960
  type Moved = Readonly<Record<'x' | 'y' | 'rotation', number>>
  /** Where a frame lies, as the steps of the bath say it. */
  const moves = (seed: number): Moved[] => {
    const [stage] = kindById('weave').stages(settingsOf('weave', { turn: 0.1, seed }) as never)
    if (stage?.at !== 'space' || stage.space.kind !== 'moving') throw new Error('Weave does not move.')
    const { at } = stage.space
    return Array.from({ length: FRAMES }, (_, frame) => {
      const shift = at(frame).find((step) => step.kind === 'shift')
      return shift!.records[0] as Moved
    })
  }
  /** Share of the power between two frequencies at 24 frames a second, by the discrete Fourier transform. */
  function share(values: readonly number[], from: number, to: number): number {
    const mean = values.reduce((sum, v) => sum + v, 0) / values.length
    const power = (k: number): number => {
      let [re, im] = [0, 0]
      for (const [i, v] of values.entries()) {
        const turn = (2 * Math.PI * k * i) / values.length
        re += (v - mean) * Math.cos(turn)
        im += (v - mean) * Math.sin(turn)
      }
      return re * re + im * im
    }
    const all = Array.from({ length: FRAMES / 2 }, (_, k) => ({ hertz: ((k + 1) * 24) / FRAMES, of: power(k + 1) }))
    const sum = (which: typeof all): number => which.reduce((total, { of }) => total + of, 0)
    return sum(all.filter(({ hertz }) => hertz >= from && hertz < to)) / sum(all)
  }
  it('has the turn of the sprocket in it, and no more than half of it is slow', () => {
    for (const seed of [1, 2, 3])
      for (const axis of ['x', 'y'] as const) {
        const values = moves(seed).map((moved) => moved[axis])
        expect(share(values, 5, 7), `seed ${seed}, ${axis}`).toBeGreaterThanOrEqual(0.12)
        expect(share(values, 0, 1), `seed ${seed}, ${axis}`).toBeLessThanOrEqual(0.55)
      }
  })
  it('never stops in all directions at once', () => {
    const [stage] = kindById('weave').stages(settingsOf('weave', { turn: 0.1, slow: 100, seed: 1 }) as never)
    if (stage?.at !== 'space' || stage.space.kind !== 'moving') throw new Error('Weave does not move.')
    const { at } = stage.space
    const place = (frame: number) => at(frame).find((step) => step.kind === 'shift')!.records[0] as Moved
    for (let frame = 0; frame < FRAMES; frame++) {
      const [one, two] = [place(frame), place(frame + 1)]
      // Of a reach of 0.8, 0.5 and 0.1.
      const moved =
        Math.abs(two.x - one.x) / 0.8 + Math.abs(two.y - one.y) / 0.5 + Math.abs(two.rotation - one.rotation) / 0.1
      expect(moved, `frame ${frame}`).toBeGreaterThan(0.02)
    }
  })
})
