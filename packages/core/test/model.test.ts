import { wholeOf } from '../src/film/emulsion'
import { describe, expect, it } from 'vitest'
import { PATCHES } from '../src/charts'
import { bt709ToLab, chroma, displayCode, displayLight, hue, luminance, type Triple, three } from '../src/colour'
import { straightView } from '../src/film'
import { NOTHING_AROUND, plainLine, type Recipe } from '../src/line'
import { PROCESS_RECIPES } from '../src/recipes'
import { plainStages } from '../src/stages'
import { makeColourPrint } from '../src/baths/colour-print/film'
import { BLACK_LEVEL, WHITE_LEVEL } from '../src/film/plain-levels'
import { codesOfHue as codesOf, greyCodes as grey, labFrom, lineOf, settingsOf, shipped, timedInPart } from './helpers'

/** What the second edition of the model asks of each process (docs/model.md); display footage in, CIELAB out. */

const PATCH_CODES = PATCHES.map((p) => p.light.map((v) => displayCode(straightView(v))) as unknown as Triple)
const meanChroma = (recipe: Recipe): number => {
  const lab = labFrom(recipe)
  return PATCH_CODES.reduce((sum, codes) => sum + chroma(lab(codes)), 0) / PATCH_CODES.length
}
/** Lightness, chroma and hue, within 2, 3 and 6. */
function near(lab: Triple, [l, c, h]: Triple): void {
  expect(Math.abs(lab[0] - l), `lightness ${lab[0]}`).toBeLessThan(2)
  expect(Math.abs(chroma(lab) - c), `chroma ${chroma(lab)}`).toBeLessThan(3)
  const apart = Math.abs(hue(lab) - h)
  expect(Math.min(apart, 360 - apart), `hue ${hue(lab)}`).toBeLessThan(6)
}

/** Tinting is their nature, or they are not timed to grey. */
const COLOURED = ['sepia', 'iron-blue', 'split-tone', 'duotone', 'tritone', 'quadtone', 'tint', 'litho', 'selenium']
const UNTIMED = ['day-for-night', 'faded']
const isOf = (id: string, list: readonly string[]): boolean => list.some((name) => id.startsWith(name))

describe.each(PROCESS_RECIPES.filter((r) => !isOf(r.id, UNTIMED) && !timedInPart(r)).map((r) => [r.id, r] as const))(
  '%s',
  (id, recipe) => {
    it('holds mid grey', () => {
      const line = plainLine(recipe, NOTHING_AROUND, 'display')
      const out = three()
      const [code] = grey(0.18)
      line(code, code, code, out)
      const light = [...out].map(displayLight) as unknown as Triple
      expect(Math.abs(luminance(light) / 0.18 - 1)).toBeLessThan(0.01)
      // Warm by the dyes (two-strip), the layers (orthochromatic) or the paper (instant).
      if (!isOf(id, [...COLOURED, 'two-strip', 'orthochromatic', 'instant']))
        expect(chroma(bt709ToLab(light))).toBeLessThan(0.5)
    })
  },
)

it.each([-2, -1, 1, 2, 3])('a negative pushed by %s stops prints a neutral mid grey', (push) => {
  const lab = labFrom(lineOf('colour-print', { push }))(grey(0.18))
  expect(chroma(lab)).toBeLessThan(0.5)
})

