import { FogBathError } from '../../errors'
import { AP0, AP1, BT2020, BT709, P3, rgbToRgb, type Primaries } from '../../colour/spaces'
import type { CurveOp, Op } from '../ops/op'
import { defineEncoding, MOST_ENCODING_NAME, type EncodingDefinition } from '../own'
import { encodingById } from '../shipped'
import { matrixOp } from './builtin'
import { clfOps } from './clf'
import { readConfig, type FilesIn, type FoundEncodings } from './ocio'
import { cubeOp, spi1dOp, spi3dOp } from './tables'

/** What may come out of a table: curve and primaries of shipped encodings that are one of each. */
const GIVES: Readonly<Record<string, readonly [CurveOp['curve'] | null, Primaries]>> = {
  linear: [null, BT709],
  'linear-p3': [null, P3],
  'linear-bt2020': [null, BT2020],
  'linear-ap0': [null, AP0],
  'linear-ap1': [null, AP1],
  acescct: ['acescct', AP1],
  acescc: ['acescc', AP1],
  bt1886: ['bt1886', BT709],
  bt709: ['bt709', BT709],
  srgb: ['srgb', BT709],
  p3: ['srgb', P3],
  bt2020: ['bt1886', BT2020],
}
const GIVEN_IDS = Object.keys(GIVES)

function givenOps(id: string): readonly Op[] {
  const found = GIVES[id]
  if (!found)
    throw new FogBathError(
      'encoding',
      'gives',
      `'${id}' cannot come out of a file; use one of: ${GIVEN_IDS.join(', ')}.`,
    )
  const [curve, primaries] = found
  return [
    ...(curve ? [{ op: 'curve', back: false, curve } as const] : []),
    ...(primaries === BT709 ? [] : [matrixOp(rgbToRgb(primaries, BT709))]),
  ]
}

interface TableFile {
  readonly ops: readonly Op[]
  /** What its numbers are taken for where nothing is said. */
  readonly gives: string
}

/** What a CLF file says of its numbers. */
function describedIn(text: string): string {
  const said = /<OutputDescriptor>([^<]*)/.exec(text)?.[1] ?? ''
  if (/ACES ?2065|AP0/i.test(said)) return 'linear-ap0'
  return /ACES ?cg|AP1/i.test(said) ? 'linear-ap1' : 'linear'
}
const cube = (text: string): TableFile => {
  const op = cubeOp(text)
  // Tables of colours are mostly made for a screen, curves lead to light.
  return { ops: [op], gives: op.op === 'lut3d' ? 'bt1886' : 'linear' }
}
const TABLES: Readonly<Record<string, (text: string) => TableFile>> = {
  cube,
  clf: (text) => ({ ops: clfOps(text), gives: describedIn(text) }),
  spi1d: (text) => ({ ops: [spi1dOp(text)], gives: 'linear' }),
  spi3d: (text) => ({ ops: [spi3dOp(text)], gives: 'bt1886' }),
}
export const TABLE_ENDINGS = Object.keys(TABLES)
const endingOf = (file: string): string => /\.([^./\\]+)$/.exec(file)?.[1]?.toLowerCase() ?? ''
const nameOf = (file: string): string =>
  file
    .replace(/^.*[/\\]/, '')
    .replace(/\.[^.]*$/, '')
    .slice(0, MOST_ENCODING_NAME)

/**
 * An encoding that a table file is: its numbers in, what it gives out. Throws naming the file's own line and rule.
 * @param file its name @param gives the shipped encoding of what comes out; else what the file says, or what such files mostly give
 */
export function encodingOfTable(file: string, text: string, gives?: string, name = nameOf(file)): EncodingDefinition {
  const read = TABLES[endingOf(file)]
  if (!read)
    throw new FogBathError(
      'format',
      'encodings',
      `'${file}' must end in one of: ${TABLE_ENDINGS.map((e) => `.${e}`).join(' ')}.`,
    )
  const table = read(text)
  const given = gives ?? table.gives
  const behind = givenOps(given)
  const { refers, label } = encodingById(given)
  return defineEncoding({
    name,
    refers,
    from: `The file ${file.replace(/^.*[/\\]/, '')}; what comes out is taken for: ${label}.`,
    ops: [...table.ops, ...behind],
  })
}

/** All that a file of encodings holds, by its ending: an OpenColorIO config, or a table. */
export function readEncodings(file: string, text: string, filesIn: FilesIn): FoundEncodings {
  if (endingOf(file) === 'ocio') return readConfig(text, filesIn)
  return { encodings: [encodingOfTable(file, text)], left: [] }
}
