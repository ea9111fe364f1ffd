import { describe, expect, it } from 'vitest'
import {
  GREY_CODE,
  KINDS,
  SHIPPED_RECIPES,
  changeSettings,
  checkRecipe,
  codeChroma,
  codeLuma,
  compileLine,
  completeRecipe,
  duplicateBath,
  emit8,
  findBath,
  kindById,
  monotoneCubic,
  newBath,
  placeInLine,
  plainLine,
  recipeToCube,
  removeBath,
  plainStages,
  Pictures,
  towards,
  turnOf,
  type Recipe,
  type Triple,
} from '../src'
import { lineOf, ran, settingsOf, shipped, wideColours } from './helpers'
import { maskOf, part } from './mask-helpers'

type Settings = Record<string, unknown>
/** What a bath makes of code values. */
function codesOf(kind: string, settings: Settings, codes: Triple): Triple {
  const out = new Float64Array(3)
  plainStages(kindById(kind).stages(settingsOf(kind, settings)))(...codes, out)
  return [out[0]!, out[1]!, out[2]!]
}
const greyOf = (kind: string, settings: Settings, v: number): Triple => codesOf(kind, settings, [v, v, v])
const RAMP = Array.from({ length: 256 }, (_, i) => i / 255)
const COLOURS: readonly Triple[] = [
  [0.8, 0.3, 0.2],
  [0.2, 0.6, 0.3],
  [0.25, 0.35, 0.75],
  [0.7, 0.55, 0.45],
  [0.1, 0.12, 0.3],
]
/** A mask that lets nothing through: it lies far outside. */
const NOTHING = maskOf([part('rectangle', { x: -40, y: -40, width: 1, height: 1, edge: 0 })])
const close = (a: readonly number[], b: readonly number[], digits = 6): void =>
  a.forEach((v, k) => expect(v).toBeCloseTo(b[k]!, digits))

describe('monotone cubics', () => {
  // R 4.2.2, splinefun(x, y, method = "monoH.FC"); the first points are those that Fritsch and Carlson show (RPN 14).
  it('are those of Fritsch and Carlson, as R works them out', () => {
    const x = [7.99, 8.09, 8.19, 8.7, 9.2, 10, 12, 15, 20]
    const y = [0, 2.76429e-5, 4.37498e-2, 0.169183, 0.469428, 0.94374, 0.998636, 0.999919, 0.999994]
    const f = monotoneCubic(x.map((v, i) => [v, y[i]!]))
    const asked = [8.04, 8.14, 8.4, 9, 9.5, 9.8, 11, 13, 17]
    const told = [
      3.46847019623e-6, 1.76292811418e-2, 9.33312578717e-2, 0.341094578824, 0.683643914876, 0.882750263801,
      0.991433070542, 0.999528018406, 0.999973050849,
    ]
    close(asked.map(f), told, 10)
    const g = monotoneCubic([
      [0, 0],
      [0.25, 0.1],
      [0.5, 0.7],
      [0.8, 0.75],
      [1, 1],
    ])
    close(
      [0.1, 0.2, 0.3, 0.4, 0.6, 0.7, 0.9].map(g),
      [0.016, 0.048, 0.203698020985, 0.506641094435, 0.727049206113, 0.736026364883, 0.849790345297],
      10,
    )
  })
})

describe('contrast', () => {
  it.each([-100, -40, 30, 100])('of %s %% leaves the pivot and the ends, rises everywhere, has its slope', (amount) => {
    for (const pivot of [5, 18, 60]) {
      const at = (pivot / 100) ** (1 / 2.4)
      const settings = { amount, pivot, toe: 100, shoulder: 100 }
      close(greyOf('contrast', settings, at), [at, at, at], 9)
      close(greyOf('contrast', settings, 0), [0, 0, 0])
      close(greyOf('contrast', settings, 1), [1, 1, 1])
      const ramp = RAMP.map((v) => greyOf('contrast', settings, v)[0])
      ramp.slice(1).forEach((v, i) => expect(v).toBeGreaterThan(ramp[i]!))
      const h = 1e-4
      const slope = (greyOf('contrast', settings, at + h)[0] - greyOf('contrast', settings, at - h)[0]) / (2 * h)
      expect(slope).toBeCloseTo(2 ** (amount / 100), 2)
    }
  })
  it('of light alone leaves the differences of the channels, and so hue and chroma, as they are', () => {
    for (const colour of COLOURS) {
      const out = codesOf('contrast', { amount: 70, works: 'light' }, colour)
      expect(out[0] - out[1]).toBeCloseTo(colour[0] - colour[1], 6)
      expect(out[2] - out[1]).toBeCloseTo(colour[2] - colour[1], 6)
      expect(codeChroma(...codesOf('contrast', { amount: 70 }, colour))).not.toBeCloseTo(codeChroma(...colour), 2)
    }
  })
})

