import { describe, expect, it } from 'vitest'
import { PATCHES } from '../src/charts'
import {
  bt709ToLab,
  chroma,
  ciede2000,
  displayCode,
  displayLight,
  hue,
  labToBt709,
  type Triple,
  three,
} from '../src/colour'
import { encodingById, numbersOf } from '../src/encodings'
import { straightView } from '../src/film'
import { NOTHING_AROUND, plainLine } from '../src/line'
import { seededRandom } from '../src/numbers'
import { PROCESS_RECIPES } from '../src/recipes'
import { openHeld, plainStages, type PointFunction } from '../src/stages'
import { Treatment } from '../src/treat'
import { makeUnprint } from '../src/baths/colour-print/unprint'
import { UNPRINTED, codeAt, placesOf } from '../src/line/unprinted'
import { shipped } from './helpers'

const out = three()
const through = (line: PointFunction, [r, g, b]: Triple): Triple => {
  line(r, g, b, out)
  return [out[0]!, out[1]!, out[2]!]
}
const labOfCodes = (codes: Triple): Triple => bt709ToLab(codes.map(displayLight) as unknown as Triple)
const codesOf = (light: Triple): Triple => light.map(displayCode) as unknown as Triple
const plain = plainLine(shipped('plain'), NOTHING_AROUND, 'display')
const missed = (codes: Triple): number => ciede2000(labOfCodes(codes), labOfCodes(through(plain, codes)))
const mean = (values: readonly number[]): number => values.reduce((a, b) => a + b) / values.length
const share = (values: readonly number[], part: number): number =>
  [...values].sort((a, b) => a - b)[Math.min(values.length - 1, Math.floor(part * values.length))]!
const grey = (code: number): Triple => [code, code, code]

/** Colours between a skin, a leaf, a sky and a shadow. */
const natural = ((): Triple[] => {
  const corners = [
    [0.75, 0.55, 0.45],
    [0.3, 0.38, 0.18],
    [0.4, 0.55, 0.75],
    [0.12, 0.1, 0.09],
  ] as const
  const random = seededRandom(5)
  return Array.from({ length: 400 }, (): Triple => {
    const shares = corners.map(() => -Math.log(random()))
    const sum = shares.reduce((a, b) => a + b)
    const at = (k: 0 | 1 | 2) => corners.reduce((total, corner, i) => total + (corner[k] * shares[i]!) / sum, 0)
    return [at(0), at(1), at(2)]
  })
})()

