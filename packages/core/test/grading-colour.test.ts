import { describe, expect, it } from 'vitest'
import { GREY_CODE } from '../src/baths'
import { codeChroma, codeLuma, towards, turnOf, type Triple } from '../src/colour'
import { allBaths, completeRecipe, type Recipe } from '../src/line'
import { throughBath, COLOURS, close, greyOf } from './helpers'

describe('the channel mixer', () => {
  it('keeps the brightness of greys where a black-and-white mix adds up to 100 %', () => {
    const settings = { output: 'mono', monoRed: 150, monoGreen: -20, monoBlue: -30, holdNeutrals: false }
    close(greyOf('mixer', settings, 0.37), [0.37, 0.37, 0.37])
    close(greyOf('mixer', { output: 'mono', monoRed: 60, monoGreen: 90, monoBlue: 0 }, 0.37), [0.37, 0.37, 0.37])
    expect(greyOf('mixer', { ...settings, monoRed: 160 }, 0.5)[0]).toBeCloseTo(0.55, 6)
  })
  it('exchanges channels, holds neutrals and light', () => {
    const swap = { redFromRed: 0, redFromBlue: 100, blueFromBlue: 0, blueFromRed: 100 }
    close(throughBath('mixer', swap, [0.1, 0.2, 0.6]), [0.6, 0.2, 0.1])
    const odd = { redFromGreen: 60, greenFromBlue: -40, blueFromRed: 70 }
    close(greyOf('mixer', odd, 0.6), [0.6, 0.6, 0.6])
    for (const colour of COLOURS)
      expect(codeLuma(...throughBath('mixer', { ...odd, holdLight: true }, colour))).toBeCloseTo(codeLuma(...colour), 9)
    close(throughBath('mixer', { redOffset: 10, holdNeutrals: false }, [0.2, 0.2, 0.2]), [0.3, 0.2, 0.2])
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
    const out = throughBath('hue-response', settings, red)
    expect(turnOf(...out)).toBeCloseTo(0.5 / 6, 3)
    expect(codeLuma(...out)).toBeCloseTo(codeLuma(...red), 9)
    expect(codeChroma(...out)).toBeCloseTo(codeChroma(...red), 6)
    close(throughBath('hue-response', settings, [0.3, 0.7, 0.7]), [0.3, 0.7, 0.7], 4)
    close(greyOf('hue-response', settings, 0.4), [0.4, 0.4, 0.4], 9)
  })
  it('drain to a grey of the same luma, double chroma, darken with it', () => {
    const green: Triple = [0.2, 0.6, 0.3]
    const all = (name: string, y: number) =>
      throughBath(
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
    expect(Math.abs(360 * turnOf(...throughBath('hue-response', { skin: 60 }, off)) - 20)).toBeLessThan(before)
    close(throughBath('hue-response', { skin: 60 }, [0.3, 0.5, 0.8]), [0.3, 0.5, 0.8], 6)
  })
  it('saturation keeps luma, spares what is strong, and lets chroma rise everywhere', () => {
    for (const colour of COLOURS) {
      expect(codeLuma(...throughBath('saturation', { overall: 180 }, colour))).toBeCloseTo(codeLuma(...colour), 9)
      close(
        throughBath('saturation', { overall: 0 }, colour),
        [1, 1, 1].map(() => codeLuma(...colour)),
        9,
      )
    }
    const gain = (c: number): number => {
      const [r, g, b] = towards(0.1, c).map((v) => v + 0.5) as [number, number, number]
      return codeChroma(...throughBath('saturation', { overall: 200, knee: 100 }, [r, g, b]))
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

describe('the balance of a split tone', () => {
  it('leans to the side that it names: towards lights more tones take the colour of the lights', () => {
    const [side, share] = [
      { lightsAmount: 100, darksAmount: 0, mids: 0 },
      (lean: number) => {
        const tones = Array.from({ length: 60 }, (_, i) => 0.2 + i / 100)
        return tones.filter((v) => codeChroma(...greyOf('split-by-hand', { ...side, lean }, v)) > 0.02).length
      },
    ]
    expect(share(60)).toBeGreaterThan(share(0) + 5)
    expect(share(-60)).toBeLessThan(share(0) - 5)
  })
  it('is read from lines that were kept when it was said the other way, wherever the bath stands', () => {
    const old = { kind: 'split-by-hand', settings: { balance: 30, mids: 10 } }
    const line = completeRecipe({ baths: [old, { kind: 'strand', settings: { baths: [old] } }] }) as Recipe
    for (const { settings } of allBaths(line).filter((b) => b.kind === 'split-by-hand')) {
      expect(settings).toMatchObject({ lean: -30, mids: 10 })
      expect(settings).not.toHaveProperty('balance')
    }
    expect(completeRecipe(line)).toEqual(line)
  })
})

describe('one colour changed', () => {
  const settings = { picked: '#4070b0', to: '#b06040', reach: 80 }
  it('turns that colour into the other and leaves greys and other colours', () => {
    const codes = [0x40, 0x70, 0xb0].map((v) => v / 255) as unknown as Triple
    close(
      throughBath('picked-colour', settings, codes),
      [0xb0, 0x60, 0x40].map((v) => v / 255),
      1,
    )
    for (const v of [0.1, 0.5, 0.9]) close(greyOf('picked-colour', settings, v), [v, v, v], 4)
    close(throughBath('picked-colour', settings, [0.7, 0.3, 0.3]), [0.7, 0.3, 0.3], 4)
    const drained = throughBath('picked-colour', { ...settings, becomes: 'drained' }, codes)
    expect(codeChroma(...drained)).toBeLessThan(0.03)
  })
})
