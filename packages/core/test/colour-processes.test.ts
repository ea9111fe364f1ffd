import { describe, expect, it } from 'vitest'
import { PATCHES, WEDGE } from '../src/charts'
import { chroma, hue, three, type Triple } from '../src/colour'
import { plainLine, type Recipe } from '../src/line'
import { TWO_STRIP_RECORDS } from '../src/baths/two-strip/film'
import { close, grey, labOf, lightOf, lineOf, luminance, shipped, throughBath, treated } from './helpers'

const patch = (name: string): Triple => PATCHES.find((p) => p.name === name)!.light
const spread = (c: Triple): number => Math.max(...c) - Math.min(...c)
const within = (h: number, low: number, high: number): boolean =>
  low <= high ? h >= low && h <= high : h >= low || h <= high

describe('two-strip colour (common practice)', () => {
  it.each(['two-strip', 'two-strip-projected'])(
    '%s holds orange and blue-green; every hue ends in one of the two',
    (id) => {
      for (const p of PATCHES) {
        const [l, a, b] = labOf(shipped(id), p.light)
        // Seen from a grey as light as it, which is warm where two dyes make it.
        const [, warmA, warmB] = labOf(shipped(id), grey(luminance(p.light)))
        const lab: Triple = [l, a - warmA, b - warmB]
        if (chroma(lab) < 6) continue
        const h = hue(lab)
        expect(within(h, 20, 80) || within(h, 175, 250), `${p.name} ends at ${h.toFixed(0)}`).toBe(true)
      }
      expect(within(hue(labOf(shipped(id), patch('fair skin'))), 25, 75)).toBe(true)
      expect(within(hue(labOf(shipped(id), patch('blue-green'))), 180, 245)).toBe(true)
    },
  )
  it('makes mid grey warm by at most seven units of chroma, and tilts it with the balance', () => {
    const middle = labOf(lineOf('two-strip'), grey(0.18))
    expect(chroma(middle)).toBeGreaterThan(3)
    expect(chroma(middle)).toBeLessThan(7)
    expect(within(hue(middle), 75, 105)).toBe(true)
    expect(labOf(lineOf('two-strip', { balance: 20 }), grey(0.18))[1]).toBeGreaterThan(
      labOf(lineOf('two-strip', { balance: -20 }), grey(0.18))[1],
    )
  })
  it('makes a surface of two parameters: the picture follows from two records alone', () => {
    // Any light that exposes both records alike makes the same colour, whatever its third component.
    const line = plainLine(lineOf('two-strip'))
    const [red, green] = TWO_STRIP_RECORDS
    const cross: Triple = [
      red[1] * green[2] - red[2] * green[1],
      red[2] * green[0] - red[0] * green[2],
      red[0] * green[1] - red[1] * green[0],
    ]
    const base: Triple = [0.3, 0.25, 0.4]
    const moved = base.map((v, k) => v + (0.05 * cross[k]!) / Math.hypot(...cross)) as unknown as Triple
    lightOf(line, moved).forEach((v, k) => expect(v).toBeCloseTo(lightOf(line, base)[k]!, 4))
  })
  it('gives blue back with blue recovery, and leaves skin where it is', () => {
    const of = (name: string, blueRecovery: number) => labOf(lineOf('two-strip', { blueRecovery }), patch(name))
    expect(chroma(of('blue', 100)) - chroma(of('blue', 0))).toBeGreaterThan(8)
    expect(Math.abs(hue(of('blue', 100)) - 280)).toBeLessThan(15)
    for (const { name, skin } of PATCHES)
      if (skin) expect(Math.abs(hue(of(name, 100)) - hue(of(name, 0))), name).toBeLessThan(4)
  })
})

