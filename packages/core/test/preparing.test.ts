import { describe, expect, it } from 'vitest'
import { exposureOfGrey, neutralAt, packLut, settingsOfDecision, type BalanceSettings } from '../src/baths'
import {
  blackBodyXy,
  daylightXy,
  displayCode,
  lightOf,
  lightXyz,
  luminance,
  transform,
  BT709_TO_XYZ,
  XYZ_TO_BT709,
  type Triple,
  three,
} from '../src/colour'
import { encodingOfParameters, encodingOfTable } from '../src/encodings'
import { readCube, readDecision } from '../src/formats'
import { checkRecipe, newBath, plainLine, type Around } from '../src/line'
import { proposeLevels } from '../src/readings'
import { LAMPS, OBSERVER, SAMPLES, nmAt } from '../src/spectra'
import { HOUSE_LOG } from './house-log'
import { grey, labOf, lineOf, settingsOf, shipped, throughBath } from './helpers'

/** xy of a spectrum by summing over the observer. */
function xyOf(power: (nm: number) => number): [number, number] {
  const sums = [0, 0, 0]
  for (let i = 0; i < SAMPLES; i++)
    [OBSERVER.x, OBSERVER.y, OBSERVER.z].forEach((bar, k) => (sums[k]! += bar[i]! * power(nmAt(i))))
  const all = sums[0]! + sums[1]! + sums[2]!
  return [sums[0]! / all, sums[1]! / all]
}

/** Planck's law (1900), with c2 of the International Temperature Scale of 1990, metres kelvin. */
const planck =
  (kelvin: number) =>
  (nm: number): number =>
    (nm * 1e-9) ** -5 / (Math.exp(1.4388e-2 / (nm * 1e-9 * kelvin)) - 1)

describe('the light of a scene', () => {
  it.each([2000, 2856, 3500, 4500])('a black body of %s K has the chromaticity of Planck’s law', (kelvin) => {
    const [x, y] = xyOf(planck(kelvin))
    const [gx, gy] = blackBodyXy(kelvin)
    expect(Math.abs(gx - x)).toBeLessThan(0.0006)
    expect(Math.abs(gy - y)).toBeLessThan(0.0006)
  })
  it('daylight has that of the tables of CIE 15 (D50, D55, D65, D75)', () => {
    // CIE 15:2018, table 4: temperatures of the old c2 times 1.4388 / 1.438.
    for (const [t, x, y] of [
      [5000, 0.3457, 0.3585],
      [5500, 0.3324, 0.3474],
      [6500, 0.3127, 0.329],
      [7500, 0.299, 0.3149],
    ]) {
      const [gx, gy] = daylightXy((t! * 1.4388) / 1.438)
      expect(gx).toBeCloseTo(x!, 3)
      expect(gy).toBeCloseTo(y!, 3)
    }
  })
  it('is found again from its colour, tint and all', () => {
    for (const kelvin of [2400, 3200, 4300, 5000, 6504, 9000])
      for (const tint of [-60, 0, 45]) {
        const light = lightXyz(kelvin, tint)
        const { kelvin: k, tint: t } = lightOf(light)
        const uv = ([x, y, z]: Triple) => [(4 * x) / (x + 15 * y + 3 * z), (9 * y) / (x + 15 * y + 3 * z)]
        const [a, b] = [uv(light), uv(lightXyz(k, t))]
        expect(Math.hypot(a[0]! - b[0]!, a[1]! - b[1]!), `${kelvin} ${tint}`).toBeLessThan(0.0002)
        if (tint === 0) expect(Math.abs(1e6 / k - 1e6 / kelvin), `${kelvin}`).toBeLessThan(0.7)
      }
  })
})

