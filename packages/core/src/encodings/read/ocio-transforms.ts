import { rangeOf, same, type LogOp, type MatrixOp, type Op, type PerChannel } from '../ops/op'
import { inverseOps } from '../ops/run'
import { BUILTINS } from './builtin'
import { clfOps } from './clf'
import { cubeOp, spi1dOp, spi3dOp } from './tables'

/** A transform as a config has it: its fields, and its kind as the tag that YAML gives it. */
export type Transform = Readonly<Record<string, unknown>> & { readonly tag?: string }

/** The text of a file that another one names; null where it is not there. */
export type FileOf = (src: string) => string | null

/** What is not understood: said of the colour space that needs it. */
export class NotUnderstood extends Error {}

function numbersOf(t: Transform, field: string): readonly number[] | null {
  const value = t[field]
  if (value === undefined || value === null) return null
  const list = [value].flat().map(Number)
  if (!list.every(Number.isFinite))
    throw new NotUnderstood(`its ${field} is '${JSON.stringify(value)}', which is no list of finite numbers`)
  return list
}
/** One number for all channels, or one for each. */
function perChannel(t: Transform, field: string, fallback: PerChannel): PerChannel {
  const [a, b, c] = numbersOf(t, field) ?? fallback
  return b === undefined || c === undefined ? same(a!) : [a!, b, c]
}
const oneOf = (t: Transform, field: string, fallback: number): number => numbersOf(t, field)?.[0] ?? fallback
const styleOf = (t: Transform): string =>
  String((t['style'] as string | undefined) ?? '')
    .toLowerCase()
    .replace(/_/g, '')

function matrix(t: Transform): Op {
  const m = numbersOf(t, 'matrix') ?? [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]
  const offset = numbersOf(t, 'offset') ?? [0, 0, 0, 0]
  if (m.length !== 16) throw new NotUnderstood(`its matrix has ${m.length} numbers; it must have 16`)
  const row = (k: number): PerChannel => [m[4 * k]!, m[4 * k + 1]!, m[4 * k + 2]!]
  return {
    op: 'matrix',
    matrix: [row(0), row(1), row(2)],
    offset: [offset[0]!, offset[1]!, offset[2]!],
  } satisfies MatrixOp
}

/** LogTransform, LogAffineTransform and LogCameraTransform: linear to log. */
function log(t: Transform): LogOp {
  const camera = t.tag === 'LogCameraTransform'
  if (camera && !numbersOf(t, 'lin_side_break')) throw new NotUnderstood('its LogCameraTransform has no lin_side_break')
  return {
    op: 'log',
    back: false,
    base: oneOf(t, 'base', 2),
    logSlope: perChannel(t, 'log_side_slope', same(1)),
    logOffset: perChannel(t, 'log_side_offset', same(0)),
    linSlope: perChannel(t, 'lin_side_slope', same(1)),
    linOffset: perChannel(t, 'lin_side_offset', same(0)),
    linBreak: camera ? perChannel(t, 'lin_side_break', same(0)) : null,
    linearSlope: camera && numbersOf(t, 'linear_slope') ? perChannel(t, 'linear_slope', same(1)) : null,
  }
}

function exponent(t: Transform): Op {
  const style = styleOf(t)
  const below = style === 'mirror' ? 'mirror' : style === 'passthru' ? 'pass' : 'clamp'
  return { op: 'exponent', below, power: perChannel(t, 'value', same(1)) }
}
const moncurve = (t: Transform): Op => ({
  op: 'moncurve',
  back: false,
  power: perChannel(t, 'gamma', same(1)),
  offset: perChannel(t, 'offset', same(0)),
  mirror: styleOf(t) === 'mirror',
})

function range(t: Transform): Op {
  const value = (field: string): number | null => numbersOf(t, field)?.[0] ?? null
  const [minIn, maxIn, minOut, maxOut] = ['min_in', 'max_in', 'min_out', 'max_out'].map((end) =>
    value(`${end}_value`),
  ) as [number | null, number | null, number | null, number | null]
  return rangeOf({ minIn, maxIn, minOut, maxOut }, styleOf(t) !== 'noclamp')
}

const cdl = (t: Transform): Op => ({
  op: 'cdl',
  back: false,
  slope: perChannel(t, 'slope', same(1)),
  offset: perChannel(t, 'offset', same(0)),
  power: perChannel(t, 'power', same(1)),
  saturation: oneOf(t, 'sat', oneOf(t, 'saturation', 1)),
  clamp: styleOf(t) === 'asc',
})

function builtin(t: Transform): readonly Op[] {
  const style = String(t['style'])
  const ops = BUILTINS[style]
  if (!ops) throw new NotUnderstood(`it needs the built-in '${style}', which is no open standard or not known`)
  return ops
}

const READERS: Readonly<Record<string, (text: string) => readonly Op[]>> = {
  cube: (text) => [cubeOp(text)],
  clf: clfOps,
  spi1d: (text) => [spi1dOp(text)],
  spi3d: (text) => [spi3dOp(text)],
}
function file(t: Transform, fileOf: FileOf): readonly Op[] {
  const src = String(t['src'])
  const ending = /\.([a-z0-9]+)$/i.exec(src)?.[1]?.toLowerCase() ?? ''
  const read = READERS[ending]
  if (!read)
    throw new NotUnderstood(
      `it needs the file '${src}'; files that end in ${Object.keys(READERS).join(', ')} can be read`,
    )
  const text = fileOf(src)
  if (text === null) throw new NotUnderstood(`it needs the file '${src}', which is not there`)
  try {
    return read(text)
  } catch (error) {
    throw new NotUnderstood(`the file '${src}' cannot be read: ${(error as Error).message}`)
  }
}

const KINDS: Readonly<Record<string, (t: Transform, fileOf: FileOf) => readonly Op[]>> = {
  MatrixTransform: (t) => [matrix(t)],
  LogTransform: (t) => [log(t)],
  LogAffineTransform: (t) => [log(t)],
  LogCameraTransform: (t) => [log(t)],
  ExponentTransform: (t) => [exponent(t)],
  ExponentWithLinearTransform: (t) => [moncurve(t)],
  RangeTransform: (t) => [range(t)],
  CDLTransform: (t) => [cdl(t)],
  BuiltinTransform: builtin,
  FileTransform: file,
  GroupTransform: (t, fileOf) =>
    [t['children'] ?? []].flat().flatMap((child) => transformOps(child as Transform, fileOf)),
}

/** A transform of an OpenColorIO config as steps. Throws {@link NotUnderstood} naming what is not. */
export function transformOps(t: Transform, fileOf: FileOf): readonly Op[] {
  const kind = KINDS[t.tag ?? '']
  if (!kind) throw new NotUnderstood(`it needs a ${t.tag ?? 'transform without a kind'}, which is not known here`)
  const ops = kind(t, fileOf)
  return t['direction'] === 'inverse' ? backOf(ops, t.tag!) : ops
}

/** Steps undone. @param what for the sentence where there is no way back */
export function backOf(ops: readonly Op[], what: string): readonly Op[] {
  const back = inverseOps(ops)
  if (!back) throw new NotUnderstood(`its ${what} would have to be undone, and has no way back`)
  return back
}