describe('unprinting', () => {
  it('has at its nodes what solving for the plain print gives', () => {
    const solve = makeUnprint()
    const table = plainStages(UNPRINTED)
    const places = placesOf(33)
    const random = seededRandom(12)
    for (let i = 0; i < 25; i++) {
      const codes = [0, 1, 2].map(() => codeAt(places[Math.floor(33 * random())]!)) as unknown as Triple
      const wanted = solve(codes).map(openHeld)
      // A half float has eleven bits.
      through(table, codes).forEach((v, k) =>
        expect(Math.abs(v - wanted[k]!)).toBeLessThan(2e-3 * (0.05 + Math.abs(wanted[k]!))),
      )
    }
  })

  it('goes one way for neighbours that no dyes reach, though there are two', () => {
    const solve = makeUnprint()
    const reds = (green: number, blue: number) =>
      Array.from({ length: 30 }, (_, i) => solve([(197 + 2 * i) / 255, green / 255, blue / 255]))
    for (const row of [reds(103, 3), reds(9, 10)])
      for (const [i, light] of row.slice(1).entries())
        expect(Math.hypot(...light.map((v, k) => v - row[i]![k]!)), `step ${i}`).toBeLessThan(0.5)
  })

  it('puts no light far above white, or the highlights of harder prints break up', () => {
    const white = openHeld(Math.max(...placesOf(33)))
    const table = plainStages(UNPRINTED)
    for (const edge of [
      [0.86, 1, 1],
      [1, 0.86, 1],
      [0.9, 0.94, 1],
    ] as const)
      for (const light of through(table, edge)) expect(light).toBeLessThan(1.15 * white)
  })

  it('lets the plain print hand footage back: charted colours, and natural ones', () => {
    const charted = PATCHES.map((p) => codesOf(p.light.map(straightView) as unknown as Triple))
    expect(mean(charted.map(missed))).toBeLessThan(0.8)
    expect(mean(natural.map(missed))).toBeLessThan(0.1)
    expect(share(natural.map(missed), 0.99)).toBeLessThan(0.5)
  })

  it.each<[string, Triple[]]>([
    [
      'leaves lit from behind',
      [
        [84, 168, 0],
        [126, 210, 0],
        [42, 126, 0],
        [126, 168, 42],
      ],
    ],
    [
      'a meadow in the sun',
      [
        [126, 210, 84],
        [126, 210, 42],
        [84, 126, 42],
      ],
    ],
    [
      'yellow petals',
      [
        [252, 210, 42],
        [252, 168, 42],
        [210, 126, 0],
      ],
    ],
    [
      'red petals',
      [
        [168, 42, 0],
        [210, 42, 0],
        [168, 0, 0],
      ],
    ],
    [
      'a clear sky',
      [
        [126, 210, 252],
        [84, 126, 210],
        [42, 126, 210],
      ],
    ],
  ])('hands back %s, as full of colour as photographs hold them', (_, colours) => {
    for (const c of colours) expect(missed(c.map((v) => v / 255) as unknown as Triple), String(c)).toBeLessThan(1.5)
  })

  it.each(['srgb', 'bt709', 'bt2020'] as const)('does so for footage in %s as well', (id) => {
    const numbers = numbersOf(encodingById(id))
    const out = three()
    const inFootage = natural.slice(0, 100).flatMap((codes) => {
      const light = codes.map(displayLight) as unknown as Triple
      numbers(...light, out)
      return [...out]
    })
    const data = Uint16Array.from(inFootage, (v) => Math.round(65535 * Math.min(1, Math.max(0, v))))
    const { pixels } = new Treatment().run(
      { data, format: 'u16', width: 100, height: 1, frame: 0 },
      { ...NOTHING_AROUND, recipe: shipped('plain'), encoding: id },
      'bt1886',
    )
    const apart = natural.slice(0, 100).map((codes, i) => {
      const shown: Triple = [pixels[4 * i]!, pixels[4 * i + 1]!, pixels[4 * i + 2]!]
      return ciede2000(labOfCodes(codes), labOfCodes(shown))
    })
    expect(mean(apart)).toBeLessThan(0.1)
  })

  it('keeps greys within 0.3, black black and white white', () => {
    for (let i = 0; i <= 255; i++) expect(missed(grey(i / 255)), `code ${i}`).toBeLessThan(0.3)
    expect(Math.round(255 * through(plain, grey(0))[1])).toBe(0)
    expect(through(plain, grey(1)).map((v) => Math.round(255 * v))).toEqual([255, 255, 255])
  })

  it('keeps the hue of a deep sky', () => {
    const angle = (280 * Math.PI) / 180
    const sky = codesOf(labToBt709([35, 45 * Math.cos(angle), 45 * Math.sin(angle)]))
    expect(Math.abs(hue(labOfCodes(through(plain, sky))) - 280)).toBeLessThan(3)
  })

  it('makes the noise of 8-bit footage grow by at most half; where no dyes reach, not threefold', () => {
    const random = seededRandom(9)
    const grows = (codes: Triple): number => {
      const step = [0, 1, 2].map(() => (random() - 0.5) / 255) as unknown as Triple
      const moved = codes.map((v, k) => v + step[k]!) as unknown as Triple
      const [a, b] = [through(plain, codes), through(plain, moved)]
      return Math.hypot(...a.map((v, k) => v - b[k]!)) / Math.hypot(...step)
    }
    const wide = Array.from({ length: 1500 }, () => [0, 1, 2].map(() => 0.08 + 0.84 * random()) as unknown as Triple)
    expect(share(natural.map(grows), 0.99)).toBeLessThan(1.5)
    // Deep skies, whose red is all but black: there a fit into the gamut that is hard to undo tears them into islands.
    const skies = Array.from({ length: 400 }, (): Triple => {
      const blue = 0.4 + 0.35 * random()
      return [0.06 + 0.1 * random(), blue * (0.5 + 0.15 * random()), blue]
    })
    expect(share(skies.map(grows), 0.99)).toBeLessThan(2)
    expect(share(wide.map(grows), 0.99)).toBeLessThan(3)
  })
})

describe.each(PROCESS_RECIPES.map((r) => [r.id, r] as const))('a grey ramp of 8 bits through %s', (_, recipe) => {
  const line = plainLine(recipe, NOTHING_AROUND, 'display')
  const shown = Array.from({ length: 256 }, (_unused, i) => {
    const [r, g, b] = through(line, grey(i / 255))
    return 255 * (0.2126 * r + 0.7152 * g + 0.0722 * b)
  })
  const steps = shown.slice(1).map((v, i) => v - shown[i]!)
  it('never falls, leaves black without a jump and reaches white without one', () => {
    expect(Math.min(...steps)).toBeGreaterThan(-0.02)
    const leaves = steps.findIndex((s) => s > 0.02)
    expect(Math.max(...steps.slice(leaves, leaves + 8))).toBeLessThan(1.6)
    const upper = share(steps.slice(191), 0.5)
    expect(Math.max(...steps.slice(-12))).toBeLessThan(3 * Math.max(upper, 0.3))
  })
})

describe('a saturated light that is raised by ten stops', () => {
  const colours = {
    red: [1, 0.05, 0.02],
    green: [0.05, 1, 0.08],
    blue: [0.03, 0.06, 1],
  } as const
  // Infrared light is estimated from ratios that count less the brighter it is.
  const cases = ['plain', 'infrared'].flatMap((id) =>
    Object.entries(colours).map(([name, c]) => [id, name, c] as const),
  )
  it.each(cases)('on %s %s rises strictly in lightness and ends in white', (id, _, colour) => {
    const line = plainLine(shipped(id))
    let last = -1
    for (let stop = 0; stop <= 10; stop += 0.5) {
      const lab = labOfCodes(through(line, colour.map((v) => 0.18 * v * 2 ** stop) as unknown as Triple))
      if (last < 99.9) expect(lab[0], `${stop} stops`).toBeGreaterThan(last)
      last = lab[0]
    }
    expect(last).toBeGreaterThan(97)
    expect(chroma(labOfCodes(through(line, colour.map((v) => 0.18 * v * 2 ** 10) as unknown as Triple)))).toBeLessThan(
      6,
    )
  })
})
