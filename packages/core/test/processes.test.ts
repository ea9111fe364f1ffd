import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import {
  KINDS,
  PATCHES,
  SAMPLES,
  SHIPPED_RECIPES,
  TONED,
  TONERS,
  WEDGE,
  Workbench,
  arrhenius,
  chroma,
  compileLine,
  dyesLeft,
  hue,
  newBath,
  plainLine,
  runPlan,
  tone,
  type Recipe,
  type ToningBath,
  type Triple,
} from '../src'

import { grey, labOf, lightOf, lineOf, luminance, shipped } from './helpers'

const patch = (name: string): Triple => PATCHES.find((p) => p.name === name)!.light
const footage: Recipe = { ...shipped('plain'), baths: [] }
const spread = (c: Triple): number => Math.max(...c) - Math.min(...c)
const within = (h: number, low: number, high: number): boolean =>
  low <= high ? h >= low && h <= high : h >= low || h <= high

describe('the settings of every kind', () => {
  it.each(KINDS.map((k) => [k.id, k] as const))(
    '%s: three to six come first, each with range, texts and default',
    (_, kind) => {
      const fields = Object.values(kind.schema.properties as Record<string, Record<string, unknown>>)
      const first = fields.filter((f) => f['first'])
      expect(first.length).toBeGreaterThanOrEqual(3)
      expect(first.length).toBeLessThanOrEqual(6)
      for (const f of fields) {
        for (const text of ['title', 'description', 'group']) expect(f[text]).toMatch(/\S/)
        if (f['type'] !== 'number') continue
        expect(f['default']).toBeGreaterThanOrEqual(f['minimum'] as number)
        expect(f['default']).toBeLessThanOrEqual(f['maximum'] as number)
        expect(f['step'] ?? 0).toBeLessThan(((f['maximum'] as number) - (f['minimum'] as number)) / 9)
      }
    },
  )
})

describe('timing', () => {
  it.each(
    SHIPPED_RECIPES.filter((r) => !['day-for-night', 'faded', 'faded-warm'].includes(r.id)).map(
      (r) => [r.id, r] as const,
    ),
  )('%s holds mid grey within 1 %%', (_, recipe) => {
    expect(Math.abs(luminance(lightOf(plainLine(recipe), grey(0.18))) / 0.18 - 1)).toBeLessThan(0.01)
  })
})

