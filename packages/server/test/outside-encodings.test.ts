import { spawnSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { three, type Triple } from '@fogbath/core/colour'
import { definitionLight, encodingOf, greyNumber, hasWayBack, lightOf } from '@fogbath/core/encodings'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { encodingNamed, loadEncodings } from '../src/cli/encodings'

// Encodings of files and configs, against OpenColorIO 2.1 (Debian's python3-pyopencolorio), which reads the same files.

const folder = mkdtempSync(join(tmpdir(), 'fogbath-encodings-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const write = (name: string, text: string): string => {
  writeFileSync(join(folder, name), text)
  return join(folder, name)
}

const COLOURS: readonly Triple[] = [
  [0.02, 0.02, 0.02],
  [0.18, 0.18, 0.18],
  [0.42, 0.42, 0.42],
  [0.6, 0.35, 0.2],
  [0.11, 0.52, 0.71],
  [0.93, 0.9, 0.4],
  [0.3, 0.05, 0.64],
  [1, 1, 1],
]

/** From a space of a config to linear BT.709 light by way of AP0, as OpenColorIO works it out. */
function throughConfig(config: string, spaces: readonly string[], interchange: string | null): Triple[][] {
  const program = `
import json, sys, PyOpenColorIO as o
config = o.Config.CreateFromFile('${config}')
colours = json.load(sys.stdin)
after = o.GroupTransform()
after.appendTransform(o.BuiltinTransform('ACEScg_to_ACES2065-1', o.TRANSFORM_DIR_INVERSE))
after.appendTransform(o.BuiltinTransform('UTILITY - ACES-AP1_to_LINEAR-REC709_BFD'))
to709 = o.Config.CreateRaw().getProcessor(after).getDefaultCPUProcessor()
def exact(p): return p.getOptimizedCPUProcessor(o.OPTIMIZATION_NONE)
def way(name):
    t = o.ColorSpaceTransform(name, ${interchange ? `'${interchange}'` : "'reference'"})
    return exact(config.getProcessor(t))
out = []
for name in ${JSON.stringify(spaces)}:
    p = way(name)
    out.append([${interchange ? 'to709.applyRGB(p.applyRGB(c))' : 'p.applyRGB(c)'} for c in colours])
print(json.dumps(out))`
  const run = spawnSync('/usr/bin/python3', ['-c', program], { input: JSON.stringify(COLOURS), encoding: 'utf8' })
  if (run.status !== 0) throw new Error(run.stderr)
  return JSON.parse(run.stdout) as Triple[][]
}

const CUBE_1D = `TITLE "rise"\nLUT_1D_SIZE 5\nDOMAIN_MIN 0 0 0\nDOMAIN_MAX 1 1 1\n0 0 0\n0.02 0.03 0.04\n0.15 0.2 0.22\n0.5 0.5 0.5\n1 1.1 0.9\n`
const CUBE_3D = `LUT_3D_SIZE 3\n${Array.from({ length: 27 }, (_, i) => {
  const [r, g, b] = [i % 3, Math.floor(i / 3) % 3, Math.floor(i / 9)].map((v) => v / 2) as [number, number, number]
  return `${(r ** 1.5).toFixed(6)} ${(0.9 * g + 0.1 * b).toFixed(6)} ${(0.8 * b ** 2 + 0.1 * r).toFixed(6)}`
}).join('\n')}\n`
const SPI1D = `Version 1\nFrom 0.0 1.0\nLength 4\nComponents 1\n{\n0.0\n0.1\n0.4\n1.0\n}\n`
const SPI3D = `SPILUT 1.0\n3 3\n2 2 2\n${[0, 1].flatMap((r) => [0, 1].flatMap((g) => [0, 1].map((b) => `${r} ${g} ${b} ${0.9 * r + 0.1 * g} ${0.5 * g + 0.5 * b * r} ${b}`))).join('\n')}\n`
const HALF = Array.from({ length: 65536 }, (_, i) => {
  const [exponent, mantissa] = [(i >> 10) & 31, i & 1023]
  const size = exponent === 0 ? mantissa * 2 ** -24 : (1 + mantissa / 1024) * 2 ** (Math.min(30, exponent) - 15)
  return (i >> 15 ? -1 : 1) * Math.sqrt(size)
})
const CLF = `<?xml version="1.0" encoding="UTF-8"?>
<ProcessList id="a" compCLFversion="3.0">
  <Description>made by a test</Description>
  <Matrix inBitDepth="32f" outBitDepth="10i"><Array dim="3 4">900 60 40 0  30 990 3 10.23  0 80 920 0</Array></Matrix>
  <LUT1D inBitDepth="10i" outBitDepth="32f"><Array dim="3 1">0 0.3 1</Array></LUT1D>
  <Range inBitDepth="32f" outBitDepth="32f" style="noClamp"><minInValue>0</minInValue><maxInValue>1</maxInValue><minOutValue>0.05</minOutValue><maxOutValue>0.95</maxOutValue></Range>
  <Log inBitDepth="32f" outBitDepth="32f" style="cameraLogToLin"><LogParams base="10" linSideSlope="5.5" linSideOffset="0.05" logSideSlope="0.25" logSideOffset="0.39" linSideBreak="0.01"/></Log>
  <Exponent inBitDepth="32f" outBitDepth="32f" style="basicMirrorFwd"><ExponentParams exponent="1.2" channel="R"/><ExponentParams exponent="1.1"/></Exponent>
  <Exponent inBitDepth="32f" outBitDepth="32f" style="monCurveRev"><ExponentParams exponent="2.4" offset="0.055"/></Exponent>
  <LUT3D inBitDepth="32f" outBitDepth="32f" interpolation="tetrahedral"><Array dim="2 2 2 3">0 0 0  0 0.1 0.9  0.1 0.8 0  0 1 1  0.9 0 0.1  1 0 1  1 0.9 0  1 1 1</Array></LUT3D>
</ProcessList>`
const CLF_HALF = `<ProcessList id="h" compCLFversion="3.0"><LUT1D inBitDepth="32f" outBitDepth="32f" halfDomain="true"><Array dim="65536 1">
${HALF.map((v) => v.toPrecision(9)).join('\n')}
</Array></LUT1D></ProcessList>`

/** One space a transform, of all kinds that are understood. */
const TRANSFORMS: Readonly<Record<string, string>> = {
  matrix:
    '!<MatrixTransform> {matrix: [0.7, 0.2, 0.1, 0, 0.1, 0.8, 0.1, 0, 0, 0.1, 0.9, 0, 0, 0, 0, 1], offset: [0.01, 0, -0.01, 0]}',
  affine:
    '!<LogAffineTransform> {base: 10, log_side_slope: [0.3, 0.25, 0.28], log_side_offset: [0.6, 0.58, 0.6], lin_side_slope: 1.1, lin_side_offset: 0.02, direction: inverse}',
  camera:
    '!<LogCameraTransform> {base: 2, log_side_slope: 0.06, log_side_offset: 0.5, lin_side_slope: 1.05, lin_side_offset: 0.008, lin_side_break: 0.003, direction: inverse}',
  sloped:
    '!<LogCameraTransform> {base: 2, log_side_slope: 0.06, log_side_offset: 0.5, lin_side_break: 0.004, linear_slope: 20, direction: inverse}',
  log: '!<LogTransform> {base: 10, direction: inverse}',
  exponent: '!<ExponentTransform> {value: [2.2, 2.3, 2.4, 1]}',
  mirrored: '!<ExponentTransform> {value: 1.8, style: mirror}',
  moncurve: '!<ExponentWithLinearTransform> {gamma: [2.4, 2.4, 2.2, 1], offset: [0.055, 0.055, 0.099, 0]}',
  range: '!<RangeTransform> {min_in_value: 0.0625, max_in_value: 0.92, min_out_value: 0, max_out_value: 1}',
  cdl: '!<CDLTransform> {slope: [1.1, 0.9, 1], offset: [0.02, 0, -0.01], power: [1.1, 1, 0.9], sat: 0.8}',
  'cdl asc':
    '!<CDLTransform> {slope: [1.4, 0.9, 1], offset: [-0.1, 0, 0.01], power: [1.1, 1, 0.9], sat: 1.2, style: asc}',
  'cdl back':
    '!<CDLTransform> {slope: [1.1, 0.9, 1], offset: [0.02, 0, -0.01], power: [1.1, 1, 0.9], sat: 0.8, direction: inverse}',
  cube: '!<FileTransform> {src: rise.cube, interpolation: linear}',
  'cube back': '!<FileTransform> {src: rise.cube, interpolation: linear, direction: inverse}',
  solid: '!<FileTransform> {src: solid.cube, interpolation: tetrahedral}',
  clf: '!<FileTransform> {src: all.clf, interpolation: tetrahedral}',
  half: '!<FileTransform> {src: half.clf}',
  spi1d: '!<FileTransform> {src: curve.spi1d, interpolation: linear}',
  spi3d: '!<FileTransform> {src: solid.spi3d, interpolation: tetrahedral}',
  acescct: '!<BuiltinTransform> {style: ACEScct_to_ACES2065-1}',
  acescc: '!<BuiltinTransform> {style: ACEScc_to_ACES2065-1}',
  proxy: '!<BuiltinTransform> {style: ACESproxy10i_to_ACES2065-1}',
  pq: '!<BuiltinTransform> {style: CURVE - ST-2084_to_LINEAR}',
  group:
    '!<GroupTransform> {children: [!<LogAffineTransform> {base: 10, log_side_slope: 0.3, log_side_offset: 0.6, direction: inverse}, !<MatrixTransform> {matrix: [0.7, 0.2, 0.1, 0, 0.1, 0.8, 0.1, 0, 0, 0.1, 0.9, 0, 0, 0, 0, 1]}]}',
}
const space = (name: string, way: string): string => `  - !<ColorSpace>\n    name: ${name}\n    ${way}\n`
const config = (roles: string, spaces: string, rest = ''): string =>
  `ocio_profile_version: 2\nsearch_path: luts\nstrictparsing: true\nroles:\n${roles}file_rules:\n  - !<Rule> {name: Default, colorspace: reference}\ndisplays:\n  one:\n    - !<View> {name: raw, colorspace: reference}\ncolorspaces:\n  - !<ColorSpace>\n    name: reference\n${spaces}${rest}`

beforeAll(() => {
  mkdirSync(join(folder, 'luts'))
  for (const [name, text] of Object.entries({
    'rise.cube': CUBE_1D,
    'solid.cube': CUBE_3D,
    'curve.spi1d': SPI1D,
    'solid.spi3d': SPI3D,
    'all.clf': CLF,
    'half.clf': CLF_HALF,
  }))
    for (const place of [name, join('luts', name)]) write(place, text)
})

/** The greatest difference from what OpenColorIO makes, as a share where light is above 1. */
function furthest(mine: (c: Triple) => Triple, theirs: readonly Triple[], colours = COLOURS): number {
  return Math.max(
    ...colours.flatMap((c, i) =>
      mine(c).map((v, k) => Math.abs(v - theirs[i]![k]!) / Math.max(1, Math.abs(theirs[i]![k]!))),
    ),
  )
}
const runOf =
  (f: ReturnType<typeof definitionLight>) =>
  (c: Triple): Triple => {
    const out = three()
    f(...c, out)
    return [out[0], out[1], out[2]]
  }

describe('an OpenColorIO config', () => {
  it('gives the light that OpenColorIO gives, transform by transform, by its interchange role', async () => {
    const names = Object.keys(TRANSFORMS)
    const spaces = names.map((name) => space(name, `to_scene_reference: ${TRANSFORMS[name]}`)).join('')
    const path = write('config.ocio', config('  aces_interchange: reference\n', spaces))
    const { encodings, left } = await loadEncodings(path)
    expect(left).toEqual([])
    const theirs = throughConfig(path, names, 'reference')
    const off = names.map((name, i) => {
      const own = encodings.find((e) => e.name === name)!
      // It holds ACEScc as a table of curves, which is off in bright and saturated colours; encodings.test.ts of core has the formula.
      const colours = name === 'acescc' ? COLOURS.slice(0, 3) : COLOURS
      return [name, furthest(runOf(definitionLight(own)), theirs[i]!, colours)] as const
    })
    expect(off.filter(([, by]) => !(by <= 1e-5))).toEqual([])
    expect(off).toHaveLength(names.length)
  })

  it('of version 1, without a role, counts as linear BT.709, and says so; ways from the reference are undone', async () => {
    const names = ['log', 'from']
    const text = `ocio_profile_version: 1\nsearch_path: ""\nroles:\n  default: reference\ndisplays:\n  one:\n    - !<View> {name: raw, colorspace: reference}\ncolorspaces:\n  - !<ColorSpace>\n    name: reference\n${space('log', 'to_reference: !<MatrixTransform> {matrix: [0.5, 0, 0, 0, 0, 0.5, 0, 0, 0, 0, 0.5, 0, 0, 0, 0, 1]}')}${space('from', 'from_reference: !<ExponentTransform> {value: [0.4, 0.5, 0.6, 1]}')}`
    const path = write('old.ocio', text)
    const { encodings } = await loadEncodings(path)
    const theirs = throughConfig(path, names, null)
    for (const [i, name] of names.entries()) {
      const own = encodings.find((e) => e.name === name)!
      expect(own.from).toContain('taken for linear BT.709 light')
      expect(furthest(runOf(definitionLight(own)), theirs[i]!), name).toBeLessThanOrEqual(1e-5)
    }
  })

  it('names what it does not understand, with the space that needs it, and leaves out that one alone', async () => {
    const spaces = [
      space('good', 'to_scene_reference: !<LogTransform> {base: 2, direction: inverse}'),
      space('lost', 'to_scene_reference: !<FileTransform> {src: nowhere.cube}'),
      space('strange', 'to_scene_reference: !<AllocationTransform> {allocation: uniform}'),
      space('closed', 'to_scene_reference: !<BuiltinTransform> {style: SOMEONES_OWN}'),
      space('one way', 'from_scene_reference: !<FileTransform> {src: solid.cube}'),
      space('data', 'isdata: true'),
    ].join('')
    const { encodings, left } = await loadEncodings(
      write('odd.ocio', config('  aces_interchange: reference\n', spaces)),
    )
    expect(encodings.map((e) => e.name)).toEqual(['reference', 'good'])
    expect(Object.fromEntries(left.map((l) => [l.name, l.reason]))).toEqual({
      lost: "It needs the file 'nowhere.cube', which is not there.",
      strange: 'It needs a AllocationTransform, which is not known here.',
      closed: "It needs the built-in 'SOMEONES_OWN', which is no open standard or not known.",
      'one way': 'Its way from the reference would have to be undone, and has no way back.',
      data: 'It holds data and no colours.',
    })
    await expect(loadEncodings(write('none.ocio', 'a: 1\n'))).rejects.toThrow(
      'none.ocio: The OpenColorIO config names no ocio_profile_version',
    )
    await expect(loadEncodings(write('late.ocio', 'ocio_profile_version: 3\n'))).rejects.toThrow(
      'is of version 3; 1 and 2 can be read',
    )
    await expect(loadEncodings(write('torn.ocio', 'ocio_profile_version: 2\nroles: [a'))).rejects.toThrow(
      'is no whole YAML',
    )
  })

  it('has display spaces by their own interchange role', async () => {
    const rest = `display_colorspaces:\n  - !<ColorSpace>\n    name: xyz\n${['REC.1886-REC.709', 'sRGB', 'G2.6-P3-D65', 'REC.1886-REC.2020'].map((way) => space(way, `from_display_reference: !<BuiltinTransform> {style: DISPLAY - CIE-XYZ-D65_to_${way}}`)).join('')}`
    const path = write(
      'screens.ocio',
      config('  aces_interchange: reference\n  cie_xyz_d65_interchange: xyz\n', '', rest),
    )
    const { encodings } = await loadEncodings(path)
    // White of every screen is white, and grey codes give the light of their power.
    for (const [name, code, light] of [
      ['REC.1886-REC.709', 0.5, 0.5 ** 2.4],
      ['sRGB', 0.5, ((0.5 + 0.055) / 1.055) ** 2.4],
      ['G2.6-P3-D65', 0.5, 0.5 ** 2.6],
      ['REC.1886-REC.2020', 0.5, 0.5 ** 2.4],
    ] as const) {
      const own = encodings.find((e) => e.name === name)!
      expect(own.refers).toBe('display')
      for (const v of runOf(definitionLight(own))([code, code, code])) expect(v).toBeCloseTo(light, 5)
      for (const v of runOf(definitionLight(own))([1, 1, 1])) expect(v).toBeCloseTo(1, 5)
    }
  })
})

describe('encodings of one’s own', () => {
  const primaries = { red: [0.68, 0.32], green: [0.24, 0.8], blue: [0.1, -0.1], white: [0.3127, 0.329] }
  const log = {
    type: 'log',
    base: 10,
    logSideSlope: 0.25,
    logSideOffset: 0.39,
    linSideSlope: 5.5,
    linSideOffset: 0.05,
    linSideBreak: 0.01,
  }

  it('by parameters are the camera form, there and back, and as tables', async () => {
    const path = write(
      'own.json',
      JSON.stringify({ encodings: [{ name: 'Night log', refers: 'scene', curve: log, primaries }] }),
    )
    const own = (await loadEncodings(path)).encodings[0]!
    const encoding = encodingOf(own)
    // The formula of the format, section 4.6, for grey: neutral light stays neutral under its own white.
    const toLog = (x: number): number => 0.25 * Math.log10(5.5 * x + 0.05) + 0.39
    for (const light of [0.011, 0.18, 0.9, 6]) {
      const code = toLog(light)
      expect(runOf(definitionLight(own))([code, code, code])[1]).toBeCloseTo(light, 6)
      expect(Math.abs(greyNumber(encoding, light) - code)).toBeLessThan(1e-6)
    }
    expect(hasWayBack(own)).toBe(true)
    const [exact, stages] = [runOf(definitionLight(own)), runOf(lightOf(encoding))]
    for (const c of COLOURS) stages(c).forEach((v, k) => expect(v).toBeCloseTo(exact(c)[k]!, 9))
  })

  it('are known by what they do, not by what they are called', async () => {
    const entry = { refers: 'scene', curve: log, primaries }
    const path = write(
      'two.json',
      JSON.stringify([
        { name: 'a', ...entry },
        { name: 'b', ...entry },
        { name: 'c', ...entry, adaptation: 'cat02', primaries: { ...primaries, white: [0.3457, 0.3585] } },
      ]),
    )
    const [a, b, c] = (await loadEncodings(path)).encodings
    expect(a!.id).toBe(b!.id)
    expect(c!.id).not.toBe(a!.id)
    // A white of its own goes to the white of the screen, whichever way it is adapted.
    for (const v of runOf(definitionLight(c!))([0.5, 0.5, 0.5]))
      expect(v).toBeCloseTo(runOf(definitionLight(c!))([0.5, 0.5, 0.5])[0], 5)
  })

  it('from a table are what the table gives; what comes out of it can be said', async () => {
    const path = write(
      'tables.json',
      JSON.stringify([
        { name: 'curve', file: 'rise.cube', gives: 'linear-ap0' },
        { name: 'seen', file: 'solid.cube' },
      ]),
    )
    const { encodings } = await loadEncodings(path)
    expect(encodings.map((e) => e.refers)).toEqual(['scene', 'display'])
    expect(encodings[1]!.from).toContain('gamma 2.4')
    const [direct] = (await loadEncodings(join(folder, 'rise.cube'))).encodings
    expect(direct!.name).toBe('rise')
    expect(runOf(definitionLight(direct!))([0.5, 0.5, 0.5])).toEqual([0.15, 0.2, 0.22].map((v) => expect.closeTo(v, 6)))
  })

  it.each([
    [
      { name: 'x', refers: 'scene', curve: { type: 'gamma', gamma: 99 }, primaries },
      'encoding/curve/gamma is 99; it must be <= 10.',
    ],
    [
      { name: 'x', refers: 'scene', curve: { type: 'wave' }, primaries },
      'encoding/curve/type is "wave"; it must be one of: log, gamma, linear.',
    ],
    [
      { name: 'x', refers: 'scene', curve: { ...log, linSideBreak: -1 }, primaries },
      'linSideBreak is -1; linSideSlope times it plus linSideOffset must be above 0.',
    ],
    [
      { name: 'x', refers: 'scene', curve: { type: 'linear' }, primaries: { ...primaries, red: primaries.green } },
      /span no triangle/,
    ],
    [{ name: 'x', file: 'rise.cube', gives: 'log-z' }, /'log-z' cannot come out of a file/],
    [
      { name: 'x', refers: 'scene', from: '', ops: [{ op: 'range', scale: 0, offset: 0, least: null, most: null }] },
      /makes the same light of every code/,
    ],
  ])('refuses %j with its reason, and only that one', async (entry, reason) => {
    const path = write(
      'wrong.json',
      JSON.stringify([entry, { name: 'fine', refers: 'display', curve: { type: 'gamma', gamma: 2.2 }, primaries }]),
    )
    const found = await loadEncodings(path)
    expect(found.encodings.map((e) => e.name)).toEqual(['fine'])
    expect(found.left).toHaveLength(1)
    if (typeof reason === 'string') expect(found.left[0]!.reason).toBe(reason)
    else expect(found.left[0]!.reason).toMatch(reason)
    expect(() => encodingNamed('x', path, found)).toThrow(`'x' of ${path} cannot be taken`)
    expect(() => encodingNamed('y', path, found)).toThrow(`'y' is neither an encoding of ${path} (fine)`)
    expect(encodingNamed('bt1886', path, found)).toBe('bt1886')
    expect(encodingNamed('FINE', path, found)).toMatchObject({ name: 'fine' })
  })
})
