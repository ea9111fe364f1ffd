import { describe, expect, it } from 'vitest'
import { PATCHES } from '../src/charts'
import { chroma, type Triple } from '../src/colour'
import { arrhenius, dyesLeft } from '../src/film'
import { plainLine, type Recipe } from '../src/line'
import { grey, labOf, lightOf, lineOf, luminance, shipped, treated } from './helpers'

const patch = (name: string): Triple => PATCHES.find((p) => p.name === name)!.light

describe('faded into warm', () => {
  it('is plainly faded: black opened, tones drawn together, warm', () => {
    const [faded, plain] = [shipped('faded-into-warm'), shipped('plain')]
    const tones = Array.from({ length: 33 }, (_, i) => 0.18 * 2 ** (i / 4 - 5))
    const deviation = (recipe: Recipe): number => {
      const all = tones.map((light) => labOf(recipe, grey(light))[0])
      const mean = all.reduce((a, b) => a + b) / all.length
      return Math.sqrt(all.reduce((sum, l) => sum + (l - mean) ** 2, 0) / all.length)
    }
    expect(labOf(faded, grey(0))[0]).toBeGreaterThanOrEqual(12)
    expect(deviation(faded)).toBeLessThanOrEqual(0.8 * deviation(plain))
    expect(labOf(faded, grey(0.18))[2]).toBeGreaterThan(4)
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
    const shown = (settings: object) => treated(lineOf('instant', { ...flat, ...settings }), scene, width, height)
    const dark = shown({ falloff: 50 })
    expect(dark[0]!).toBeLessThan(dark[4 * (27 * width + 48)]! - 0.05)
    expect(shown({ uneven: 50, seed: 1 })).toEqual(shown({ uneven: 50, seed: 1 }))
    expect(shown({ uneven: 50, seed: 1 })).not.toEqual(shown({ uneven: 50, seed: 2 }))
    const card = shown({ card: true })
    expect(card[4 * (52 * width + 48)]!).toBeCloseTo(0.93, 2)
  })
})

describe('light in instant film', () => {
  it('comes back red around what is bright, where the base sends it: 2 t / sqrt(n² - 1) away on a print of 79 mm', () => {
    const [width, height] = [790, 40]
    const scene = new Float32Array(4 * width * height).fill(0.01)
    for (let i = 0; i < 4 * width * height; i += 4) if ((i >> 2) % width < 395) scene.fill(4, i, i + 4)
    const flat = { softness: 0, falloff: 0, uneven: 0, halation: 0, baseThickness: 0.3 }
    const of = (settings: object) => treated(lineOf('instant', { ...flat, ...settings }), scene, width, height)
    const [plain, ringed] = [of({}), of({ halation: 150 })]
    const gain = (mm: number, k: number): number => {
      const at = 4 * (20 * width + 395 + Math.round(10 * mm)) + k
      return ringed[at]! - plain[at]!
    }
    // An edge is lit from all that lies within the ring's reach; beyond about twice its 0.54 mm nothing is left.
    expect(gain(0.3, 0)).toBeGreaterThan(0.05)
    expect(gain(0.3, 0)).toBeGreaterThan(2 * gain(0.3, 2))
    expect(Math.abs(gain(2.5, 0))).toBeLessThan(0.004)
  })
  it('tires it in long exposures: darker and warmer where grey is metered for a second', () => {
    const at = (exposureTime: number) => labOf(lineOf('instant', { holdGrey: false, exposureTime }), grey(0.18))
    const [short, long] = [at(1), at(60)]
    expect(long[0]).toBeLessThan(short[0] - 3)
    expect(long[2]).toBeGreaterThan(short[2] + 1)
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
  it('of later stock are plain prints until they fade; dyes of early stock are less pure', () => {
    const lab = (settings: object, name: string) =>
      labOf(lineOf('aged-print', { ...bare, ...settings }, { takes: 'camera' }), patch(name))
    for (const name of ['red', 'green', 'blue', 'fair skin']) {
      const plain = labOf(lineOf('colour-print'), patch(name))
      lab({ generation: 'later' }, name).forEach((v, k) => expect(v, name).toBeCloseTo(plain[k]!, 6))
      expect(chroma(lab({ generation: 'early' }, name)), name).toBeLessThan(chroma(plain))
    }
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
    const dark = { years: 30, celsius: 24 }
    // ln(k2/k1) = Ea/R (1/T1 - 1/T2), by hand: 95000/8.314462618 · (1/297.15 - 1/307.15) = 1.2519.
    expect(Math.log(arrhenius(95_000, 34))).toBeCloseTo(1.2519, 3)
    expect(dyesLeft({ years: 30, celsius: 34 }, 'later')[0]).toBeLessThan(dyesLeft(dark, 'later')[0])
    const [c, m] = dyesLeft(dark, 'later')
    expect(c).toBeLessThan(m)
    const lit = dyesLeft({ ...dark, light: 1 }, 'later')
    expect(lit[1]).toBeLessThan(lit[0])
    // By hand: e^(-30·0.03) = 0.4066 of early cyan, e^(-30·0.011) = 0.7189 of later; twice the rate at 65 % of humidity.
    expect(dyesLeft(dark, 'early')[0]).toBeCloseTo(0.4066, 4)
    expect(dyesLeft(dark, 'later')[0]).toBeCloseTo(0.7189, 4)
    expect(dyesLeft({ ...dark, humidity: 65 }, 'later')[0]).toBeCloseTo(0.7189 ** 2, 3)
  })
})
