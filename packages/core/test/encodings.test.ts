import Color from 'colorjs.io'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { ACESCC, PQ, acesProxy, three, type Triple } from '../src/colour'
import {
  ENCODINGS,
  ENCODING_IDS,
  EncodingIdSchema,
  doubtOf,
  encodingById,
  greyNumber,
  isOfScreens,
  kneeIn,
  kneeOf,
  lightOfColour,
  numbersOf,
} from '../src/encodings'
import { NOTHING } from '../src/line'
import { Treatment, UNTREATED, deliveredIn, shownIn } from '../src/treat'

const light = (id: string, code: number): number => lightOfColour(encodingById(id), [code, code, code])[1]

describe('transfer functions against their standards', () => {
  // ITU-R BT.2408-7, table 1: cd/m2, per cent of PQ and of HLG on a display of 1000 cd/m2.
  it.each([
    ['grey card, 18 %', 26, 38, 38],
    ['reflectance 90 %', 179, 57, 73],
    ['diffuse white', 203, 58, 75],
  ])('PQ and HLG have %s where BT.2408 prints it', (_, nits, pq, hlg) => {
    expect(Math.round(100 * PQ.encode(nits))).toBe(pq)
    expect(Math.round(100 * greyNumber(encodingById('hlg'), nits / 203))).toBe(hlg)
    expect(light('pq:0', PQ.encode(nits))).toBeCloseTo(nits / 203, 4)
  })
  it('PQ goes from nothing to 10 000 cd/m2 (ST 2084)', () => {
    expect(PQ.decode(0)).toBe(0)
    expect(PQ.decode(1)).toBeCloseTo(10_000, 6)
    expect(PQ.encode(100)).toBeCloseTo(0.5081, 4)
  })
  it('ACEScc and ACESproxy have the values of the Academy', () => {
    // S-2014-003 and S-2013-001: 18 % grey and nothing.
    expect(ACESCC.encode(0.18)).toBeCloseTo(0.4135884, 6)
    expect(ACESCC.encode(0)).toBeCloseTo(-0.3584475, 6)
    expect(Math.round(1023 * acesProxy(10).encode(0.18))).toBe(426)
    expect(Math.round(4095 * acesProxy(12).encode(0.18))).toBe(1705)
    expect(Math.round(1023 * acesProxy(10).encode(0))).toBe(64)
    expect(Math.round(1023 * acesProxy(10).encode(1e6))).toBe(940)
  })
})

/** Spaces of colorjs.io that mean the same. PQ there has its white at 203 cd/m2, and HLG is the camera's light. */
const SAME: Readonly<Record<string, string>> = {
  srgb: 'srgb',
  p3: 'p3',
  'linear-p3': 'p3-linear',
  'linear-bt2020': 'rec2020-linear',
  'linear-ap1': 'acescg',
  acescc: 'acescc',
  'pq-scene': 'rec2100pq',
  'hlg-scene': 'rec2100hlg',
}

describe('encodings', () => {
  it.each(Object.entries(SAME))('%s means what colorjs.io means by %s', (id, space) => {
    const encoding = encodingById(id)
    for (const numbers of [
      [0.2, 0.5, 0.7],
      [0.35, 0.35, 0.35],
      [0.6, 0.1, 0.3],
      [0.05, 0.42, 0.02],
    ] as const) {
      const expected = new Color(space, [...numbers]).to('srgb-linear').coords as number[]
      lightOfColour(encoding, numbers).forEach((v, k) =>
        expect(Math.abs(v - expected[k]!), `${numbers.join()} ${k}`).toBeLessThan(
          3e-4 * Math.max(1, Math.abs(expected[k]!)),
        ),
      )
    }
  })

  it('come back, as far as what they say goes', () => {
    const out = three()
    fc.assert(
      fc.property(
        fc.constantFrom(...ENCODINGS),
        fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0.15, max: 0.5, noNaN: true }))),
        (encoding, colour) => {
          // Light within the gamut of BT.709, so that nothing is cut off.
          const numbers = numbersOf(encoding)
          numbers(colour[0]!, colour[1]!, colour[2]!, out)
          const back = lightOfColour(encoding, [out[0], out[1], out[2]])
          back.forEach((v, k) => expect(Math.abs(v - colour[k]!)).toBeLessThan(1e-6))
        },
      ),
    )
  })

  it('are asked for by their ids alone, high range with its knee', () => {
    const fits = new RegExp(EncodingIdSchema.pattern)
    for (const id of [...ENCODING_IDS, 'pq:0', 'hlg:100', 'pq:35']) {
      expect(fits.test(id), id).toBe(true)
      expect(encodingById(id).label).not.toBe('')
    }
    for (const id of ['', 'bt1887', 'pq:101', 'pq:', 'pq:-1', 'srgb:20', 'PQ']) {
      expect(fits.test(id), id).toBe(false)
      expect(() => encodingById(id)).toThrow(`'${id}' is not an encoding; use one of: bt1886, srgb`)
    }
    expect(kneeIn('pq')).toEqual({ of: 'pq', knee: 50 })
    expect(kneeIn('srgb')).toBeNull()
  })

  it('are shown as a screen takes them, and delivered as they came', () => {
    expect(ENCODINGS.filter(isOfScreens).map((e) => e.id)).toEqual(['bt1886', 'srgb', 'bt709'])
    expect(['pq', 'p3', 'acescc', 'srgb'].map(shownIn)).toEqual(['bt1886', 'bt1886', 'bt1886', 'srgb'])
    expect(['pq:20', 'p3', 'acescc', 'srgb'].map(deliveredIn)).toEqual(['pq', 'p3', 'bt1886', 'srgb'])
  })
})