describe('two-strip colour (common practice)', () => {
  it.each(['two-strip', 'two-strip-projected'])(
    '%s holds orange and blue-green; every hue ends in one of the two',
    (id) => {
      for (const p of PATCHES) {
        const lab = labOf(shipped(id), p.light)
        if (chroma(lab) < 6) continue
        const h = hue(lab)
        expect(within(h, 20, 80) || within(h, 175, 250), `${p.name} ends at ${h.toFixed(0)}`).toBe(true)
      }
      expect(within(hue(labOf(shipped(id), patch('fair skin'))), 25, 75)).toBe(true)
      expect(within(hue(labOf(shipped(id), patch('blue-green'))), 180, 245)).toBe(true)
    },
  )
  it('makes mid grey neutral to within a few units of chroma, and tilts it with the balance', () => {
    expect(chroma(labOf(lineOf('two-strip'), grey(0.18)))).toBeLessThan(3)
    expect(labOf(lineOf('two-strip', { balance: 20 }), grey(0.18))[1]).toBeGreaterThan(
      labOf(lineOf('two-strip', { balance: -20 }), grey(0.18))[1],
    )
  })
  it('makes a surface of two parameters: the picture follows from two records alone', () => {
    // Any light that exposes both records alike makes the same colour, whatever its third component.
    const line = plainLine(lineOf('two-strip'))
    const kind = compileLine(lineOf('two-strip'), { size: 3 }).ops[0]!
    const [red, green] = kind.op === 'lut' ? kind.lut.premix! : ([] as never)
    const cross: Triple = [
      red[1] * green[2] - red[2] * green[1],
      red[2] * green[0] - red[0] * green[2],
      red[0] * green[1] - red[1] * green[0],
    ]
    const base: Triple = [0.3, 0.25, 0.4]
    const moved = base.map((v, k) => v + (0.05 * cross[k]!) / Math.hypot(...cross)) as unknown as Triple
    lightOf(line, moved).forEach((v, k) => expect(v).toBeCloseTo(lightOf(line, base)[k]!, 4))
  })
  it('gives yellow and blue back with blue recovery', () => {
    for (const name of ['yellow', 'blue']) {
      const away = (recovery: number) =>
        Math.abs(
          labOf(lineOf('two-strip', { blueRecovery: recovery }), patch(name))[2] - labOf(footage, patch(name))[2],
        )
      expect(away(60)).toBeLessThan(away(0))
    }
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
  it('makes coloured fringes at an edge when a record slips, and none when it does not', () => {
    const [width, height] = [200, 4]
    const edge = new Float32Array(4 * width * height)
    for (let i = 0; i < width * height; i++) edge.fill(i % width < 100 ? 0.02 : 0.6, 4 * i, 4 * i + 3)
    const fringe = (settings: object): number => {
      const out = runPlan(
        compileLine(lineOf('three-strip', { ...clean, ...settings }), { size: 33 }),
        edge,
        width,
        height,
        new Workbench(),
      )
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

describe('black and white, toned', () => {
  const toned = (settings: object) => lineOf('black-and-white', { ...settings })
  it('makes sepia orange-brown at mid grey (hue 55 to 85), colourless in black and white', () => {
    const mid = labOf(shipped('sepia'), grey(0.18))
    expect(within(hue(mid), 55, 85)).toBe(true)
    expect(chroma(mid)).toBeGreaterThan(12)
    expect(chroma(labOf(shipped('sepia'), grey(4)))).toBeLessThan(2)
    expect(chroma(labOf(shipped('sepia'), grey(3e-4)))).toBeLessThan(6)
  })
  it('splits sulphide then iron blue into warm lights and cold shadows; the other order is another picture', () => {
    expect(labOf(shipped('split-tone'), grey(0.7))[2]).toBeGreaterThan(1)
    expect(labOf(shipped('split-tone'), grey(0.02))[2]).toBeLessThan(-1)
    const other = toned({ toner1: 'iron-blue', far1: 92, toner2: 'sulphide', far2: 40 })
    expect(Math.abs(labOf(other, grey(0.7))[2] - labOf(shipped('split-tone'), grey(0.7))[2])).toBeGreaterThan(3)
  })
  it('conserves silver through any baths in any order', () => {
    const bath = fc.record({
      toner: fc.constantFrom(...TONERS),
      completeness: fc.double({ min: 0, max: 100, noNaN: true }),
    }) as fc.Arbitrary<ToningBath>
    fc.assert(
      fc.property(fc.double({ min: 0, max: 5, noNaN: true }), fc.array(bath, { maxLength: 4 }), (density, baths) => {
        const parts = tone(density, baths)
        expect(parts.reduce((a, b) => a + b, 0)).toBeCloseTo(density, 9)
        for (const p of parts) expect(p).toBeGreaterThanOrEqual(0)
      }),
    )
    // Almost complete: the bath takes all but about d^2 / (2 reach), to the last digits.
    for (const d of [0.3, 2, 5])
      expect(tone(d, [{ toner: 'sulphide', completeness: 100 - 1e-9 }])[0]).toBeCloseTo((d * d) / (2 * 0.9e11), 15)
  })
  it('lets sulphide take the lights first and selenium the darks', () => {
    const share = (toner: ToningBath['toner'], d: number) => tone(d, [{ toner, completeness: 50 }])[1]! / d
    expect(share('sulphide', 0.2)).toBeGreaterThan(share('sulphide', 2))
    expect(share('selenium', 2)).toBeGreaterThan(share('selenium', 0.2))
    expect(share('gold', 2)).toBeCloseTo(share('gold', 0.2), 9)
  })
  it('darkens red and lightens sky on orthochromatic film, against panchromatic', () => {
    const lightness = (sensitivity: string, name: string) => labOf(toned({ sensitivity }), patch(name))[0]
    expect(lightness('orthochromatic', 'red')).toBeLessThan(lightness('panchromatic', 'red') - 3)
    expect(lightness('orthochromatic', 'sky')).toBeGreaterThan(lightness('panchromatic', 'sky') + 1)
    expect(lightness('blue', 'red')).toBeLessThan(lightness('orthochromatic', 'red') + 0.5)
  })
  it('darkens what a taking filter holds back', () => {
    const sky = (filter: string) => labOf(toned({ filter }), patch('sky'))[0]
    expect(sky('yellow')).toBeLessThan(sky('none'))
    expect(sky('red')).toBeLessThan(sky('yellow'))
    expect(labOf(toned({ filter: 'green' }), patch('leaf'))[0]).toBeGreaterThan(
      labOf(toned({ filter: 'red' }), patch('leaf'))[0],
    )
  })
  it('keeps a free mix at 100 % unless told otherwise', () => {
    const mixed = (settings: object) =>
      labOf(toned({ sensitivity: 'free', mixRed: 80, mixGreen: 80, mixBlue: 40, ...settings }), patch('sky'))[0]
    expect(mixed({})).toBeCloseTo(
      labOf(toned({ sensitivity: 'free', mixRed: 40, mixGreen: 40, mixBlue: 20 }), patch('sky'))[0],
      6,
    )
    expect(mixed({ holdSum: false, holdGrey: false })).toBeGreaterThan(mixed({ holdGrey: false }))
  })
  it('colours the lights with a tint and leaves black black', () => {
    for (const tint of ['amber', 'rose', 'blue', 'green', 'lavender', 'straw']) {
      expect(chroma(labOf(toned({ tint }), grey(2)))).toBeGreaterThan(6)
      expect(labOf(toned({ tint }), grey(2e-4))[0]).toBeLessThan(3)
    }
  })
  it('steepens with the grade and with litho development', () => {
    const contrast = (settings: object) => labOf(toned(settings), grey(0.3))[0] - labOf(toned(settings), grey(0.1))[0]
    expect(contrast({ grade: 4 })).toBeGreaterThan(contrast({ grade: 1 }))
    expect(contrast({ litho: 80 })).toBeGreaterThan(contrast({}))
  })
  it('has spectra for every toner on the grid', () => {
    for (const name of TONERS) expect(TONED[name]).toHaveLength(SAMPLES)
  })
})

describe('instant film', () => {
  const flat = { softness: 0, falloff: 0, uneven: 0 }
  it('has a black of about 3 % of white or more, a warm white, and less colour than the print', () => {
    const line = lineOf('instant', flat)
    expect(luminance(lightOf(plainLine(line), grey(1e-4)))).toBeGreaterThan(0.022)
    expect(labOf(line, grey(3))[2]).toBeGreaterThan(1)
    for (const name of ['red', 'sky', 'fair skin', 'leaf'])
      expect(chroma(labOf(line, patch(name)))).toBeLessThan(chroma(labOf(lineOf('colour-print'), patch(name))))
  })
  it('goes thin and blue in the cold, dense and yellow-red in the heat', () => {
    const at = (temperature: number) => labOf(lineOf('instant', { ...flat, temperature, holdGrey: false }), grey(0.08))
    expect(at(5)[2]).toBeLessThan(at(21)[2])
    expect(at(5)[0]).toBeGreaterThan(at(21)[0])
    expect(at(35)[2]).toBeGreaterThan(at(21)[2])
    expect(at(35)[0]).toBeLessThan(at(21)[0])
  })
  it('falls off to the corners, spreads by its seed, and can be framed by its card', () => {
    const [width, height] = [96, 54]
    const scene = new Float32Array(4 * width * height).fill(0.18)
    const shown = (settings: object) =>
      runPlan(
        compileLine(lineOf('instant', { ...flat, ...settings }), { size: 17 }),
        scene,
        width,
        height,
        new Workbench(),
      ).slice()
    const dark = shown({ falloff: 50 })
    expect(dark[0]!).toBeLessThan(dark[4 * (27 * width + 48)]! - 0.05)
    expect(shown({ uneven: 50, seed: 1 })).toEqual(shown({ uneven: 50, seed: 1 }))
    expect(shown({ uneven: 50, seed: 1 })).not.toEqual(shown({ uneven: 50, seed: 2 }))
    const card = shown({ card: true })
    expect(card[4 * (52 * width + 48)]!).toBeCloseTo(0.93, 2)
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

describe('aged prints', () => {
  const bare = { fadeCyan: 0, fadeMagenta: 0, fadeYellow: 0, stain: 0, fog: 0 }
  it('turn red when cyan goes, green when magenta goes, blue when yellow goes', () => {
    const lab = (settings: object) => labOf(lineOf('aged-print', { ...bare, ...settings }), grey(0.18))
    expect(lab({ fadeCyan: 50 })[1]).toBeGreaterThan(5)
    expect(lab({ fadeMagenta: 50 })[1]).toBeLessThan(-5)
    expect(lab({ fadeYellow: 50 })[2]).toBeLessThan(-5)
  })
  it('only let more light through by fading, less by stain and fog', () => {
    const light = (settings: object) => lightOf(plainLine(lineOf('aged-print', { ...bare, ...settings })), grey(0.1))
    const base = luminance(light({}))
    for (const dye of ['fadeCyan', 'fadeMagenta', 'fadeYellow'])
      expect(luminance(light({ [dye]: 30 }))).toBeGreaterThan(base)
    for (const what of [{ stain: 0.3 }, { fog: 0.3 }]) expect(luminance(light(what))).toBeLessThan(base)
  })
  it('fade faster in the warm, cyan first in the dark, magenta first in light', () => {
    expect(arrhenius(95_000, 24)).toBeCloseTo(1, 9)
    // ln(k2/k1) = Ea/R (1/T1 - 1/T2), by hand: 95000/8.314462618 · (1/297.15 - 1/307.15) = 1.2519.
    expect(Math.log(arrhenius(95_000, 34))).toBeCloseTo(1.2519, 3)
    expect(dyesLeft(30, 34, 0)[0]).toBeLessThan(dyesLeft(30, 24, 0)[0])
    const [c, m] = dyesLeft(30, 24, 0)
    expect(c).toBeLessThan(m)
    const lit = dyesLeft(30, 24, 1)
    expect(lit[1]).toBeLessThan(lit[0])
  })
})

describe('combining processes', () => {
  it('shows the order, and what a bath takes', () => {
    const sepia = newBath('black-and-white', 'bath-1', { toner1: 'sulphide' })
    const old = newBath('aged-print', 'bath-2', { fadeCyan: 60 })
    const line = (baths: Recipe['baths']): Recipe => ({ ...footage, baths })
    const one = labOf(line([sepia, { ...old, takes: 'line' }]), grey(0.1))
    const two = labOf(
      line([
        { ...old, takes: 'line' },
        { ...sepia, takes: 'line' },
      ]),
      grey(0.1),
    )
    expect(Math.abs(one[1] - two[1]) + Math.abs(one[2] - two[2])).toBeGreaterThan(3)
    expect(chroma(labOf(line([sepia, { ...old, takes: 'camera' }]), patch('sky')))).toBeGreaterThan(0)
  })
  it('day for night is dark, blue, and pulls the lights down further than the shadows', () => {
    const night = shipped('day-for-night')
    const drop = (light: number) => labOf(footage, grey(light))[0] - labOf(night, grey(light))[0]
    expect(labOf(night, grey(0.18))[2]).toBeLessThan(-5)
    expect(drop(0.6)).toBeGreaterThan(drop(0.02))
    expect(drop(0.18)).toBeGreaterThan(10)
  })
})
