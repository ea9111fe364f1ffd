import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { kindById, packLut, settingsOfDecision } from '@fogbath/core/baths'
import { type Triple, three } from '@fogbath/core/colour'
import { decisionToCc, readCube, readDecision } from '@fogbath/core/formats'
import { newBath, plainLine, NOTHING_AROUND, type Recipe } from '@fogbath/core/line'
import { makeLook } from '@fogbath/core/look'
import { seededRandom } from '@fogbath/core/numbers'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { plainStages } from '@fogbath/core/stages'
import { Treatment } from '@fogbath/core/treat'
import { afterAll, describe, expect, it } from 'vitest'
import { throughOcio } from './ocio'

/** Baths around the chemistry against programs that do the same: OpenColorIO through Debian's Python, and ffmpeg. */

const folder = mkdtempSync(join(tmpdir(), 'fogbath-outside-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const random = seededRandom(12)
const COLOURS: readonly Triple[] = Array.from({ length: 300 }, () => [random(), random(), random()] as const)

function through(kind: string, settings: Record<string, unknown>, colours: readonly Triple[]): Triple[] {
  const stages = plainStages(kindById(kind).stages(newBath(kind, 'b', settings).settings))
  const out = three()
  return colours.map((c) => {
    stages(...c, out)
    return [out[0]!, out[1]!, out[2]!] as const
  })
}

const furthest = (a: readonly Triple[], b: readonly Triple[]): number =>
  Math.max(...a.flatMap((c, i) => c.map((v, k) => Math.abs(v - b[i]![k]!))))

describe('OpenColorIO', () => {
  it.each([
    [[1.2, 0.9, 1.05], [0.02, -0.03, 0.05], [0.9, 1.1, 1.3], 1.4],
    [[0.8, 1, 1.3], [0.1, 0, -0.1], [1, 0.8, 1.2], 0.3],
  ])('applies a colour decision list of slope %j as the bath does', (slope, offset, power, saturation) => {
    const source = `t = o.CDLTransform(); t.setSlope(${JSON.stringify(slope)}); t.setOffset(${JSON.stringify(offset)})
t.setPower(${JSON.stringify(power)}); t.setSat(${saturation}); t.setStyle(o.CDL_NO_CLAMP)`
    const names = ['Red', 'Green', 'Blue']
    const each = (what: string, list: readonly number[]) => list.map((v, k) => [`${what}${names[k]}`, v])
    const settings = Object.fromEntries([...each('slope', slope), ...each('offset', offset), ...each('power', power)])
    const own = through('cdl', { on: 'linear', saturation, ...settings }, COLOURS)
    const told = throughOcio(source, COLOURS)
    // Without clamping OpenColorIO leaves what is below 0 as it is, the bath holds it at 0: such colours are left out.
    const inside = COLOURS.map((_, i) => i).filter((i) => COLOURS[i]!.every((v, k) => v * slope[k]! + offset[k]! > 0))
    expect(inside.length).toBeGreaterThan(200)
    expect(
      furthest(
        inside.map((i) => own[i]!),
        inside.map((i) => told[i]!),
      ),
    ).toBeLessThan(1e-4)
  })

  it('reads a decision list that is written, and one that it would read is read', () => {
    const decision = { slope: [1.1, 0.95, 1], offset: [0.01, -0.02, 0], power: [1.2, 1, 0.9], saturation: 0.8 } as const
    const path = join(folder, 'shot.cc')
    const text = decisionToCc(decision, 'Shot 3 <b>', 'Acts on scene light.')
    writeFileSync(path, text)
    expect(readDecision(text)).toEqual(decision)
    const settings = { on: 'linear', ...settingsOfDecision(decision) }
    // From a file OpenColorIO clamps to 0..1 as the ASC says; the bath keeps what lies above, so only what stays below is compared.
    const calm = COLOURS.filter((c) => c.every((v) => v > 0.05 && v < 0.75))
    const inside = through('cdl', settings, calm)
    expect(furthest(inside, throughOcio(`t = o.FileTransform('${path}')`, calm))).toBeLessThan(1e-4)
  })

  it('reads a .cube that is brought in as the bath does, and one that is given', () => {
    const n = 33
    const bend = (v: number, k: number): number => v ** (0.7 + 0.3 * k) * (0.9 - 0.1 * k)
    const rows = Array.from({ length: n ** 3 }, (_, i) => {
      const c = [i % n, Math.floor(i / n) % n, Math.floor(i / n ** 2)].map((v) => v / (n - 1))
      return c.map((v, k) => bend(0.8 * v + 0.2 * c[(k + 1) % 3]!, k).toFixed(6)).join(' ')
    })
    const path = join(folder, 'in.cube')
    const text = `LUT_3D_SIZE ${n}\n${rows.join('\n')}\n`
    writeFileSync(path, text)
    const source = (file: string): string => `t = o.FileTransform('${file}', interpolation=o.INTERP_TETRAHEDRAL)`
    const own = through(
      'input-lut',
      { lut: packLut(readCube(text), 'in.cube'), takes: 'linear', gives: 'linear' },
      COLOURS,
    )
    expect(furthest(own, throughOcio(source(path), COLOURS))).toBeLessThan(2e-4)

    const recipe = SHIPPED_RECIPES.find((r) => r.id === 'split-warm-cool')!
    const given = join(folder, 'given.cube')
    writeFileSync(given, makeLook(recipe, { format: 'cube', size: 33 }).text)
    const line = plainLine(recipe, undefined, 'display')
    const out = three()
    const made = COLOURS.map((c) => {
      line(...c, out)
      return [out[0]!, out[1]!, out[2]!] as const
    })
    const errors = throughOcio(source(given), COLOURS).flatMap((c, i) => c.map((v, k) => Math.abs(v - made[i]![k]!)))
    expect(errors.reduce((a, b) => a + b) / errors.length).toBeLessThan(0.5 / 255)
  })
})

const [W, H] = [240, 136]
/** Frames as 16-bit codes. */
function frame(...filters: string[]): Uint16Array {
  const path = join(import.meta.dirname, '../../../demo/footage/regatta-bunting.mp4')
  const codes = `zscale=w=${W}:h=${H}:matrixin=709:rangein=limited:matrix=gbr:range=full:dither=none,format=gbrp16le`
  const input = ['-v', 'error', '-ss', '0.8', '-i', path, '-frames:v', '1', '-vf', [codes, ...filters].join(',')]
  const bytes = execFileSync('ffmpeg', [...input, '-f', 'rawvideo', '-pix_fmt', 'rgb48le', '-'], { maxBuffer: 1e9 })
  return new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
}

/** The frame through a bath, against ffmpeg's filter: codes of 8 bits, 99.9th percentile. @param first what is done to it for both */
function apart(kind: string, settings: Record<string, unknown>, filter: string, first: readonly string[] = []): number {
  const recipe: Recipe = { ...SHIPPED_RECIPES[0]!, baths: [newBath(kind, 'b', settings)] }
  const { pixels } = new Treatment().run(
    { data: frame(...first), format: 'u16', width: W, height: H, frame: 0 },
    { recipe, ...NOTHING_AROUND, encoding: 'bt1886' },
  )
  const told = frame(...first, filter, 'format=gbrp16le')
  const off = Array.from(told, (v, i) => 255 * Math.abs(v / 65535 - pixels[4 * Math.floor(i / 3) + (i % 3)]!))
  return off.sort((a, b) => a - b)[Math.floor(0.999 * off.length)]!
}

describe('ffmpeg', () => {
  it('blurs as detail does that leaves nothing of it: its recursive filter comes nearer with every pass', () => {
    const [one, three, six] = [1, 3, 6].map((steps) =>
      apart('detail', { amount: -100, radius: 4000 / W }, `format=gbrpf32le,gblur=sigma=4:steps=${steps}`),
    ) as [number, number, number]
    expect(three).toBeLessThan(0.6 * one)
    expect(six).toBeLessThan(0.8 * three)
    expect(six).toBeLessThan(7)
  })
  it.each([
    ['takes detail away', -80, [], 3.5],
    // Of low contrast, because it clips what rises above white in Y’CbCr; what 8 bits round on the way in is raised too.
    ['adds detail', 80, ["curves=all='0/0.3 1/0.7'", 'format=gbrp16le'], 5],
  ])('%s as detail does, with a binomial kernel of 13 pixels: its variance is 3', (_, amount, first, within) => {
    const to709 = 'zscale=matrixin=gbr:matrix=709:rangein=full:range=full:dither=none,format=yuv444p'
    const back = 'zscale=matrixin=709:matrix=gbr:rangein=full:range=full:dither=none'
    const [luma, chroma] = [`lx=13:ly=13:la=${amount / 100}`, `cx=13:cy=13:ca=${amount / 100}`]
    const filter = `${to709},unsharp=${luma}:${chroma},${back}`
    expect(apart('detail', { amount, radius: (1000 * Math.sqrt(3)) / W }, filter, first)).toBeLessThan(within)
  })
  it('mixes channels as the bath does', () => {
    const settings = {
      holdNeutrals: false,
      redFromRed: 70,
      redFromGreen: 40,
      greenFromBlue: -30,
      blueFromRed: 20,
      blueFromBlue: 90,
    }
    const filter = 'colorchannelmixer=rr=0.7:rg=0.4:gg=1:gb=-0.3:br=0.2:bb=0.9'
    expect(apart('mixer', settings, filter)).toBeLessThan(0.1)
  })
  it('mixes one grey as the bath does', () => {
    const settings = { output: 'mono', monoRed: 50, monoGreen: 20, monoBlue: 30 }
    const row = (c: string): string => `${c}r=0.5:${c}g=0.2:${c}b=0.3`
    expect(apart('mixer', settings, `colorchannelmixer=${['r', 'g', 'b'].map(row).join(':')}`)).toBeLessThan(0.1)
  })
  it('draws a smooth curve through many points as the bath does', () => {
    // Its pieces are natural cubics, the bath's are monotone ones: through points as close as these both are the curve itself.
    const points = Array.from({ length: 17 }, (_, i) => [i / 16, (i / 16) ** 1.5 * 0.9 + 0.05])
    const filter = `curves=all='${points.map(([x, y]) => `${x}/${y!.toFixed(5)}`).join(' ')}'`
    expect(apart('curves', { master: points }, filter)).toBeLessThan(1)
  })
  it('scales saturation as the bath does, within what 8 bits of Y’CbCr can tell', () => {
    const filter =
      'zscale=matrixin=gbr:matrix=709:rangein=full:range=full:dither=none,format=yuv444p,eq=saturation=0.6,zscale=matrixin=709:matrix=gbr:rangein=full:range=full:dither=none'
    // Cb is rounded twice, and stands in blue 1.86 times.
    expect(apart('saturation', { overall: 60 }, filter)).toBeLessThan(3.5)
  })
  it('drains colours as the bath does, overall and hue by hue', () => {
    const filter = 'format=rgb48le,huesaturation=saturation=-0.4:strength=100:rw=0.2126:gw=0.7152:bw=0.0722'
    expect(apart('saturation', { overall: 60 }, filter)).toBeLessThan(0.6)
    const level = [
      [0.1, -0.4],
      [0.6, -0.4],
    ]
    expect(apart('hue-response', { chromas: level }, filter)).toBeLessThan(0.6)
  })
})
