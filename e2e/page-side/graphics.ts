import { KINDS } from '../../packages/core/src/baths'
import { ENCODINGS, encodingById } from '../../packages/core/src/encodings'
import { Pictures, recodeStages } from '../../packages/core/src/cpu'
import { STRAIGHT } from '../../packages/core/src/film'
import { LAY_MODES } from '../../packages/core/src/lay'
import { compileLine, newBath, type Around, type Bath, type Recipe } from '../../packages/core/src/line'
import { newPart, withPart, type Mask, type PartType } from '../../packages/core/src/masks'
import { PlanRunner, compileWork, type BathWork, type LineWork, type Plan } from '../../packages/core/src/plan'
import { SHIPPED_RECIPES } from '../../packages/core/src/recipes'
import { type Stage } from '../../packages/core/src/stages'
import { Device } from '../../packages/web/src/workers/gpu/device'
import { GraphicsRunner } from '../../packages/web/src/workers/gpu/runner'

/** How far graphics and processor lie apart, in codes of 8 bits; null where graphics leaves it to the processor. */
export interface Apart {
  readonly most: number
  readonly p999: number
}

const WIDTH = 192
const HEIGHT = 108

/** Scene light: smooth areas, edges and strong colours over sixteen stops. */
function scene(): Float32Array {
  const pixels = new Float32Array(4 * WIDTH * HEIGHT)
  let state = 1
  const random = (): number => (state = (state * 48271) % 2147483647) / 2147483647
  for (let y = 0, i = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, i += 4) {
      const base = 0.18 * 2 ** (12 * (x / WIDTH) - 8)
      const block = ((x >> 4) + (y >> 4)) % 3
      for (let k = 0; k < 3; k++) {
        const tint = block === 0 ? 1 : block === 1 ? 0.4 + 1.2 * (((x * (k + 1)) % 17) / 17) : 2 ** (4 * random() - 2)
        pixels[i + k] = base * tint * (1 + y / HEIGHT)
      }
      pixels[i + 3] = 1
    }
  return pixels
}

const device = Device.open(true)
const graphics = device && new GraphicsRunner(device)
const processor = new PlanRunner()
const pictures = new Pictures()
const light = scene()
const texture = device?.floats(WIDTH, HEIGHT)
if (texture) device!.fill(texture, light, WIDTH, HEIGHT, 4)

/** Code values of what a bath makes alone. */
const alone = (bath: Bath): Float32Array =>
  processor
    .run(compileLine(line([{ ...bath, lay: 'normal' }])), pictures.copy('camera', light), WIDTH, HEIGHT)
    .pixels.slice()

/** @param counts whether a pixel is compared */
function apartOf(plan: Plan, counts: (i: number) => boolean = () => true): Apart | null {
  const drawn = graphics!.run(plan, texture!, WIDTH, HEIGHT)
  if (!drawn) return null
  const made = device!.read(drawn, WIDTH, HEIGHT)
  const wanted = processor.run(plan, pictures.copy('camera', light), WIDTH, HEIGHT).pixels
  const apart = new Float32Array(3 * WIDTH * HEIGHT)
  for (let i = 0, at = 0; i < wanted.length; i++)
    if (i % 4 !== 3 && counts(i >> 2)) apart[at++] = 255 * Math.abs(made[i]! - wanted[i]!)
  apart.sort()
  return { most: apart[apart.length - 1]!, p999: apart[Math.floor(0.999 * apart.length)]! }
}

const line = (baths: readonly Bath[], rest: Partial<Recipe> = {}): Recipe => ({
  ...SHIPPED_RECIPES[0]!,
  ...rest,
  baths,
})
const plain = newBath('colour-print', 'plain')
const toned = { ...SHIPPED_RECIPES.find((r) => r.id === 'sepia')!.baths[0]!, id: 'toned' }
const masked = (type: PartType, more: Partial<Mask> = {}): Bath => ({
  ...toned,
  mask: { ...withPart(null, newPart(type)), soften: 4, ...more },
})

