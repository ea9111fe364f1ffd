import { describe, expect, it } from 'vitest'
import { KINDS, kindById } from '../src/baths'
import { codeChroma, codeLuma, turnOf, type Triple, three } from '../src/colour'
import { emit8, Pictures } from '../src/cpu'
import { checkRecipe, compileLine, newBath, plainLine, type Recipe } from '../src/line'
import { monotoneCubic } from '../src/numbers'
import { SHIPPED_RECIPES } from '../src/recipes'
import { lineOf, ran, settingsOf, shipped, throughBath, COLOURS, close, greyOf } from './helpers'

const RAMP = Array.from({ length: 256 }, (_, i) => i / 255)

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
      const out = throughBath('contrast', { amount: 70, works: 'light' }, colour)
      expect(out[0] - out[1]).toBeCloseTo(colour[0] - colour[1], 6)
      expect(out[2] - out[1]).toBeCloseTo(colour[2] - colour[1], 6)
      expect(codeChroma(...throughBath('contrast', { amount: 70 }, colour))).not.toBeCloseTo(codeChroma(...colour), 2)
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

describe('laying', () => {
  const over = (baths: Recipe['baths']) => {
    const out = three()
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

describe('every recipe of grading', () => {
  const graded = SHIPPED_RECIPES.filter((r) => r.baths.some((b) => kindById(b.kind).stretch === 'finish'))
  it.each(graded.map((r) => [r.id, r] as const))(
    '%s does not let a grey ramp fall, nor band after dither',
    (_, recipe) => {
      const n = 4096
      const wide = new Float32Array(4 * n * 8)
      for (let i = 0; i < wide.length; i += 4) wide.fill(((i / 4) % n) / (n - 1), i, i + 4)
      const made = ran(compileLine(recipe, { refers: 'display', colours: true }), wide, n, 8)
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