describe('curves', () => {
  const bent = [
    [0, 0.1],
    [0.5, 0.3],
    [1, 0.9],
  ]
  it('go through their points, all before each', () => {
    for (const [x, y] of bent) expect(greyOf('curves', { master: bent }, x!)[1]).toBeCloseTo(y!, 6)
    const both = greyOf(
      'curves',
      {
        master: bent,
        red: [
          [0, 0],
          [0.3, 0.6],
          [1, 1],
        ],
      },
      0.5,
    )
    close(both, [0.6, 0.3, 0.3], 4)
  })
  it('of single channels leave black and white where ends are kept neutral', () => {
    const settings = {
      red: bent,
      blue: [
        [0, 0.2],
        [1, 0.7],
      ],
    }
    close(greyOf('curves', settings, 0), [0, 0, 0])
    close(greyOf('curves', settings, 1), [1, 1, 1])
    expect(greyOf('curves', { ...settings, pinEnds: false }, 0)[0]).toBeCloseTo(0.1, 6)
  })
  it('leave a held range alone while the ends are moved, and still rise', () => {
    const settings = {
      red: [
        [0, 0],
        [0.2, 0.05],
        [0.85, 0.95],
        [1, 1],
      ],
      hold: true,
      holdAt: 50,
      holdWidth: 20,
    }
    for (const v of [0.416, 0.45, 0.5, 0.55, 0.584]) expect(greyOf('curves', settings, v)[0]).toBeCloseTo(v, 3)
    expect(greyOf('curves', settings, 0.2)[0]).toBeCloseTo(0.05, 6)
    const ramp = RAMP.map((v) => greyOf('curves', settings, v)[0])
    ramp.slice(1).forEach((v, i) => expect(v).toBeGreaterThanOrEqual(ramp[i]!))
  })
  it('are refused where points do not go from left to right, with the point named', () => {
    const crossed = lineOf('curves', {
      red: [
        [0, 0],
        [0.6, 0.5],
        [0.4, 0.6],
        [1, 1],
      ],
    })
    expect(() => checkRecipe(crossed)).toThrow(/point 3 of 'red' stands at 0.4.*before it at 0.6.*from left to right/)
    const circle = lineOf('hue-response', {
      turns: [
        [0, 0.1],
        [0.5, 0],
        [1, 0.2],
      ],
    })
    expect(() => checkRecipe(circle)).toThrow(/first and the last point of 'turns' are the same hue/)
  })
})

describe('ranges of tone', () => {
  it('share every tone out, and rise whatever their levels', () => {
    for (const [darksLevel, midsLevel, lightsLevel] of [
      [100, -100, 100],
      [-100, 100, -100],
      [100, 100, -100],
    ])
      for (const overlap of [4, 40]) {
        const settings = { darksLevel, midsLevel, lightsLevel, overlap, darksEnd: 30, lightsBegin: 70 }
        const ramp = RAMP.map((v) => greyOf('ranges', settings, v)[0])
        if (overlap === 40) ramp.slice(1).forEach((v, i) => expect(v, `${i}`).toBeGreaterThan(ramp[i]! - 1e-3))
        expect(ramp[0]).toBeCloseTo(0, 9)
        expect(ramp[255]).toBeCloseTo(1, 9)
      }
  })
  it('colour their own tones, leave luma, and leave black and white', () => {
    const settings = { darksHue: 240, darksAmount: 80 }
    const [dark, light] = [greyOf('ranges', settings, 0.2), greyOf('ranges', settings, 0.85)]
    expect(turnOf(...dark)).toBeCloseTo(2 / 3, 3)
    expect(codeLuma(...dark)).toBeCloseTo(0.2, 9)
    close(light, [0.85, 0.85, 0.85])
    close(greyOf('ranges', { ...settings, allHue: 30, allAmount: 100 }, 0), [0, 0, 0])
    close(greyOf('ranges', { ...settings, allHue: 30, allAmount: 100 }, 1), [1, 1, 1])
  })
})

