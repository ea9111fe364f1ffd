import Type, { type Static } from 'typebox'
import { FogBathError } from '../errors'
import { digestOf } from '../numbers/digest'
import { memoized } from '../numbers/memoized'
import { Recent } from '../numbers/recent'
import { cacheKey, curves, mix, type Axis, type PointStage, type Tone } from '../stages/stage'
import { matrix } from '../colour/matrix'
import { CODES, LIGHT, type Encoding } from './encoding'
import { curvesOf } from './ops/curves'
import type { Op } from './ops/op'
import { inverseOps, runOps } from './ops/run'
import { encodingById } from './shipped'

/** An encoding of one's own as data: that of a camera, or what a file says. It travels whole, in orders, rows, backups and files. */
export interface EncodingDefinition {
  /** `own-` and a digest of all the rest but the name. */
  readonly id: string
  readonly name: string
  readonly refers: Encoding['refers']
  /** A sentence: what it was made from, and what was supposed. */
  readonly from: string
  /** Numbers to linear BT.709 light. */
  readonly ops: readonly Op[]
}

/** What is asked for: a shipped encoding by its id, or one's own. */
export type EncodingRef = string | EncodingDefinition
export const idOfEncoding = (ref: EncodingRef): string => (typeof ref === 'string' ? ref : ref.id)

export const MOST_ENCODING_NAME = 80
/** Most letters of all steps together: tables of two LUTs of 65 nodes a side. */
const MOST_ENCODING_LETTERS = 10e6
const MOST_OPS = 40

/** An encoding as JSON files and rows have it; its steps are proved by {@link defineEncoding}. */
export const EncodingDefinitionSchema = Type.Object(
  {
    id: Type.Optional(Type.String({ maxLength: 32 })),
    name: Type.String({ minLength: 1, maxLength: MOST_ENCODING_NAME, pattern: '\\S' }),
    refers: Type.Unsafe<Encoding['refers']>({ type: 'string', enum: ['display', 'scene'] }),
    from: Type.String({ maxLength: 1000 }),
    ops: Type.Unsafe<readonly Op[]>({ type: 'array', maxItems: MOST_OPS, items: { type: 'object' } }),
  },
  { additionalProperties: false },
)
export type EncodingDraft = Static<typeof EncodingDefinitionSchema>

/** Codes at which an encoding is tried before it is taken. */
const TRIED = Array.from({ length: 65 }, (_, i) => i / 64)

/**
 * Names a definition by its content, and proves that its steps make numbers of numbers.
 * Throws naming the encoding and the code at which they do not.
 */
export function defineEncoding({ name, refers, from, ops }: Omit<EncodingDraft, 'id'>): EncodingDefinition {
  const wrong = (text: string): FogBathError =>
    new FogBathError('encoding', 'encoding', `The encoding '${name}' ${text}`)
  if (JSON.stringify(ops).length > MOST_ENCODING_LETTERS)
    throw wrong(`holds more than ${MOST_ENCODING_LETTERS / 1e6} million letters of tables.`)
  const out = new Float64Array(3) as Parameters<ReturnType<typeof runOps>>[3]
  let run: ReturnType<typeof runOps>
  try {
    run = runOps(ops)
    run(0.5, 0.5, 0.5, out)
  } catch (error) {
    throw wrong(`has a step that cannot be worked out: ${(error as Error).message}`)
  }
  const seen = new Set<string>()
  for (const code of TRIED) {
    run(code, code, code, out)
    if (![...out].every(Number.isFinite)) throw wrong(`makes no light of the code ${code}.`)
    seen.add(out.join())
  }
  if (seen.size < 2) throw wrong('makes the same light of every code.')
  return { id: `own-${digestOf(JSON.stringify([refers, ops]))}`, name, refers, from, ops }
}

/** Ops as stages: what works on each channel by itself becomes one curve. */
function stagesOf(key: string, ops: readonly Op[], first: Axis, later: Axis): PointStage[] {
  const stages: PointStage[] = []
  let i = 0
  while (i < ops.length) {
    const run: Op[] = []
    while (i < ops.length && curvesOf(ops[i]!)) run.push(ops[i++]!)
    if (run.length > 0) stages.push(curveStage(cacheKey(key, i), run, stages.length === 0 ? first : later))
    const op = ops[i++]
    if (op) stages.push(mixingStage(cacheKey(key, i), op))
  }
  return stages
}

function curveStage(key: string, ops: readonly Op[], axis: Axis): PointStage {
  const all = ops.map((op) => curvesOf(op)!)
  const tone = (k: 0 | 1 | 2): Tone => ({ key: cacheKey(key, k), axis, f: (v) => all.reduce((x, own) => own[k](x), v) })
  if (!ops.every(isEven)) return curves(tone(0), tone(1), tone(2))
  const one = tone(0)
  return curves(one, one, one)
}

/** Whether an op does the same to all channels. */
const isEven = (op: Op): boolean =>
  Object.values(op).every((v) => !Array.isArray(v) || v.every((x) => x === v[0])) &&
  (op.op !== 'lut1d' || op.channels === 1)

function mixingStage(key: string, op: Op): PointStage {
  if (op.op === 'matrix') return mix(matrix(op.matrix), op.offset)
  if (op.op === 'lut3d') return tableStage(key, runOps([op]), op.from, op.to)
  return tableStage(key, runOps([op]), [-0.5, -0.5, -0.5], [1.5, 1.5, 1.5])
}

/** As many nodes a side as tables have. */
const SIDE = 33
/** What mixes channels in no straight way, at the places that tables have. */
function tableStage(
  key: string,
  f: ReturnType<typeof runOps>,
  from: readonly [number, number, number],
  to: readonly [number, number, number],
): PointStage {
  const nodes = (): Float32Array => {
    const all = new Float32Array(4 * SIDE ** 3)
    const out = new Float64Array(3) as Parameters<typeof f>[3]
    const at = (k: 0 | 1 | 2, i: number): number => from[k] + ((to[k] - from[k]) * i) / (SIDE - 1)
    for (let n = 0; n < SIDE ** 3; n++) {
      f(at(0, n % SIDE), at(1, Math.floor(n / SIDE) % SIDE), at(2, Math.floor(n / SIDE ** 2)), out)
      all.set(out, 4 * n)
    }
    return all
  }
  return { at: 'solid', solid: { key, from, to, valueAt: (place) => place, nodes: memoized(1, nodes), holds: 'codes' } }
}

/** What is asked for as the program works with it. Throws where an id is none. */
export function encodingOf(ref: EncodingRef): Encoding {
  return typeof ref === 'string' ? encodingById(ref) : ownEncoding(ref)
}

/** So many of one's own are kept as they are worked with. */
const made = new Recent<Encoding>(20)
function ownEncoding({ id, name, refers, from, ops }: EncodingDefinition): Encoding {
  return made.get(id, () => {
    const back = inverseOps(ops)
    return {
      id,
      label: name,
      help: from,
      refers,
      numbers: ops.every((op) => op.op === 'matrix') ? 'light' : 'codes',
      decode: stagesOf(cacheKey('own', id), ops, CODES, LIGHT),
      encode: back && stagesOf(cacheKey('own back', id), back, LIGHT, LIGHT),
    }
  })
}

/** Its exact work, and whether there is a way back. */
export const definitionLight = ({ ops }: EncodingDefinition) => runOps(ops)
export const hasWayBack = ({ ops }: EncodingDefinition): boolean => inverseOps(ops) !== null