describe('the balance bath', () => {
  it('makes tungsten light (illuminant A) neutral where it is told so, and a click finds that light', () => {
    const [x, y] = xyOf((nm) => LAMPS.tungsten[Math.round((nm - 380) / 10)]!)
    const light = transform(XYZ_TO_BT709, [(0.18 * x) / y, 0.18, (0.18 * (1 - x - y)) / y])
    const settings = neutralAt(light)
    const [r, g, b] = throughBath('balance', settings, light)
    expect(r / g).toBeCloseTo(1, 2)
    expect(b / g).toBeCloseTo(1, 2)
    // White balance is not exposure.
    expect(luminance([r, g, b])).toBeCloseTo(transform(BT709_TO_XYZ, light)[1], 1)
  })
  it('sets a card to 18 %, whatever else is set', () => {
    const settings = settingsOf('balance', { kelvin: 4000, black: 0.5, white: 0.4, shadows: 40, rollOff: 50 })
    const card: Triple = [0.05, 0.06, 0.08]
    const { exposure } = exposureOfGrey(settings as unknown as BalanceSettings, card)
    expect(luminance(throughBath('balance', { ...settings, exposure }, card))).toBeCloseTo(0.18, 2)
  })
  it('brings the lights of a bleach bypass back, by its roll-off or by levels behind it, and leaves mid tones', () => {
    const bypass = shipped('bleach-bypass')
    const levels = {
      ...bypass,
      baths: [...bypass.baths, newBath('ranges', 'levels', { lightsLevel: -100, highs: -100 })],
    }
    const rolled = { preparation: [newBath('balance', 'roll', { rollOff: 100 })], after: [] }
    const lightness = (stops: number, recipe = bypass, around?: Around) =>
      labOf(recipe, grey(0.18 * 2 ** stops), around)[0]
    // Where a tone comes out as light as a 99th percentile of L* 94.
    let bright = 0
    while (lightness(bright) < 94) bright += 0.01
    expect(lightness(bright, bypass, rolled)).toBeLessThanOrEqual(84)
    expect(lightness(bright, levels)).toBeLessThanOrEqual(84)
    for (const stops of [-1.5, -0.5, 0, 0.3]) {
      expect(lightness(stops, bypass, rolled)).toBeCloseTo(lightness(stops), 0)
      if (stops <= 0) expect(Math.abs(lightness(stops, levels) - lightness(stops))).toBeLessThan(1)
    }
  })
  it('opens shadows and rolls lights off without a fall or a corner, mid grey staying', () => {
    for (const settings of [
      { shadows: 100 },
      { shadows: -100 },
      { rollOff: 100, knee: 0.5 },
      { shadows: 60, rollOff: 40 },
    ]) {
      const at = (stops: number) => Math.log2(throughBath('balance', settings, grey(0.18 * 2 ** stops))[1] / 0.18)
      expect(at(0)).toBeCloseTo(0, 9)
      let [last, slope] = [at(-10), 1]
      for (let stops = -9.9; stops < 7; stops += 0.1) {
        const now = at(stops)
        expect(now, `${stops}`).toBeGreaterThan(last)
        const own = (now - last) / 0.1
        if (stops > -9.7) expect(Math.abs(own - slope)).toBeLessThan(0.2)
        ;[last, slope] = [now, own]
      }
    }
    expect(throughBath('balance', { shadows: 100 }, grey(0.18 / 8))[0]).toBeCloseTo((0.18 / 8) * 2 ** 1.2, 6)
  })
  it('proposes levels from the ends of a picture and counts what is clipped', () => {
    const pixels = new Float32Array(4 * 1000)
    for (let i = 0; i < 1000; i++) pixels.fill(0.012 + (0.4 * i) / 1000, 4 * i, 4 * i + 3)
    for (let i = 980; i < 1000; i++) pixels[4 * i] = 1
    const { black, white, clipped } = proposeLevels((r, g, b, out) => void out.set([r, g, b]), pixels, 1)
    expect(clipped).toBeCloseTo(0.02, 6)
    expect(black).toBeGreaterThan(0.9)
    expect(black).toBeLessThanOrEqual(1.5)
    expect(white).toBeGreaterThan(0.4)
  })
})