describe('the channel mixer', () => {
  it('keeps the brightness of greys where a black-and-white mix adds up to 100 %', () => {
    const settings = { output: 'mono', monoRed: 150, monoGreen: -20, monoBlue: -30, holdNeutrals: false }
    close(greyOf('mixer', settings, 0.37), [0.37, 0.37, 0.37])
    close(greyOf('mixer', { output: 'mono', monoRed: 60, monoGreen: 90, monoBlue: 0 }, 0.37), [0.37, 0.37, 0.37])
    expect(greyOf('mixer', { ...settings, monoRed: 160 }, 0.5)[0]).toBeCloseTo(0.55, 6)
  })
  it('exchanges channels, holds neutrals and light', () => {
    const swap = { redFromRed: 0, redFromBlue: 100, blueFromBlue: 0, blueFromRed: 100 }
    close(codesOf('mixer', swap, [0.1, 0.2, 0.6]), [0.6, 0.2, 0.1])
    const odd = { redFromGreen: 60, greenFromBlue: -40, blueFromRed: 70 }
    close(greyOf('mixer', odd, 0.6), [0.6, 0.6, 0.6])
    for (const colour of COLOURS)
      expect(codeLuma(...codesOf('mixer', { ...odd, holdLight: true }, colour))).toBeCloseTo(codeLuma(...colour), 9)
    close(codesOf('mixer', { redOffset: 10, holdNeutrals: false }, [0.2, 0.2, 0.2]), [0.3, 0.2, 0.2])
  })
})

describe('hues and saturation', () => {
  it('turn the hue that is named, keep luma, and leave grey and the other hues alone', () => {
    const settings = {
      turns: [
        [0, 0.5],
        [0.15, 0],
        [0.5, 0],
        [0.85, 0],
      ],
    }
    const red: Triple = [0.7, 0.3, 0.3]
    const out = codesOf('hue-response', settings, red)
    expect(turnOf(...out)).toBeCloseTo(0.5 / 6, 3)
    expect(codeLuma(...out)).toBeCloseTo(codeLuma(...red), 9)
    expect(codeChroma(...out)).toBeCloseTo(codeChroma(...red), 6)
    close(codesOf('hue-response', settings, [0.3, 0.7, 0.7]), [0.3, 0.7, 0.7], 4)
    close(greyOf('hue-response', settings, 0.4), [0.4, 0.4, 0.4], 9)
  })
  it('drain to a grey of the same luma, double chroma, darken with it', () => {
    const green: Triple = [0.2, 0.6, 0.3]
    const all = (name: string, y: number) =>
      codesOf(
        'hue-response',
        {
          [name]: [
            [0.1, y],
            [0.6, y],
          ],
        },
        green,
      )
    close(
      all('chromas', -1),
      [1, 1, 1].map(() => codeLuma(...green)),
      9,
    )
    expect(codeChroma(...all('chromas', 1))).toBeCloseTo(2 * codeChroma(...green), 6)
    const dense = all('densities', 1)
    dense.forEach((v, k) => expect(v / green[k]!).toBeCloseTo(1 - 0.7 * codeChroma(...green), 6))
    expect(codeLuma(...all('lights', 1))).toBeCloseTo(1.6 * codeLuma(...green), 6)
  })
  it('draw skin to its line and leave a sky alone', () => {
    const off: Triple = [0.75, 0.52, 0.5]
    const before = Math.abs(360 * turnOf(...off) - 20)
    expect(Math.abs(360 * turnOf(...codesOf('hue-response', { skin: 60 }, off)) - 20)).toBeLessThan(before)
    close(codesOf('hue-response', { skin: 60 }, [0.3, 0.5, 0.8]), [0.3, 0.5, 0.8], 6)
  })
  it('saturation keeps luma, spares what is strong, and lets chroma rise everywhere', () => {
    for (const colour of COLOURS) {
      expect(codeLuma(...codesOf('saturation', { overall: 180 }, colour))).toBeCloseTo(codeLuma(...colour), 9)
      close(
        codesOf('saturation', { overall: 0 }, colour),
        [1, 1, 1].map(() => codeLuma(...colour)),
        9,
      )
    }
    const gain = (c: number): number => {
      const [r, g, b] = towards(0.1, c).map((v) => v + 0.5) as [number, number, number]
      return codeChroma(...codesOf('saturation', { overall: 200, knee: 100 }, [r, g, b]))
    }
    expect(gain(0.05) / 0.05).toBeGreaterThan(1.7)
    expect(gain(0.8) / 0.8).toBeLessThan(1.15)
    for (let c = 0.02; c < 1; c += 0.02) expect(gain(c)).toBeGreaterThan(gain(c - 0.02))
  })
})

