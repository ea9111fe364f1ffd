import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { three, type Triple } from '../src/colour'
import { inverseOps, runOps } from '../src/encodings/ops/run'
import { same, type Op } from '../src/encodings/ops/op'
import { packFloats, packedCount, unpackFloats } from '../src/encodings/ops/pack'
import { clfOps } from '../src/encodings/read/clf'
import { cubeOp, spi1dOp, spi3dOp } from '../src/encodings/read/tables'
import { defineEncoding, encodingOf, lightOf } from '../src/encodings'

const run = (ops: readonly Op[], c: Triple): Triple => {
  const out = three()
  runOps(ops)(...c, out)
  return [out[0], out[1], out[2]]
}
const rise = packFloats([0, 0.1, 0.35, 0.7, 1.2])
const OPS: Readonly<Record<string, Op>> = {
  matrix: {
    op: 'matrix',
    matrix: [
      [0.7, 0.2, 0.1],
      [0.1, 0.8, 0.1],
      [0, 0.1, 0.9],
    ],
    offset: [0.1, 0, -0.05],
  },
  log: {
    op: 'log',
    back: false,
    base: 10,
    logSlope: [0.3, 0.25, 0.3],
    logOffset: same(0.6),
    linSlope: same(1.2),
    linOffset: same(0.05),
    linBreak: null,
    linearSlope: null,
  },
  camera: {
    op: 'log',
    back: true,
    base: 2,
    logSlope: same(0.06),
    logOffset: same(0.5),
    linSlope: same(1.1),
    linOffset: same(0.01),
    linBreak: same(0.004),
    linearSlope: null,
  },
  power: { op: 'exponent', power: [2.2, 1.8, 2.4], below: 'mirror' },
  moncurve: { op: 'moncurve', back: false, power: same(2.4), offset: same(0.055), mirror: true },
  range: { op: 'range', scale: 1.2, offset: -0.1, least: null, most: null },
  cdl: {
    op: 'cdl',
    back: false,
    slope: [1.1, 0.9, 1],
    offset: [0.02, 0, 0.01],
    power: [1.1, 1, 0.9],
    saturation: 0.8,
    clamp: false,
  },
  lut1d: { op: 'lut1d', back: false, half: false, from: same(-0.1), to: same(1.3), channels: 1, nodes: rise },
  pq: { op: 'curve', back: false, curve: 'pq' },
  acescct: { op: 'curve', back: true, curve: 'acescct' },
}

describe('steps of encodings', () => {
  it.each(Object.entries(OPS))('%s comes back', (_, op) => {
    const back = inverseOps([op])!
    fc.assert(
      fc.property(fc.tuple(...[0, 1, 2].map(() => fc.double({ min: 0.02, max: 0.98, noNaN: true }))), (c) => {
        run(back, run([op], c as unknown as Triple)).forEach((v, k) => expect(Math.abs(v - c[k]!)).toBeLessThan(1e-6))
      }),
    )
  })
  it('have no way back where there is none, and come back in turned order', () => {
    const solid = cubeOp(`LUT_3D_SIZE 2\n${'0 0 0\n1 1 1\n'.repeat(4)}`)
    expect(inverseOps([OPS['power']!, solid])).toBeNull()
    expect(inverseOps([{ ...OPS['lut1d'], nodes: packFloats([0, 0.5, 0.2]) } as Op])).toBeNull()
    expect(inverseOps([{ ...OPS['range'], scale: 0 } as Op])).toBeNull()
    const many = [OPS['range']!, OPS['matrix']!, OPS['power']!]
    run([...many, ...inverseOps(many)!], [0.5, 0.4, 0.3]).forEach((v, k) =>
      expect(v).toBeCloseTo([0.5, 0.4, 0.3][k]!, 9),
    )
  })
  it('hold tables as 32-bit floats', () => {
    const values = [0.1, -5, 1e-9, 65504]
    expect(packedCount(packFloats(values))).toBe(4)
    expect([...unpackFloats(packFloats(values), 4)]).toEqual(values.map((v) => Math.fround(v)))
    expect(() => unpackFloats(packFloats(values), 6)).toThrow('The table holds 4 numbers; it must hold 6.')
  })
  it('as stages do what they do exactly; channels of their own stay apart', () => {
    const ops = [OPS['camera']!, OPS['power']!, OPS['matrix']!]
    const stages = lightOf(encodingOf(defineEncoding({ name: 'x', refers: 'scene', from: '', ops })))
    const out = three()
    const colours: readonly Triple[] = [
      [0.5, 0.3, 0.8],
      [0.2, 0.2, 0.2],
    ]
    for (const c of colours) {
      stages(...c, out)
      run(ops, c).forEach((v, k) => expect(out[k]).toBeCloseTo(v, 9))
    }
  })
})

const clf = (nodes: string): string => `<ProcessList id="x" compCLFversion="3.0">${nodes}</ProcessList>`
describe('files of encodings that are wrong are told with the place and the rule', () => {
  it.each([
    [() => clfOps('no xml'), 'The file is no whole XML: line 1'],
    [() => clfOps('<a/>'), 'The file holds no ProcessList'],
    [() => clfOps(clf('<Warp/>')), 'The node 1 (Warp) is of a kind that is not known.'],
    [
      () => clfOps(clf('<Matrix><Array dim="3 3">1 0 0 0 1 0 0 0</Array></Matrix>')),
      'is an array of 3 3 with 8 numbers; a matrix is 3 3 or 3 4',
    ],
    [
      () => clfOps(clf('<Matrix inBitDepth="9i"><Array dim="3 3">1 0 0 0 1 0 0 0 1</Array></Matrix>')),
      "has the bit depth '9i'",
    ],
    [
      () => clfOps(clf('<LUT1D><Array dim="2 1">0 x</Array></LUT1D>')),
      "The node 1 (LUT1D) holds 'x', which is no finite number.",
    ],
    [() => clfOps(clf('<Range/>')), 'names neither minInValue nor maxInValue'],
    [() => clfOps(clf('<Log style="cameraLinToLog"/>')), 'has no linSideBreak'],
    [() => clfOps(clf('<Exponent style="odd"/>')), "has the style 'odd'"],
    [() => spi1dOp('Version 1\nLength 3\n{\n0\n1\n}\n'), 'holds 2 numbers; 3 nodes of 1 need 3'],
    [
      () => spi1dOp('Version 1\nLength 2\n{\n0\nnan\n}\n'),
      "Line 5 of the .spi1d file: 'nan' holds something that is no number.",
    ],
    [() => spi3dOp('SPILUT 1.0\n3 3\n2 2 2\n0 0 0 1 1 1\n'), 'does not name every node'],
    [() => spi3dOp('SPILUT 1.0\n3 3\n2 2 3\n'), 'all three must be the same'],
  ])('%#', (read, told) => {
    expect(read).toThrow(told)
  })
  it('takes what says nothing of the numbers, and leaves out what is bypassed', () => {
    const text = clf('<Description>a</Description><Info><b>c</b></Info><Range bypass="true"/><Log style="log2"/>')
    expect(clfOps(text)).toMatchObject([{ op: 'log', base: 2, back: false }])
  })
})