describe('printer lights', () => {
  it('twelve points more are a stop less', () => {
    const out = throughBath('printer-lights', { lightRed: 37, master: -12 }, [0.4, 0.4, 0.4])
    expect(out[0]).toBeCloseTo(0.4, 9)
    expect(out[1]).toBeCloseTo(0.8, 9)
  })
})

const cube = (rows: readonly string[], head = 'LUT_3D_SIZE 2'): string =>
  ['# a LUT', 'TITLE "test"', head, ...rows].join('\n')
const corners = ['0 0 0', '1 0 0', '0 1 0', '1 1 0', '0 0 1', '1 0 1', '0 1 1', '1 1 1']

describe('a .cube that comes in', () => {
  it.each<[string, string, RegExp]>([
    [
      '300 nodes a side',
      cube([], 'LUT_3D_SIZE 300'),
      /Line 3.*size '300' of a 3D LUT must be a whole number from 2 to 129/,
    ],
    ['a row too few', cube(corners.slice(1)), /has 7 rows of numbers; a 3D LUT of size 2 has 8/],
    ['what is no number', cube([...corners.slice(0, 7), '1 nan 1']), /Line 11.*'1 nan 1' must be three finite numbers/],
    ['two numbers in a row', cube(['0 0', ...corners.slice(1)]), /Line 4.*three finite numbers/],
    ['no size', cube(corners, '# none'), /neither LUT_1D_SIZE nor LUT_3D_SIZE/],
    ['two sizes', cube(['LUT_1D_SIZE 4', ...corners]), /Line 4.*second size/],
    [
      'a range that is none',
      cube(['DOMAIN_MIN 0 1 0', 'DOMAIN_MAX 1 1 1', ...corners]),
      /DOMAIN_MAX \(1\) is not above DOMAIN_MIN \(1\)/,
    ],
    ['a file of another kind', '{"version": 1}', /Line 1.*neither a keyword nor three numbers/],
  ])('is refused with its line: %s', (_, text, message) => {
    expect(() => readCube(text)).toThrow(message)
  })
  it('that changes nothing changes nothing, as 1-D and as 3-D, of any size', () => {
    const line = (n: number) =>
      Array.from({ length: n }, (_, i) =>
        Array(3)
          .fill(i / (n - 1))
          .join(' '),
      )
    const whole = (n: number) =>
      Array.from({ length: n ** 3 }, (_, i) =>
        [i % n, Math.floor(i / n) % n, Math.floor(i / n ** 2)].map((v) => v / (n - 1)).join(' '),
      )
    for (const text of [cube(corners), cube(whole(17), 'LUT_3D_SIZE 17'), cube(line(5), 'LUT_1D_SIZE 5')]) {
      const lut = packLut(readCube(text), 'a.cube')
      for (const e of ['acescct', 'linear']) {
        const out = throughBath('input-lut', { lut, takes: e, gives: e }, [0.3, 0.12, 0.5])
        ;[0.3, 0.12, 0.5].forEach((v, k) => expect(out[k]! / v).toBeCloseTo(1, 2))
      }
    }
  })
  it('is read between its nodes: a LUT that halves what comes in is a stop', () => {
    const lut = packLut(readCube(cube(corners.map((row) => row.replaceAll('1', '0.5')))), 'half.cube')
    const out = throughBath('input-lut', { lut, takes: 'linear', gives: 'linear' }, [0.4, 0.2, 0.8])
    ;[0.2, 0.1, 0.4].forEach((v, k) => expect(out[k]).toBeCloseTo(v, 4))
  })
  it('takes and gives an encoding of one’s own that the recipe holds, in place of the shipped ones', () => {
    const own = encodingOfParameters(HOUSE_LOG)
    const lut = packLut(readCube(cube(corners.map((row) => row.replaceAll('1', '0.9')))), 'darker.cube')
    const colour = [0.3, 0.12, 0.5] as const
    const shippedOne = throughBath('input-lut', { lut, takes: 'acescct', gives: 'acescct' }, colour)
    const ownOne = throughBath(
      'input-lut',
      { lut, takes: 'linear', gives: 'linear', ownTakes: own, ownGives: own },
      colour,
    )
    for (const k of [0, 1, 2]) expect(ownOne[k]! / shippedOne[k]!).toBeCloseTo(1, 3)
    expect(() => checkRecipe(lineOf('input-lut', { lut, ownTakes: { ...own, id: 'own-0000000000000000' } }))).toThrow(
      "the encoding 'House log' is not what its id says",
    )
    // A table of colours has none.
    const oneWay = encodingOfTable('one-way.cube', cube(corners))
    expect(() => checkRecipe(lineOf('input-lut', { lut, ownTakes: oneWay }))).toThrow('has no way back')
  })
  it('that lost nodes on its way is refused, naming them', () => {
    const lut = { ...packLut(readCube(cube(corners)), 'a.cube'), nodes: 'AAAA' }
    expect(() => checkRecipe(lineOf('input-lut', { lut }))).toThrow(
      /holds 1.5 numbers; one of its kind \(3D\) holds 107811/,
    )
  })
})

