import { expect } from 'vitest'
import { kindById } from '../src/baths'
import { bt709ToLab, displayCode, displayLight, labToBt709, type Triple, three } from '../src/colour'
import { Pictures, kernelMemory } from '../src/cpu'
import { unprint } from '../src/film'
import { compileLine, newBath, plainLine, type Around, type CompileOptions, type Recipe } from '../src/line'
import { seededRandom } from '../src/numbers'
import { PlanRunner, type Plan } from '../src/plan'
import { SHIPPED_RECIPES } from '../src/recipes'
import { plainStages, type PointFunction } from '../src/stages'

export const shipped = (id: string): Recipe => SHIPPED_RECIPES.find((r) => r.id === id)!

/** Whether its print is darker for silver that is kept in it. */
export const timedInPart = ({ baths }: Recipe): boolean =>
  baths.some(({ settings }) => Number(settings['silverTimed'] ?? 100) < 100)

/** A line with one bath. */
export const lineOf = (
  kind: string,
  settings: Record<string, unknown> = {},
  bath: Partial<Recipe['baths'][number]> = {},
): Recipe => ({
  ...shipped('plain'),
  id: 'test',
  baths: [{ ...newBath(kind, 'bath-1', settings), ...bath }],
})

/** Settings of a kind, those that are not named at their defaults. */
export const settingsOf = (kind: string, settings: Record<string, unknown> = {}): Recipe['baths'][number]['settings'] =>
  lineOf(kind, settings).baths[0]!.settings

/** What the stages of a bath alone make of three numbers: scene light or code values, as its kind takes them. */
export function throughBath(kind: string, settings: Record<string, unknown>, numbers: Triple): Triple {
  const out = three()
  plainStages(kindById(kind).stages(settingsOf(kind, settings)))(...numbers, out)
  return [out[0]!, out[1]!, out[2]!]
}

/** The same of a grey. */
export const greyOf = (kind: string, settings: Record<string, unknown>, v: number): Triple =>
  throughBath(kind, settings, [v, v, v])

/** Code values of a few colours that gradings are tried on. */
export const COLOURS: readonly Triple[] = [
  [0.8, 0.3, 0.2],
  [0.2, 0.6, 0.3],
  [0.25, 0.35, 0.75],
  [0.7, 0.55, 0.45],
  [0.1, 0.12, 0.3],
]

export const close = (a: readonly number[], b: readonly number[], digits = 6): void =>
  a.forEach((v, k) => expect(v).toBeCloseTo(b[k]!, digits))

/** Display-linear light that a line makes of scene light. */
export function lightOf(line: PointFunction, rgb: Triple): Triple {
  const out = three()
  line(rgb[0], rgb[1], rgb[2], out)
  return [Math.max(0, out[0]!) ** 2.4, Math.max(0, out[1]!) ** 2.4, Math.max(0, out[2]!) ** 2.4]
}

/** CIELAB that a line makes of display code values. */
export function labFrom(recipe: Recipe): (codes: Triple) => Triple {
  const line = plainLine(recipe, undefined, 'display')
  const out = three()
  return (codes) => {
    line(codes[0], codes[1], codes[2], out)
    return labOfCodes([out[0]!, out[1]!, out[2]!])
  }
}
export const labOfCodes = (codes: readonly number[]): Triple =>
  bt709ToLab(codes.map((code) => displayLight(Math.max(0, code))) as unknown as Triple)
/** Code values of a grey of this light, and of a lightness, chroma and hue. */
export const greyCodes = (light: number): Triple => grey(displayCode(light))
export function codesOfHue([l, c, h]: Triple): Triple {
  const angle = (h * Math.PI) / 180
  return labToBt709([l, c * Math.cos(angle), c * Math.sin(angle)]).map((v) => displayCode(v)) as unknown as Triple
}

export const labOf = (recipe: Recipe, rgb: Triple, around?: Around): Triple =>
  bt709ToLab(lightOf(plainLine(recipe, around), rgb))
export const grey = (light: number): Triple => [light, light, light]
export const luminance = (c: Triple): number => 0.2126 * c[0] + 0.7152 * c[1] + 0.0722 * c[2]

/**
 * A wide set of colours as scene light: the whole cube of display colours, and colours whose channels lie within four stops of each other,
 * over sixteen stops of brightness.
 */
export function wideColours(n: number, seed = 7): Float32Array {
  const random = seededRandom(seed)
  const colours = new Float32Array(4 * n)
  for (let i = 0; i < n; i++) {
    const base = 0.18 * 2 ** (16 * random() - 9)
    for (let k = 0; k < 3; k++)
      colours[4 * i + k] = i % 2 === 0 ? unprint(random() ** 2.4) : base * 2 ** (4 * random() - 2)
    colours[4 * i + 3] = 1
  }
  return colours
}

const handed = new Pictures()

/** What a plan makes of a picture of scene light. */
export function ran(
  plan: Plan,
  camera: Float32Array,
  width: number,
  height: number,
  runner?: PlanRunner,
  frame = 0,
): Float32Array {
  const own = runner ?? new PlanRunner()
  const made = own.run(plan, handed.copy('camera', camera), width, height, { frame }).pixels.slice()
  if (!runner) own.release()
  return made
}

/** What a line makes of a picture of scene light. */
export const treated = (
  recipe: Recipe,
  camera: Float32Array,
  width: number,
  height: number,
  { runner, ...options }: CompileOptions & { runner?: PlanRunner } = {},
): Float32Array => ran(compileLine(recipe, options), camera, width, height, runner)

/** Does something to pixels in the kernels' memory and brings them back. */
export function inMemory(pixels: Float32Array, work: (at: number) => void): void {
  const memory = kernelMemory()
  memory.borrow(4 * (pixels.length + 16), (at) => {
    memory.floats(at, pixels.length).set(pixels)
    work(at)
    pixels.set(memory.floats(at, pixels.length))
  })
}

/** A setting as its schema describes it. */
export interface SettingField {
  readonly type?: string
  readonly minimum?: number
  readonly maximum?: number
  readonly default: unknown
  readonly enum?: readonly string[]
  readonly pattern?: string
}

/** Points that any curve takes, around the circle of hues as well. */
export const SOME_POINTS = [
  [0.02, 0.1],
  [0.4, 0.6],
  [0.9, 0.2],
]

/** Values of a setting beside its default: every other choice, or the given ones of its range. */
export function valuesBeside(f: SettingField, ofRange: readonly unknown[]): unknown[] {
  // A strand has tests of its own.
  if (f.type === 'array') return (f.default as unknown[]).length > 0 ? [SOME_POINTS] : []
  if (f.pattern) return ['#1f6048']
  // A LUT has tests of its own.
  if (f.default === null) return []
  return (f.enum ?? (f.type === 'boolean' ? [true, false] : ofRange)).filter((v) => v !== f.default)
}