describe('a split tone by hand', () => {
  const strong = { lightsAmount: 100, darksAmount: 100 }
  it('leaves black and white without colour, 18 % grey nearly so, and luma everywhere', () => {
    for (const v of [0, 1]) close(greyOf('split-by-hand', strong, v), [v, v, v], 9)
    expect(codeChroma(...greyOf('split-by-hand', strong, GREY_CODE))).toBeLessThan(0.005)
    for (const v of [0.2, 0.3, 0.7, 0.8]) expect(codeLuma(...greyOf('split-by-hand', strong, v))).toBeCloseTo(v, 9)
    expect(turnOf(...greyOf('split-by-hand', strong, 0.72)) * 360).toBeCloseTo(42, 1)
    expect(turnOf(...greyOf('split-by-hand', strong, 0.22)) * 360).toBeCloseTo(222, 1)
  })
})

describe('one colour changed', () => {
  const settings = { picked: '#4070b0', to: '#b06040', reach: 80 }
  it('turns that colour into the other and leaves greys and other colours', () => {
    const codes = [0x40, 0x70, 0xb0].map((v) => v / 255) as unknown as Triple
    close(
      codesOf('picked-colour', settings, codes),
      [0xb0, 0x60, 0x40].map((v) => v / 255),
      1,
    )
    for (const v of [0.1, 0.5, 0.9]) close(greyOf('picked-colour', settings, v), [v, v, v], 4)
    close(codesOf('picked-colour', settings, [0.7, 0.3, 0.3]), [0.7, 0.3, 0.3], 4)
    const drained = codesOf('picked-colour', { ...settings, becomes: 'drained' }, codes)
    expect(codeChroma(...drained)).toBeLessThan(0.03)
  })
})

describe('laying', () => {
  const over = (baths: Recipe['baths']) => {
    const out = new Float64Array(3)
    plainLine({ ...shipped('plain'), baths }, undefined, 'display')(0.2, 0.5, 0.4, out)
    return [...out] as unknown as Triple
  }
  const veil = newBath('veil', 'v', { colour: '#ff8000' })
  it('of half the strength is half the difference; of two veils, the order counts', () => {
    const full = over([{ ...veil, strength: 100 }])
    const half = over([{ ...veil, strength: 50 }])
    half.forEach((v, k) => expect(v).toBeCloseTo((full[k]! + [0.2, 0.5, 0.4][k]!) / 2, 9))
    const other = { ...newBath('veil', 'w', { colour: '#2040c0' }), strength: 60 }
    expect(over([veil, other])).not.toEqual(over([other, veil]))
  })
  it('a copy of the camera’s picture is what no process has touched', () => {
    const print = newBath('colour-print', 'p', { bleachPrint: 0 })
    const copy = { ...newBath('overlay', 'o', { mono: false }), takes: 'camera' as const, lay: 'normal' as const }
    const [r, g, b] = over([print, copy])
    expect([r, g, b].map((v) => Math.round(1e6 * v) / 1e6)).toEqual([0.2, 0.5, 0.4])
  })
})