/** Plans by name: recipes, kinds, ways of laying, masks, deliveries, steps on neighbours and stand-ins for other stretches. */
function* plans(): Generator<readonly [string, Plan]> {
  const own = (recipe: Recipe, shown = 'bt1886', around?: Around): Plan =>
    compileLine(recipe, { ...(around && { around }), shown: recodeStages(encodingById(shown)) })
  for (const recipe of SHIPPED_RECIPES) yield [recipe.id, own(recipe)]
  for (const { id, sample } of KINDS) yield [`kind ${id}`, own(line([newBath(id, 'one', sample)]))]
  const hard = newBath('contrast', 'hard', { amount: 60, works: 'light' })
  const strand = newBath('strand', 'strand', { baths: [{ ...toned, takes: 'camera' }, hard] })
  yield ['a strand', own(line([plain, { ...strand, lay: 'multiply' }]))]
  for (const { id } of ENCODINGS) yield [`shown in ${id}`, own(line([plain]), id)]
  for (const lay of LAY_MODES)
    for (const under of [false, true])
      yield [`${lay} ${under ? 'under' : 'over'}`, own(line([plain, { ...toned, lay, under, strength: 70 }]))]
  for (const type of ['ellipse', 'rectangle', 'gradient', 'outline'] as const)
    yield [`mask ${type}`, own(line([plain, masked(type, { invert: type === 'gradient' })]))]
  yield ['part of the line', own(line([toned], { strength: 40 }))]
  yield ['twice', own(line([plain, { ...plain, id: 'again', takes: 'line' }]))]
  const around = {
    preparation: [newBath('balance', 'shot', { exposure: 1.5, kelvin: 5000 })],
    after: [newBath('timing', 'timed', { lightBlue: -3, saturation: 80 })],
  }
  yield ['a preparation and a timing', own(line([plain]), 'srgb', around)]
  for (const sigma of [0.4, 4, 60]) {
    const blur: Stage = { at: 'space', space: { kind: 'blur', sigmas: [sigma, 0, sigma / 2] } }
    yield [`blur of ${sigma}`, compileWork(work('camera', [...STRAIGHT, blur]))]
    yield [`finish with a blur of ${sigma}`, compileWork(work('line', [blur]))]
    yield [`prepare with a blur of ${sigma}`, compileWork(work('prepare', [blur], 60))]
  }
}

const work = (from: BathWork['from'], stages: readonly Stage[], strength = 100): LineWork => ({
  scene: [],
  untreated: STRAIGHT,
  straight: STRAIGHT,
  baths: [{ id: 'stand-in', from, stages, how: { lay: 'normal', under: false, strength }, mask: null, inside: false }],
  strength: 100,
  shown: [],
})

/** Where a grey of the line is given saturation, its hue is what rounding makes of it. */
function coloured(name: string): ((i: number) => boolean) | undefined {
  if (name !== 'hue under' && name !== 'saturation over') return undefined
  const own = alone(plain)
  return (i) => Math.max(...own.subarray(4 * i, 4 * i + 3)) - Math.min(...own.subarray(4 * i, 4 * i + 3)) > 4 / 255
}

const compareAll = (): (Apart & { readonly name: string })[] =>
  [...plans()].map(([name, plan]) => ({ name, ...(apartOf(plan, coloured(name)) ?? { most: NaN, p999: NaN }) }))

/** Masks that are read off the picture are the processor's. */
const leftAlone = (): string[] =>
  (['ellipse', 'tone', 'colour'] as const).filter((type) => apartOf(compileLine(line([plain, masked(type)]))) === null)

declare global {
  interface Window {
    graphics: { compareAll: typeof compareAll; leftAlone: typeof leftAlone; open: boolean }
  }
}
window.graphics = { compareAll, leftAlone, open: device !== null }