describe('bleach bypass', () => {
  it('is harder and greyer than plain', () => {
    expect(meanChroma(shipped('bleach-bypass')) / meanChroma(shipped('plain'))).toBeLessThanOrEqual(0.75)
    const [hard, plain] = [labFrom(shipped('bleach-bypass')), labFrom(shipped('plain'))]
    expect(hard(grey(0.03))[0]).toBeLessThan(plain(grey(0.03))[0] - 6)
    expect(hard(grey(0.5))[0]).toBeGreaterThan(plain(grey(0.5))[0] + 3)
  })
  it('has the slope at mid grey and the black density that prints show: 1.69 and 3.9, bypassed 2.18 and 5.5', () => {
    const out = three()
    const measure = (bleachPrint: number): [slope: number, black: number] => {
      const settings = settingsOf('colour-print', { bleachPrint }) as never
      const print = plainStages(wholeOf(makeColourPrint(settings).parts))
      const density = (x: number): number => {
        const light = 0.18 * 10 ** x
        print(light, light, light, out)
        return -Math.log10(out[1]! * (WHITE_LEVEL - BLACK_LEVEL) + BLACK_LEVEL)
      }
      return [(density(-0.02) - density(0.02)) / 0.04, density(-3)]
    }
    for (const [bleach, slope, black] of [
      [100, 1.69, 3.9],
      [0, 2.18, 5.5],
    ] as const) {
      const [own, dark] = measure(bleach)
      expect(Math.abs(own - slope)).toBeLessThan(0.06)
      expect(Math.abs(dark - black)).toBeLessThan(0.1)
    }
  })
  it('goes from plain to full without turning back', () => {
    const colour = PATCH_CODES[PATCHES.findIndex((p) => p.name === 'brick')]!
    const chromas = [100, 80, 60, 40, 20, 0].map((bleachPrint) =>
      chroma(labFrom(lineOf('colour-print', { bleachPrint }))(colour)),
    )
    chromas.slice(1).forEach((c, i) => expect(c).toBeLessThan(chromas[i]!))
  })
  it('counts silver more in a projector than in contact', () => {
    const dark = (callier: number) => labFrom(lineOf('colour-print', { bleachPrint: 0, callier }))(grey(0.03))[0]
    expect(dark(1.25)).toBeLessThan(dark(1))
  })
})

describe('toners, at mid grey', () => {
  it.each<[string, Triple]>([
    ['sepia', [49.5, 20, 63]],
    ['iron-blue', [49.5, 27, 247]],
  ])('%s', (id, wanted) => near(labFrom(shipped(id))(grey(0.18)), wanted))
  it('sepia is browner in the shadows, selenium cool there', () => {
    expect(Math.abs(hue(labFrom(shipped('sepia'))(grey(0.03))) - 56)).toBeLessThan(6)
    expect(Math.abs(chroma(labFrom(shipped('selenium'))(grey(0.03))) - 5.5)).toBeLessThan(3)
  })
  it('the split tone is warm over cold', () => {
    const lab = labFrom(shipped('split-tone'))
    const [dark, light] = [lab(grey(0.03)), lab(grey(0.47))]
    expect(Math.abs(hue(dark) - 249)).toBeLessThan(6)
    expect(Math.abs(chroma(dark) - 19)).toBeLessThan(3)
    near(light, [72, 5, 80])
  })
  it.each([
    ['sepia-yellow', 75],
    ['sepia', 63],
    ['sepia-purple', 38],
  ])('%s is a brown of its own, h %s at mid grey', (id, h) => {
    const lab = labFrom(shipped(id))(grey(0.18))
    expect(Math.abs(hue(lab) - h)).toBeLessThan(4)
    expect(chroma(lab)).toBeGreaterThan(15)
  })
  it('gold turns sulphide to orange-red, h 35', () => {
    const lab = labFrom(lineOf('black-and-white', { toner1: 'sulphide', toner2: 'gold', far2: 100 }))(grey(0.18))
    expect(Math.abs(hue(lab) - 35)).toBeLessThan(2)
  })
  it('gold lies on silver: sulphide after it still warms', () => {
    const after = (far2: number) =>
      labFrom(lineOf('black-and-white', { toner1: 'gold', far1: 100, toner2: 'sulphide', far2 }))(grey(0.18))
    expect(after(0)[2]).toBeLessThan(-2)
    expect(after(100)[2]).toBeGreaterThan(2)
    expect(hue(after(100))).toBeLessThan(85)
  })
  it('selenium is purplish where it has taken the darks, h 320 to 10', () => {
    for (const light of [0.01, 0.02, 0.03, 0.06]) {
      const lab = labFrom(shipped('selenium'))(grey(light))
      const turned = (hue(lab) + 180) % 360
      expect(turned, `${light}`).toBeGreaterThan(140)
      expect(turned, `${light}`).toBeLessThan(190)
    }
  })
  it('iron blue is blue from the darks to the lights, and not gaudy: C <= 38, h 245 to 283', () => {
    const lab = labFrom(lineOf('black-and-white', { toner1: 'iron-blue', far1: 100 }))
    for (const light of [0.02, 0.03, 0.06, 0.1, 0.18, 0.35]) {
      expect(chroma(lab(grey(light))), `${light}`).toBeLessThanOrEqual(38)
      expect(hue(lab(grey(light))), `${light}`).toBeGreaterThanOrEqual(245)
      expect(hue(lab(grey(light))), `${light}`).toBeLessThanOrEqual(283)
    }
  })
})