describe('a strand', () => {
  const print = newBath('colour-print', 'p', { bleachPrint: 40 })
  const tone = newBath('contrast', 'c', { amount: 60 })
  const ramp = newBath('split-by-hand', 's')
  const strandOf = (baths: Recipe['baths'], how: Partial<Recipe['baths'][number]>) => ({
    ...newBath('strand', 'x', { baths }),
    ...how,
  })
  const line = (baths: Recipe['baths']): Recipe => ({ ...shipped('plain'), baths })
  const colours = wideColours(3000)
  const code = (recipe: Recipe): Float32Array => ran(compileLine(recipe), colours, 3000, 1)

  it.each([
    ['of the line, over all of it', 'line', 100, 'normal'],
    ['of the camera, half', 'camera', 50, 'normal'],
    ['multiplied', 'line', 60, 'multiply'],
  ] as const)('%s does compiled what it does in the plain form', (_, takes, strength, lay) => {
    const recipe = line([print, strandOf([{ ...print, id: 'q' }, ramp], { takes, strength, lay }), tone])
    const made = code(recipe)
    const plain = plainLine(recipe)
    const out = new Float64Array(3)
    let most = 0
    for (let i = 0; i < 3000; i++) {
      plain(colours[4 * i]!, colours[4 * i + 1]!, colours[4 * i + 2]!, out)
      for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(made[4 * i + k]! - out[k]!))
    }
    expect(most).toBeLessThan(0.012)
  })
  it('over all of the line is the same as its baths in the line', () => {
    const own = code(line([print, tone, ramp]))
    const apart = code(line([print, strandOf([tone, ramp], { takes: 'line', strength: 100 })]))
    expect(Math.max(...own.map((v, i) => Math.abs(v - apart[i]!)))).toBeLessThan(2e-6)
  })
  it('from the camera begins with the picture that no process has touched', () => {
    const veil = { ...newBath('veil', 'v'), strength: 0 }
    const untreated = code(line([]))
    const apart = code(line([print, strandOf([veil], { takes: 'camera', strength: 100 })]))
    expect(Math.max(...untreated.map((v, i) => Math.abs(v - apart[i]!)))).toBeLessThan(2e-6)
  })
  it('leaves the line where its mask lets nothing through', () => {
    const shut = { ...strandOf([tone], { takes: 'line', strength: 100 }), mask: NOTHING }
    const [own, apart] = [code(line([print])), code(line([print, shut]))]
    expect(Math.max(...own.map((v, i) => Math.abs(v - apart[i]!)))).toBeLessThan(2e-6)
  })
  it('is edited inside: its baths are found, changed, copied with ids of their own, and taken away', () => {
    const recipe = line([print, strandOf([tone, ramp], {})])
    expect(findBath(recipe, 'c')).toBe(tone)
    expect(placeInLine(recipe, 's')).toBe(1)
    const changed = changeSettings(recipe, 'c', { amount: 10 })
    expect(findBath(changed, 'c')!.settings['amount']).toBe(10)
    expect(changed.baths[0]).toBe(recipe.baths[0])
    const twice = duplicateBath(recipe, 'x')
    expect(checkRecipe(twice).baths).toHaveLength(3)
    expect(duplicateBath(recipe, 'c').baths[1]!.settings['baths']).toHaveLength(3)
    expect(findBath(removeBath(recipe, 's'), 's')).toBeUndefined()
  })
  it('is completed and checked as a line is, with the place of what is wrong', () => {
    const short = { baths: [{ kind: 'strand', settings: { baths: [{ kind: 'contrast' }] } }] }
    const whole = completeRecipe(short) as Recipe
    expect((whole.baths[0]!.settings['baths'] as Recipe['baths'])[0]!.settings).toMatchObject({ pivot: 18 })
    expect(() => checkRecipe(line([print, strandOf([print], {})]))).toThrow(/Two baths have the id 'p'/)
    expect(() => checkRecipe(line([strandOf([tone, { ...print, id: 'q' }], {})]))).toThrow(
      /Bath 2 \(colour-print\) stands too late/,
    )
    expect(() => recipeToCube(line([strandOf([{ ...tone, mask: NOTHING }], {})]), 5)).toThrow(/has a mask/)
  })
})

describe('every recipe of grading', () => {
  const graded = SHIPPED_RECIPES.filter((r) => r.baths.some((b) => kindById(b.kind).stretch === 'finish'))
  it.each(graded.map((r) => [r.id, r] as const))(
    '%s does not let a grey ramp fall, nor band after dither',
    (_, recipe) => {
      const n = 4096
      const wide = new Float32Array(4 * n * 8)
      for (let i = 0; i < wide.length; i += 4) wide.fill(((i / 4) % n) / (n - 1), i, i + 4)
      const made = ran(compileLine(recipe, { refers: 'display' }), wide, n, 8)
      const luma = Array.from({ length: n }, (_, i) => codeLuma(made[4 * i]!, made[4 * i + 1]!, made[4 * i + 2]!))
      luma.slice(1).forEach((v, i) => expect(v).toBeGreaterThan(luma[i]! - 2e-4))
      // Dithered to 8 bits, the mean of 8 rows and 33 columns is the unrounded mean within a quarter of a code.
      const picture = new Pictures().copy('ramp', made)
      const eight = new Uint8ClampedArray(4 * n * 8)
      emit8(picture, eight, 3)
      let worst = 0
      for (let x = 40; x < n - 40; x += 61) {
        let [got, true_] = [0, 0]
        for (let dx = -16; dx <= 16; dx++)
          for (let y = 0; y < 8; y++) {
            got += eight[4 * (y * n + x + dx) + 1]!
            true_ += 255 * made[4 * (y * n + x + dx) + 1]!
          }
        worst = Math.max(worst, Math.abs(got - true_) / (33 * 8))
      }
      expect(worst).toBeLessThan(0.25)
    },
  )
})

it('kinds that do nothing at first say so, and are shown with a sample that does something', () => {
  for (const kind of KINDS) {
    const settings = settingsOf(kind.id)
    const idle = kind.idle(settings) !== null
    if (!['input-lut', 'strand'].includes(kind.id)) expect(kind.sample !== undefined, kind.id).toBe(idle)
    if (kind.sample) expect(kind.idle({ ...settings, ...kind.sample }), kind.id).toBeNull()
  }
})