describe('three-strip dye transfer (common practice)', () => {
  const clean = { key: 0, bleedCyan: 0, bleedMagenta: 0, bleedYellow: 0 }
  it('is more saturated than the plain print on skin, red and foliage-free colours, and neutral on neutrals', () => {
    const mean = (recipe: Recipe) =>
      ['fair skin', 'brown skin', 'red', 'sky', 'pink', 'lips'].reduce(
        (sum, n) => sum + chroma(labOf(recipe, patch(n))),
        0,
      )
    expect(mean(lineOf('three-strip', clean))).toBeGreaterThan(mean(lineOf('colour-print')))
    for (const light of WEDGE)
      expect(spread(lightOf(plainLine(lineOf('three-strip', clean)), grey(light)))).toBeLessThan(0.003)
  })
  it.each([
    ['amountCyan', 0],
    ['amountMagenta', 1],
    ['amountYellow', 2],
  ] as const)('%s takes away its complementary primary most', (setting, primary) => {
    const light = (value: number) =>
      lightOf(plainLine(lineOf('three-strip', { ...clean, holdGrey: false, [setting]: value })), grey(0.18))
    const [less, more] = [light(100), light(130)]
    const loss = less.map((v, k) => v - more[k]!)
    expect(loss[primary]).toBe(Math.max(...loss))
    expect(loss[primary]!).toBeGreaterThan(0.02)
  })
  it('shows separations in black and white', () => {
    for (const show of ['red', 'green', 'blue'])
      expect(spread(lightOf(plainLine(lineOf('three-strip', { show })), patch('orange')))).toBeLessThan(1e-6)
    const red = (show: string) => luminance(lightOf(plainLine(lineOf('three-strip', { show })), patch('red')))
    expect(red('red')).toBeGreaterThan(red('blue'))
  })
  describe('with a print of each record laid by itself', () => {
    const own = { ...clean, holdGrey: false }
    const codes = (settings: object, light: Triple): Triple => {
      const out = three()
      plainLine(lineOf('three-strip', { ...own, ...settings }))(...light, out)
      return [out[0], out[1], out[2]]
    }
    const COLOURS = ['fair skin', 'red', 'sky', 'leaf'].map(patch)
    it('is the print without it at strength 0, in every mode', () => {
      for (const light of COLOURS)
        for (const layBlue of ['normal', 'screen', 'luminosity', 'plus-lighter'])
          // A table of the laid print against light through dyes.
          close(codes({ layBlue, strengthBlue: 0 }, light), codes({ strengthBlue: 0 }, light), 2)
    })
    it('is that record’s dye alone when it covers the others', () => {
      for (const light of COLOURS)
        close(codes({ layBlue: 'normal' }, light), codes({ strengthRed: 0, strengthGreen: 0 }, light), 2)
    })
    it('is laid in the order red, green, blue, each by its own mode and strength', () => {
      const codes = (settings: object, light: Triple) =>
        throughBath('three-strip', { ...own, ...settings }, light).map((v) => Math.min(1, Math.max(0, v)) ** (1 / 2.4))
      for (const light of ['very fair skin', 'fair skin', 'sand', 'slate'].map(patch)) {
        const base = codes({ strengthRed: 0, strengthGreen: 0 }, light)
        const red = codes({ strengthGreen: 0, strengthBlue: 0 }, light)
        const green = codes({ strengthRed: 0, strengthBlue: 0 }, light)
        const half = base.map((b, k) => b + (b * red[k]! - b) / 2)
        const expected = half.map((b, k) => b + 0.7 * (Math.min(b, green[k]!) - b))
        const laid = { layRed: 'multiply', strengthRed: 50, layGreen: 'darken', strengthGreen: 70 }
        codes(laid, light).forEach((v, k) => expect(Math.abs(v - expected[k]!)).toBeLessThan(0.02))
      }
    })
    it('holds mid grey where it is asked to', () => {
      const held = lineOf('three-strip', { ...clean, layGreen: 'multiply', strengthGreen: 80 })
      expect(luminance(lightOf(plainLine(held), grey(0.18)))).toBeCloseTo(
        luminance(lightOf(plainLine(lineOf('three-strip', clean)), grey(0.18))),
        2,
      )
    })
  })
  it('makes coloured fringes at an edge when a record slips, and none when it does not', () => {
    const [width, height] = [200, 4]
    const edge = new Float32Array(4 * width * height)
    for (let i = 0; i < width * height; i++) edge.fill(i % width < 100 ? 0.02 : 0.6, 4 * i, 4 * i + 3)
    const fringe = (settings: object): number => {
      const out = treated(lineOf('three-strip', { ...clean, ...settings }), edge, width, height)
      let most = 0
      for (let x = 90; x < 110; x++)
        most = Math.max(
          most,
          Math.max(out[4 * x]!, out[4 * x + 1]!, out[4 * x + 2]!) -
            Math.min(out[4 * x]!, out[4 * x + 1]!, out[4 * x + 2]!),
        )
      return most
    }
    expect(fringe({})).toBeLessThan(0.02)
    expect(fringe({ acrossRed: 10 })).toBeGreaterThan(0.2)
  })
})

describe('false-colour stock (common practice)', () => {
  it('violet: yellow to pink, blue to green, green to purple; grey and red stay', () => {
    const h = (name: string) => hue(labOf(shipped('violet-stock'), patch(name)))
    expect(within(h('yellow'), 300, 20)).toBe(true)
    expect(within(h('blue'), 130, 200)).toBe(true)
    expect(within(h('green'), 280, 345)).toBe(true)
    expect(within(h('red'), 5, 55)).toBe(true)
    expect(chroma(labOf(shipped('violet-stock'), grey(0.18)))).toBeLessThan(0.5)
  })
  it('infrared: leaves turn to red, and nothing shifts at 0 %', () => {
    expect(labOf(shipped('infrared'), patch('leaf'))[1]).toBeGreaterThan(5)
    const none = lineOf('false-colour', { amount: 0 })
    expect(labOf(none, patch('leaf'))[1]).toBeCloseTo(labOf(lineOf('colour-print'), patch('leaf'))[1], 3)
  })
})