it('prepared light is what the baths behind it take, and what is seen where there is none', () => {
  const line = plainLine(lineOf('balance', { exposure: 1 }))
  const out = three()
  line(0.09, 0.09, 0.09, out)
  expect(out[1]).toBeCloseTo(displayCode(0.18), 3)
})

describe('a decision list that comes in', () => {
  const list = (inner: string): string => `<ColorCorrection id="a"><SOPNode>${inner}</SOPNode></ColorCorrection>`
  it('is the first of its file, what is missing being neutral', () => {
    const two = `<ColorCorrectionCollection xmlns="urn:ASC:CDL:v1.2">${list('<Slope>1.1 1 0.9</Slope>')}${list('')}</ColorCorrectionCollection>`
    expect(readDecision(two)).toEqual({ slope: [1.1, 1, 0.9], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1 })
  })
  it.each<[string, string, RegExp]>([
    ['no number', list('<Slope>1 nan 1</Slope>'), /Slope is '1 nan 1'; it must be three finite numbers/],
    ['two numbers', list('<Offset>0 0</Offset>'), /Offset is '0 0'/],
    ['a power of 0', list('<Power>1 0 1</Power>'), /Power is 0; it must be above 0/],
    ['a slope below 0', list('<Slope>1 -1 1</Slope>'), /Slope is -1; it must not be below 0/],
    ['a file of another kind', 'LUT_3D_SIZE 2', /holds no ColorCorrection/],
    ['a file that is cut', '<ColorCorrection id="a"><SOPNode>', /no whole XML: line 1: /],
  ])('is refused with %s', (_, text, message) => {
    expect(() => readDecision(text)).toThrow(message)
  })
  // One that took the square of the length took half a minute.
  it('is read through however it is made, and refused when it is too long', { timeout: 8000 }, () => {
    const parts = ['<ColorCorrection ', '<ColorCorrection>', '<Slope ', '<a:ColorCorrection id="', '<!--', '<![CDATA[']
    for (const part of parts)
      expect(() => readDecision(`<ColorCorrection>${part.repeat(Math.ceil(272_000 / part.length))}`), part).toThrow()
    expect(() => readDecision(`<ColorCorrection>${' '.repeat(5e6)}</ColorCorrection>`)).toThrow(/longer than 4 million/)
  })
  it('is refused where the bath cannot hold it, naming the setting', () => {
    const wide = readDecision(list('<Slope>9 1 1</Slope>'))
    expect(() => settingsOfDecision(wide)).toThrow(/slopeRed is 9; this bath takes 0 to 4/)
  })
})
