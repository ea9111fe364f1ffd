import Type, { type Static } from 'typebox'
import {
  ENCODINGS,
  EncodingDefinitionSchema,
  defineEncoding,
  encodingOf,
  hasWayBack,
  wayBack,
  type Encoding,
  type EncodingDefinition,
} from '../../encodings'
import { triple } from '../../colour/matrix'
import { straightView, unprint } from '../../film/straight'
import { nodesOfValues } from '../../stages/nodes'
import { curves, evenCurves, cacheKey, type PointStage, type Tone } from '../../stages/stage'
import { choice } from '../fields'
import { LIGHT } from '../grading/families'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { LUT_STEPS, PackedLutSchema, lutNodes, unpackLut, type PackedLut } from './packed-lut'

const ids = ENCODINGS.map((e) => e.id)
const labels = ENCODINGS.map((e) => e.label)

/** An encoding of one's own in place of a shipped one; it stands in the recipe whole, so that the recipe goes anywhere. */
const ownEncoding = (title: string, description: string) =>
  Type.Unsafe<EncodingDefinition | null>({
    ...EncodingDefinitionSchema,
    nullable: true,
    default: null,
    control: 'drawn',
    title,
    description,
    group: 'LUT',
  })

const InputLutSettings = Type.Object(
  {
    lut: Type.Unsafe<PackedLut | null>({
      ...PackedLutSchema,
      nullable: true,
      default: null,
      control: 'drawn',
      title: 'LUT',
      description: 'A .cube file, 1-D or 3-D.',
      group: 'LUT',
      first: true,
    }),
    takes: choice(ids, labels, 'linear', {
      title: 'It takes',
      description: 'What the numbers that go into the LUT mean; the picture is brought to them first.',
      group: 'LUT',
      first: true,
    }),
    gives: choice(ids, labels, 'bt1886', {
      title: 'It gives',
      description: 'What the numbers mean that come out of it.',
      group: 'LUT',
      first: true,
    }),
    ownTakes: ownEncoding('It takes, own encoding', 'An encoding of your own that counts in place of what it takes.'),
    ownGives: ownEncoding('It gives, own encoding', 'An encoding of your own that counts in place of what it gives.'),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof InputLutSettings>

const LIGHTS = { nodes: 'octaves', from: -24, to: 8 } as const

/** Scene light to the numbers of an encoding. A display encoding shows the straight view of the light. */
function toNumbers(e: Encoding): PointStage[] {
  const shown = evenCurves({ key: cacheKey('shown'), axis: LIGHTS, f: straightView })
  return [...(e.refers === 'display' ? [shown] : []), ...wayBack(e)]
}

/** And back. */
function fromNumbers({ decode, refers }: Encoding): PointStage[] {
  const unprinted = evenCurves({ key: 'unprinted', axis: { nodes: 'octaves', from: -24, to: 0 }, f: unprint })
  return [...decode, ...(refers === 'display' ? [unprinted] : [])]
}

function lutStage(lut: PackedLut): PointStage {
  const values = unpackLut(lut)
  const key = cacheKey('lut', lut.from, lut.to, lut.low, lut.high, lut.nodes)
  if (lut.kind === '1D') {
    const tone = (k: number): Tone => ({
      key: cacheKey(key, k),
      axis: { nodes: 'even', from: lut.from[k]!, to: lut.to[k]!, steps: LUT_STEPS } as const,
      f: (v) => {
        const place = ((v - lut.from[k]!) / (lut.to[k]! - lut.from[k]!)) * LUT_STEPS
        const node = Math.min(LUT_STEPS - 1, Math.max(0, Math.floor(place)))
        const at = (n: number): number => values[3 * n + k]!
        return at(node) + (place - node) * (at(node + 1) - at(node))
      },
    })
    return curves(tone(0), tone(1), tone(2))
  }
  const nodes = (): Float32Array => nodesOfValues(values)
  const [from, to] = [triple(lut.from), triple(lut.to)]
  return { at: 'solid', solid: { key, from, to, valueAt: (place) => place, nodes, holds: 'codes' } }
}

/** A definition does what its id says; what the LUT takes must have a way back. */
function ownFault(
  setting: 'ownTakes' | 'ownGives',
  own: EncodingDefinition | null,
): { setting: string; rule: string } | null {
  if (!own) return null
  try {
    if (defineEncoding(own).id !== own.id)
      return { setting, rule: `the encoding '${own.name}' is not what its id says.` }
    if (setting === 'ownTakes' && !hasWayBack(own))
      return { setting, rule: `the encoding '${own.name}' has no way back from light to numbers.` }
  } catch (error) {
    return { setting, rule: (error as Error).message }
  }
  return null
}

/** The LUT of a camera, or any other, before the chemistry. */
export const inputLut = defineKind({
  id: 'input-lut',
  label: 'Input LUT',
  short: 'Input LUT',
  family: { name: LIGHT, emblem: [stroke('M3 3h10v10H3z'), stroke('M3 8h10M8 3v10')] },
  stretch: 'prepare',
  summary: 'A .cube file before all chemistry: any camera’s own, or one that came with the footage.',
  notes: {
    about: 'A LUT from a file.',
    model:
      'Scene light is brought to the numbers that the LUT takes, looked up (1-D: straight between 1024 places; 3-D: by tetrahedra between 33³), and what comes out is brought back to scene light: display numbers are unprinted a channel at a time. Larger files are read at these places.',
  },
  schema: InputLutSettings,
  takes: 'camera',
  fault: (s: Settings) => {
    const own = ownFault('ownTakes', s.ownTakes) ?? ownFault('ownGives', s.ownGives)
    if (own || !s.lut) return own
    const numbers = atob(s.lut.nodes).length / 2
    const expected = 3 * lutNodes(s.lut.kind)
    if (numbers !== expected)
      return {
        setting: 'lut',
        rule: `the LUT holds ${numbers} numbers; one of its kind (${s.lut.kind}) holds ${expected}.`,
      }
    return s.lut.to.some((v, k) => v <= s.lut!.from[k]!)
      ? { setting: 'lut', rule: 'the LUT’s range ends before it begins.' }
      : null
  },
  stages: (s: Settings) =>
    s.lut
      ? [
          ...toNumbers(encodingOf(s.ownTakes ?? s.takes)),
          lutStage(s.lut),
          ...fromNumbers(encodingOf(s.ownGives ?? s.gives)),
        ]
      : [],
  idle: (s: Settings) => (s.lut ? null : 'no file is chosen'),
  views: () => [],
})
