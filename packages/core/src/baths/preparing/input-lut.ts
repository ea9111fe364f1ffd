import Type, { type Static } from 'typebox'
import { ENCODINGS, encodingById, type Encoding } from '../../colour/encodings'
import type { Triple } from '../../colour/matrix'
import { straightView, unprint } from '../../film/straight'
import { nodesOfValues } from '../../stages/nodes'
import { curves, evenCurves, keyOf, mix, type PointStage, type Tone } from '../../stages/stage'
import { choice } from '../fields'
import { LIGHT } from '../grading/families'
import { stroke } from '../emblem'
import { defineKind } from '../kind'
import { LUT_STEPS, PackedLutSchema, lutNodes, unpackLut, type PackedLut } from './packed-lut'

const ids = ENCODINGS.map((e) => e.id)
const labels = ENCODINGS.map((e) => e.label)

const InputLutSettings = Type.Object(
  {
    lut: Type.Unsafe<PackedLut | null>({
      ...{ ...PackedLutSchema, nullable: true, default: null, control: 'drawn' },
      ...{ title: 'LUT', description: 'A .cube file, 1-D or 3-D.', group: 'LUT', first: true },
    }),
    takes: choice(ids, labels, 'linear', {
      title: 'It takes',
      description: 'What the numbers that go into the LUT mean; the picture is brought to them first.',
      ...{ group: 'LUT', first: true },
    }),
    gives: choice(ids, labels, 'bt1886', {
      title: 'It gives',
      description: 'What the numbers mean that come out of it.',
      ...{ group: 'LUT', first: true },
    }),
  },
  { additionalProperties: false },
)
type Settings = Static<typeof InputLutSettings>

const LIGHTS = { nodes: 'octaves', from: -24, to: 8 } as const

/** Scene light to the numbers of an encoding. A display encoding shows the straight view of the light. */
function toNumbers(e: Encoding): PointStage[] {
  if (e.refers === 'display')
    return [
      evenCurves({ key: keyOf('shown'), axis: LIGHTS, f: straightView }),
      mix(e.fromBt709),
      evenCurves({ key: keyOf('encoded', e.id), axis: LIGHTS, f: (v) => e.transfer.encode(v) }),
    ]
  return [mix(e.fromBt709), evenCurves({ key: keyOf('encoded', e.id), axis: LIGHTS, f: (v) => e.transfer.encode(v) })]
}

/** And back. */
function fromNumbers(e: Encoding): PointStage[] {
  const decode = e.transfer.decode
  if (e.id.startsWith('linear')) return [mix(e.toBt709)]
  const decoded = evenCurves({
    key: keyOf('decoded', e.id),
    axis: { nodes: 'even', from: 0, to: 1.5, steps: 16384 },
    f: decode,
  })
  if (e.refers === 'scene') return [decoded, mix(e.toBt709)]
  return [
    decoded,
    mix(e.toBt709),
    evenCurves({ key: 'unprinted', axis: { nodes: 'octaves', from: -24, to: 0 }, f: unprint }),
  ]
}

function lutStage(lut: PackedLut): PointStage {
  const values = unpackLut(lut)
  const key = keyOf('lut', lut.from, lut.to, lut.low, lut.high, lut.nodes)
  if (lut.kind === '1D') {
    const tone = (k: number): Tone => ({
      ...{ key: keyOf(key, k), axis: { nodes: 'even', from: lut.from[k]!, to: lut.to[k]!, steps: LUT_STEPS } as const },
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
  const [from, to] = [lut.from, lut.to] as unknown as [Triple, Triple]
  return { at: 'solid', solid: { key, from, to, valueAt: (place) => place, nodes, holds: 'codes' } }
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
    if (!s.lut) return null
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
    s.lut ? [...toNumbers(encodingById(s.takes)), lutStage(s.lut), ...fromNumbers(encodingById(s.gives))] : [],
  idle: (s: Settings) => (s.lut ? null : 'no file is chosen'),
  views: () => [],
})
