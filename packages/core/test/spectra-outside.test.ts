import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import Color from 'colorjs.io'
import { afterAll, describe, expect, it } from 'vitest'
import { BT709_TO_XYZ, invert, transform, type Matrix3, type Triple, three } from '../src/colour'
import { makeProjection, projectPlain } from '../src/film'
import { PRINT_DYES, SAMPLES, nmAt, type LampName } from '../src/spectra'

/**
 * Spectral integrals against spec2cie of the colour management library Argyll (Debian), which has observer and
 * illuminants of its own and integrates what it is given at 10 nm in finer steps.
 */

const folder = mkdtempSync(join(tmpdir(), 'fogbath-spectra-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** Film without a dye, each dye alone at two amounts, mixtures, and a deep black. */
const AMOUNTS: readonly Triple[] = [
  [0, 0, 0],
  ...[0.4, 1.5].flatMap((a): Triple[] => [
    [a, 0, 0],
    [0, a, 0],
    [0, 0, a],
  ]),
  [0.2, 0.9, 0.5],
  [1.1, 0.3, 0.7],
  [0.6, 0.6, 1.6],
  [1, 1, 1],
  [2, 2, 2],
]

/** Transmittances of dye amounts, in per cent, by Beer's law straight from the spectra. */
const transmitted = (amounts: Triple): number[] =>
  Array.from({ length: SAMPLES }, (_, i) => 100 * 10 ** -amounts.reduce((d, a, k) => d + a * PRINT_DYES[k]![i]!, 0))

/** XYZ as Argyll integrates them, 100 for a clear film. */
function byArgyll(spectra: readonly number[][], illuminant: string): Triple[] {
  const fields = Array.from({ length: SAMPLES }, (_, i) => `SPEC_${nmAt(i)}`)
  const rows = spectra.map((s, i) => [i + 1, '0.0 0.0 0.0 1.0 1.0 1.0', ...s.map((v) => v.toFixed(6))].join(' '))
  const [taken, given] = [join(folder, 'taken.ti3'), join(folder, `${illuminant}.ti3`)]
  writeFileSync(
    taken,
    `CTI3

DESCRIPTOR "dyes"
ORIGINATOR "test"
DEVICE_CLASS "OUTPUT"
COLOR_REP "RGB_XYZ"
SPECTRAL_BANDS "${SAMPLES}"
SPECTRAL_START_NM "${nmAt(0)}.0"
SPECTRAL_END_NM "${nmAt(SAMPLES - 1)}.0"
NUMBER_OF_FIELDS ${7 + SAMPLES}
BEGIN_DATA_FORMAT
SAMPLE_ID RGB_R RGB_G RGB_B XYZ_X XYZ_Y XYZ_Z ${fields.join(' ')}
END_DATA_FORMAT
NUMBER_OF_SETS ${rows.length}
BEGIN_DATA
${rows.join('\n')}
END_DATA
`,
  )
  execFileSync('spec2cie', ['-n', '-i', illuminant, '-o', '1931_2', taken, given], { stdio: 'pipe' })
  const text = readFileSync(given, 'utf8')
  const names = /BEGIN_DATA_FORMAT\s+([\s\S]*?)\s+END_DATA_FORMAT/.exec(text)![1]!.split(/\s+/)
  const at = names.indexOf('XYZ_X')
  const data = /BEGIN_DATA\s+([\s\S]*?)\s+END_DATA\b(?!_)/.exec(text)![1]!
  return data.split('\n').map((line) => {
    const words = line.trim().split(/\s+/).map(Number)
    return [words[at]!, words[at + 1]!, words[at + 2]!] as const
  })
}

/** XYZ under D65 of the same films as the model shows them, with the display's own black taken off. */
function byModel(lamp: LampName): Triple[] {
  const project = projectPlain(makeProjection({ components: PRINT_DYES, lamp, clear: [0, 0, 0] }))
  const shown = (amounts: Triple): Triple => {
    const out = three()
    project(amounts, out)
    return [out[0]!, out[1]!, out[2]!]
  }
  const [black, white] = [shown([60, 60, 60]), shown([0, 0, 0])]
  return AMOUNTS.map((amounts) => {
    const rgb = shown(amounts).map((v, c) => (v - black[c]!) / (white[c]! - black[c]!)) as unknown as Triple
    return transform(BT709_TO_XYZ, rgb)
  })
}

/** The cone responses of the Bradford adaptation (CIE 159, linear form). */
const BRADFORD: Matrix3 = [
  [0.8951, 0.2664, -0.1614],
  [-0.7502, 1.7135, 0.0367],
  [0.0389, -0.0685, 1.0296],
]
const D65_WHITE: Triple = [0.95047, 1, 1.08883]

/** XYZ under a white, seen under D65. */
function toD65(xyz: Triple, white: Triple): Triple {
  const cones = transform(BRADFORD, xyz)
  const [from, to] = [transform(BRADFORD, white), transform(BRADFORD, D65_WHITE)]
  const adapted = cones.map((v, k) => (v * to[k]!) / from[k]!) as unknown as Triple
  return transform(invert(BRADFORD), adapted)
}

describe('light through dyes', () => {
  it.each([
    ['d65', 'D65'],
    ['tungsten', 'A'],
  ] as const)('is integrated under %s as Argyll does', (lamp, illuminant) => {
    const outside = byArgyll(AMOUNTS.map(transmitted), illuminant)
    const inside = byModel(lamp)
    expect(outside).toHaveLength(AMOUNTS.length)
    AMOUNTS.forEach((amounts, i) => {
      const colour = (xyz: Triple) => new Color('xyz-d65', [...xyz] as [number, number, number])
      const off = colour(toD65(outside[i]!, outside[0]!)).deltaE(colour(inside[i]!), '2000')

      expect(off, `dyes ${amounts.join(' ')}`).toBeLessThan(0.05)
    })
  })
})
