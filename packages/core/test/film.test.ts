import { wholeOf } from '../src/film/emulsion'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { kindById } from '../src/baths'
import { PATCHES, WEDGE } from '../src/charts'
import { bt709ToLab, chroma, ciede2000, three } from '../src/colour'
import {
  CAMERA_NEGATIVE,
  COLOUR_PRINT,
  amountAt,
  densityAt,
  develop,
  dmaxOf,
  keptSilver,
  makeProjection,
  neutralScale,
  softplus,
  straightView,
  projectPlain,
  unprint,
} from '../src/film'
import { plainLine } from '../src/line'
import { SHIPPED_RECIPES } from '../src/recipes'
import { PRINT_DYES } from '../src/spectra'
import { plainStages } from '../src/stages'
import { tableOfSolid } from '../src/cpu/tables'
import { openHeld } from '../src/stages/held'
import { makeColourPrint } from '../src/baths/colour-print/film'
import { NEGATIVE_RECORDS, INTER_IMAGE, scaledFromIdentity } from '../src/film/layers'
import { grey, labOf, lightOf, lineOf, luminance, shipped } from './helpers'

describe('the characteristic curve', () => {
  it('is the written formula', () => {
    const s = (v: number, w: number) => w * Math.log(1 + Math.exp(v / w))
    for (let x = -4; x < 4; x += 0.37) {
      const { gamma, start, end, toe, shoulder, dmin } = COLOUR_PRINT
      expect(densityAt(COLOUR_PRINT, x)).toBeCloseTo(dmin + gamma * (s(x - start, toe) - s(x - end, shoulder)), 10)
    }
    expect(softplus(1000, 0.1)).toBe(1000)
  })

  it('has the slope gamma in its straight part and ends at Dmin and Dmax', () => {
    const slope = (densityAt(CAMERA_NEGATIVE, 0.3) - densityAt(CAMERA_NEGATIVE, 0.2)) / 0.1
    expect(slope).toBeCloseTo(CAMERA_NEGATIVE.gamma, 2)
    expect(densityAt(COLOUR_PRINT, -9)).toBeCloseTo(COLOUR_PRINT.dmin, 6)
    expect(densityAt(COLOUR_PRINT, 9)).toBeCloseTo(dmaxOf(COLOUR_PRINT), 6)
  })

  it('gets steeper and faster when pushed, the reverse when pulled', () => {
    const pushed = develop(CAMERA_NEGATIVE, 1)
    expect(pushed.gamma).toBeCloseTo(0.62 * 1.12, 6)
    expect(densityAt(pushed, -1.5)).toBeGreaterThan(densityAt(CAMERA_NEGATIVE, -1.5))
    expect(develop(CAMERA_NEGATIVE, -1).gamma).toBeLessThan(CAMERA_NEGATIVE.gamma)
  })
})

describe('dyes', () => {
  it('makes a visual neutral of each density (checked with the projector, not the solver)', () => {
    const scale = neutralScale(PRINT_DYES)
    const project = projectPlain(makeProjection({ components: PRINT_DYES, lamp: 'd65', clear: [0, 0, 0] }))
    const out = three()
    for (const density of [0.1, 0.5, 0.745, 1, 2, 3]) {
      project([amountAt(scale, 0, density), amountAt(scale, 1, density), amountAt(scale, 2, density)], out)
      expect(Math.max(...out) - Math.min(...out)).toBeLessThan(2e-4)
    }
  })

  it('makes the nodes of every solid the same way side by side and one by one', () => {
    const solids = SHIPPED_RECIPES.flatMap((recipe) => recipe.baths)
      .flatMap((bath) => kindById(bath.kind).stages(bath.settings))
      .flatMap((stage) => (stage.at === 'solid' && !('nodes' in stage.solid) ? [stage.solid] : []))
    expect(new Set(solids.map((s) => s.projection.components.length))).toEqual(new Set([3, 4]))
    const [amounts, light] = [new Float64Array(4), three()]
    for (const solid of new Map(solids.map((s) => [s.key, s])).values()) {
      const table = tableOfSolid(solid)
      const [side, nodes] = [table.side, table.nodes()]
      const project = projectPlain(solid.projection)
      let worst = 0
      for (let i = 0; i < side ** 3; i += 7) {
        const [a, b, c] = ([i % side, Math.floor(i / side) % side, Math.floor(i / side ** 2)] as const).map((at, k) =>
          solid.valueAt(solid.from[k]! + ((solid.to[k]! - solid.from[k]!) * at) / (side - 1)),
        ) as [number, number, number]
        solid.amounts(a, b, c, amounts)
        project(amounts, light)
        for (let k = 0; k < 3; k++)
          worst = Math.max(worst, Math.abs(openHeld(nodes[4 * i + k]!) - light[k]!) / (1e-3 + Math.abs(light[k]!)))
      }
      expect(worst).toBeLessThan(2e-4)
    }
  })
})

describe('records and layers', () => {
  it('sum to one, row by row, at any inter-image strength', () => {
    for (const m of [NEGATIVE_RECORDS, INTER_IMAGE, scaledFromIdentity(INTER_IMAGE, 0.4)])
      for (const row of m) expect(row[0] + row[1] + row[2]).toBeCloseTo(1, 9)
  })
})

describe('unprinting', () => {
  it('is the inverse of the straight view', () => {
    fc.assert(
      fc.property(fc.double({ min: 0, max: 1, noNaN: true }), (v) => {
        expect(Math.abs(straightView(unprint(v)) - v)).toBeLessThan(1e-5 + 1e-3 * v)
      }),
    )
  })
  it('rises strictly and keeps mid grey', () => {
    let last = 0
    for (let i = 0; i <= 1000; i++) {
      const light = unprint(i / 1000)
      expect(light).toBeGreaterThan(last)
      last = light
    }
    expect(unprint(0.18)).toBeCloseTo(0.18, 4)
  })
})