it('printing density has white at code 685 and the base at 95, and 0.6 of density is tenfold light', () => {
  const e = encodingById('printing-density')
  const light = (code: number): number => lightOfColour(e, [code / 1023, code / 1023, code / 1023])[1]
  expect(light(685)).toBeCloseTo(1, 5)
  expect(light(95)).toBeCloseTo(0, 5)
  // 300 codes of 0.002 are 0.6 of density; the base takes a hundredth off both.
  const clear = 10 ** (-590 / 300)
  expect((light(685) * (1 - clear) + clear) / (light(385) * (1 - clear) + clear)).toBeCloseTo(10, 3)
  for (const code of [200, 445, 685, 900]) expect(1023 * greyNumber(e, light(code))).toBeCloseTo(code, 2)
})

describe('doubts', () => {
  const doubt = (id: string, low: number, high: number, bits: number | null = 10) =>
    doubtOf(encodingById(id), { low, high }, bits)
  it('are told of footage that uses codes as another kind of encoding does', () => {
    expect(doubt('bt1886', 0.09, 0.62)).toBe(
      'Its codes run from 9 to 62 %, as those of a camera’s log curve do. Is it not finished video?',
    )
    expect(doubt('acescct', 0, 1)).toMatch(/from 0 to 100 %, as those of finished video do/)
    expect(doubt('linear', 0, 1, 10)).toMatch(/have 10 bits, and light without a curve needs more/)
  })
  it('are not told of what is as it should be, or cannot be known', () => {
    expect(doubt('bt1886', 0, 0.95)).toBeNull()
    expect(doubt('srgb', 0.01, 0.4)).toBeNull()
    expect(doubt('acescct', 0.07, 0.7)).toBeNull()
    expect(doubt('linear', 0, 1, 16)).toBeNull()
    expect(doubt('linear', 0, 1, null)).toBeNull()
    expect(doubtOf(encodingById('bt1886'), null, 10)).toBeNull()
    expect(doubt('pq', 0.1, 0.6)).toBeNull()
  })
  it('are of a display’s curve that was laid on twice or not at all, by the middle of the codes', () => {
    const middle = (id: string, at: number, low = 0) => doubtOf(encodingById(id), { low, high: 1, middle: at }, 10)
    // Light of 0.1 in video has the code 0.1^(1/2.4) = 0.38; once more it is 0.67, and a dark 0.02 is 0.2.
    expect(middle('bt1886', 0.67, 0.2)).toMatch(/above 67 %. Was the curve of a display laid on it twice/)
    expect(middle('srgb', 0.05)).toMatch(/below 5 %. Is it light without a curve/)
    // Neither a bright sky over dark things is in doubt, nor fog.
    expect(middle('bt1886', 0.87, 0.01)).toBeNull()
    expect(middle('bt1886', 0.68, 0.14)).toBeNull()
    expect(middle('bt1886', 0.38)).toBeNull()
  })
})

describe('the knee', () => {
  it('leaves what lies below it, meets it smoothly, and has the peak at white', () => {
    for (const knee of [0, 20, 50, 100]) {
      const begin = 1 - knee / 200
      for (const v of [0, 0.1, 0.4, begin]) expect(kneeOf(v, knee)).toBe(v)
      expect(kneeOf(1000 / 203, knee)).toBeCloseTo(1, 9)
      let before = 0
      for (let v = 0; v < 6; v += 0.01) {
        const now = kneeOf(v, knee)
        expect(now).toBeGreaterThanOrEqual(before)
        expect(now).toBeLessThanOrEqual(1)
        before = now
      }
      if (knee > 0) expect((kneeOf(begin + 1e-4, knee) - begin) / 1e-4).toBeCloseTo(1, 2)
    }
  })
})

describe('high-range footage through the program', () => {
  const N = 400
  const treated = (id: string, codes: Uint16Array, to: string): Float32Array => {
    const frame = { data: codes, format: 'u16', width: N, height: 1, frame: 0 } as const
    return new Treatment().run(frame, { ...UNTREATED, recipe: NOTHING, encoding: id }, to).pixels.slice()
  }
  it.each(['pq', 'hlg', 'pq:20', 'hlg:80'])('%s goes in and out through no bath within a code of 10 bits', (id) => {
    const knee = 1 - kneeIn(id)!.knee / 200
    const inside: Triple[] = Array.from({ length: N }, (_, i) => {
      const level = (knee * (i + 1)) / N
      return i % 2 === 0 ? [level, level, level] : [level, 0.7 * level, 0.45 * level]
    })
    const out = three()
    const numbers = numbersOf(encodingById(id))
    const codes = Uint16Array.from(
      inside.flatMap((c) => {
        numbers(...c, out)
        return [...out].map((v) => Math.round(65535 * v))
      }),
    )
    const back = treated(id, codes, deliveredIn(id))
    let worst = 0
    for (let i = 0; i < N; i++)
      for (let k = 0; k < 3; k++) worst = Math.max(worst, Math.abs(back[4 * i + k]! - codes[3 * i + k]! / 65535))
    expect(worst).toBeLessThan(1 / 1023)
  })
  it('sends display white out at 203 cd/m2', () => {
    const white = new Uint16Array(3 * N).fill(65535)
    expect(PQ.decode(treated('bt1886', white, 'pq')[1]!)).toBeCloseTo(203, 0)
    expect(treated('bt1886', white, 'hlg')[1]).toBeCloseTo(0.75, 2)
  })
})