describe('other processes', () => {
  it('three-strip is more colourful than plain, and neutral', () => {
    expect(meanChroma(shipped('three-strip')) / meanChroma(shipped('plain'))).toBeGreaterThan(1.1)
    for (const light of [0.02, 0.18, 0.6])
      expect(chroma(labFrom(shipped('three-strip'))(grey(light)))).toBeLessThan(0.5)
  })
  it('faded blacks are red and lifted, those of the warm store further', () => {
    const [black, warm] = [labFrom(shipped('faded'))(grey(0)), labFrom(shipped('faded-warm'))(grey(0))]
    near(black, [20, 38, 23])
    expect(warm[0]).toBeGreaterThan(black[0])
    for (const codes of [...PATCH_CODES, grey(0)]) {
      expect(labFrom(shipped('faded'))(codes)[0]).toBeGreaterThan(8)
      expect(labFrom(shipped('faded-warm'))(codes)[0]).toBeGreaterThan(8)
    }
  })
  it('litho lights stay soft and warm, shadows fall at once', () => {
    const lab = labFrom(lineOf('black-and-white', { litho: 100 }))
    near(lab(grey(0.5)), [74, 10, 82])
    expect(lab(grey(0.06))[0]).toBeLessThan(20)
    expect(lab(grey(0.18))[0] - lab(grey(0.06))[0]).toBeGreaterThan(25)
  })
  it('infrared stock lets leaves glow red and skies go deep; greys stay', () => {
    const lab = labFrom(shipped('infrared'))
    // About 43/55/12 is asked of foliage, which has no one colour.
    for (const foliage of [
      [30, 42, 133],
      [28, 42, 130],
    ] as const) {
      const glowing = lab(codesOf(foliage))
      expect(Math.abs(glowing[0] - 43)).toBeLessThan(8)
      expect(Math.abs(chroma(glowing) - 55)).toBeLessThan(4)
      expect(Math.abs(hue(glowing) - 12)).toBeLessThan(8)
    }
    // The deep sky blue that plain hands back.
    near(lab(codesOf([35, 45, 280])), [20, 31, 284])
    const purple = PATCH_CODES[PATCHES.findIndex((p) => p.name === 'purple')]!
    expect(lab(purple)[0], 'purple is no sky').toBeGreaterThan(labFrom(shipped('plain'))(purple)[0])
    expect(chroma(lab(grey(0.18)))).toBeLessThan(0.5)
  })
  it('infrared stock makes no blotches of skies: one code of 8 bits in, at most 2.5 out', () => {
    const line = plainLine(shipped('infrared'), NOTHING_AROUND, 'display')
    const of = (codes: readonly number[]) => {
      const out = three()
      line(codes[0]! / 255, codes[1]! / 255, codes[2]! / 255, out)
      return out
    }
    for (let green = 60; green <= 230; green += 17)
      for (const [r, b] of [
        [-24, 24],
        [-8, 16],
        [-4, 4],
        [0, 0],
        [4, -8],
      ] as const)
        for (const k of [0, 1, 2]) {
          const codes = [green + r, green, green + b]
          const [before, after] = [of(codes), of(codes.map((v, i) => (i === k ? v + 1 : v)))]
          const most = Math.max(...after.map((v, i) => 255 * Math.abs(v - before[i]!)))
          expect(most, String(codes)).toBeLessThan(2.5)
        }
  })
})