describe('the plain colour print', () => {
  const line = plainLine(shipped('plain'))
  it('hands unprinted greys back within 1 % and neutral within 0.002', () => {
    for (let i = 2; i <= 50; i++) {
      const v = i / 50
      const out = lightOf(line, grey(unprint(v)))
      expect(Math.abs(luminance(out) / v - 1)).toBeLessThan(0.01)
      expect(Math.max(...out) - Math.min(...out)).toBeLessThan(0.002)
      expect(ciede2000(bt709ToLab(grey(v)), bt709ToLab(out))).toBeLessThan(0.5)
    }
  })
  it('rises strictly along the grey scale', () => {
    let last = -1
    // Up to the light that is shown as white.
    for (let i = 0; i <= 200; i++) {
      const y = luminance(lightOf(line, grey(0.18 * 10 ** (-2.9 + (3.79 * i) / 200))))
      expect(y).toBeGreaterThan(last)
      last = y
    }
  })
})

describe('silver', () => {
  const steps = [100, 80, 60, 40, 20, 0]
  const contrast = (recipe: ReturnType<typeof lineOf>): number => {
    const line = plainLine(recipe)
    return Math.log10(luminance(lightOf(line, grey(0.2))) / luminance(lightOf(line, grey(0.16))))
  }
  it.each(['bleachNegative', 'bleachIntermediate', 'bleachPrint'])(
    '%s: contrast rises, blacks deepen, mid grey holds within 1 %%',
    (setting) => {
      const lines = steps.map((s) => lineOf('colour-print', { intermediate: true, [setting]: s }))
      const contrasts = lines.map(contrast)
      const blacks = lines.map((r) => luminance(lightOf(plainLine(r), grey(0.004))))
      contrasts.slice(1).forEach((c, i) => expect(c).toBeGreaterThan(contrasts[i]! - 1e-6))
      blacks.slice(1).forEach((b, i) => expect(b).toBeLessThanOrEqual(blacks[i]! + 1e-9))
      for (const r of lines)
        expect(Math.abs(luminance(lightOf(plainLine(r), grey(0.18))) / 0.18 - 1)).toBeLessThan(0.01)
    },
  )
  it('never raises the chroma of a coloured patch in the print, over the whole range', () => {
    for (const patch of PATCHES.filter((p) => !['white paper', 'black cloth', 'slate'].includes(p.name))) {
      const chromas = steps.map((s) => chroma(labOf(lineOf('colour-print', { bleachPrint: s }), patch.light)))
      chromas.slice(1).forEach((c, i) => expect(c).toBeLessThanOrEqual(chromas[i]! + 0.3))
    }
  })
  it('is the share that the bleach left', () => {
    expect(keptSilver(100, 0.45, 2)).toBe(0)
    expect(keptSilver(0, 0.45, 2)).toBeCloseTo(0.9, 12)
  })
})

describe('printing', () => {
  it('moves the exposure by one stop with 12 points', () => {
    const film = (points: number) =>
      makeColourPrint(
        lineOf('colour-print', { lightRed: points, lightGreen: points, lightBlue: points, holdGrey: false }).baths[0]!
          .settings as never,
      )
    // 12 points are 0.30 log exposure; a stop is log10(2). A print exposed by a factor 10^0.3 more, made by a thinner negative, is the same print.
    expect(12 * 0.025).toBeCloseTo(Math.log10(2), 2)
    const [out, base] = [three(), three()]
    plainStages(wholeOf(film(37).parts))(0.18, 0.18, 0.18, out)
    plainStages(wholeOf(film(25).parts))(0.18, 0.18, 0.18, base)
    const expected =
      densityAt(COLOUR_PRINT, film(25).printerLight - densityAt(CAMERA_NEGATIVE, 0) + Math.log10(2)) - COLOUR_PRINT.dmin
    expect(-Math.log10(luminance([out[0]!, out[1]!, out[2]!]))).toBeCloseTo(expected, 1)
    expect(luminance([out[0]!, out[1]!, out[2]!])).toBeLessThan(luminance([base[0]!, base[1]!, base[2]!]))
  })
  it('gives cyan with more red light, magenta with green, yellow with blue', () => {
    const base = labOf(lineOf('colour-print'), grey(0.18))
    const moved = (setting: string) => labOf(lineOf('colour-print', { [setting]: 31 }), grey(0.18))
    expect(moved('lightRed')[1]).toBeLessThan(base[1])
    expect(moved('lightGreen')[1]).toBeGreaterThan(base[1])
    expect(moved('lightBlue')[2]).toBeGreaterThan(base[2])
  })
  it('lifts the shadows by flashing the negative, dulls the lights by flashing the print', () => {
    const dark = (s: object) => luminance(lightOf(plainLine(lineOf('colour-print', { ...s })), grey(0.006)))
    const bright = (s: object) => luminance(lightOf(plainLine(lineOf('colour-print', { ...s })), grey(2)))
    expect(dark({ flashNegative: 5 })).toBeGreaterThan(dark({}))
    expect(bright({ flashPrint: 20 })).toBeLessThan(bright({}))
  })
  it('lights the black with flare', () => {
    const black = (flare: number) => luminance(lightOf(plainLine(lineOf('colour-print', { flare })), grey(1e-4)))
    expect(black(1.15)).toBeCloseTo(0.0099, 3)
    expect(black(0.15)).toBeLessThan(1e-3)
    expect(WEDGE).toHaveLength(21)
  })
})
