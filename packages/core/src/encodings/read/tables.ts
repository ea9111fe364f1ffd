import { FogBathError } from '../../errors'
import { readCube } from '../../formats/cube-read'
import type { Lut1dOp, Lut3dOp, Op } from '../ops/op'
import { same } from '../ops/op'
import { packFloats } from '../ops/pack'

const wrong = (text: string): FogBathError => new FogBathError('format', 'lut', text)

/** A .cube file as a step. */
export function cubeOp(text: string): Op {
  const { kind, size, from, to, values } = readCube(text)
  const ends = { from: [from[0]!, from[1]!, from[2]!], to: [to[0]!, to[1]!, to[2]!] } as const
  return kind === '1D'
    ? ({ op: 'lut1d', back: false, half: false, ...ends, channels: 3, nodes: packFloats(values) } satisfies Lut1dOp)
    : ({ op: 'lut3d', side: size, ...ends, nodes: packFloats(values) } satisfies Lut3dOp)
}

const MOST_LENGTH = 65536

/** Numbers of a row, all finite. @param line counted from 1 */
function numbersOf(row: string, line: number, kind: string): number[] {
  const numbers = row.trim().split(/\s+/).map(Number)
  if (!numbers.every(Number.isFinite))
    throw wrong(`Line ${line} of the ${kind} file: '${row.slice(0, 40)}' holds something that is no number.`)
  return numbers
}

/** A .spi1d file: a header of `From`, `Length` and `Components`, then a row a node between braces. */
export function spi1dOp(text: string): Op {
  const lines = text.split(/\r\n|\r|\n/)
  const header = (name: string): string | undefined =>
    lines.map((l) => new RegExp(`^\\s*${name}\\s+(.*)$`).exec(l)?.[1]).find(Boolean)
  const length = Number(header('Length'))
  const components = Number(header('Components') ?? 1)
  const [low, high] = (header('From') ?? '0 1').split(/\s+/).map(Number)
  if (!Number.isInteger(length) || length < 2 || length > MOST_LENGTH)
    throw wrong(
      `The .spi1d file has a Length of ${header('Length') ?? 'nothing'}; it must be a whole number from 2 to ${MOST_LENGTH}.`,
    )
  if (components !== 1 && components !== 3)
    throw wrong(`The .spi1d file has ${components} Components; 1 or 3 can be read.`)
  if (!(low! < high!)) throw wrong(`The .spi1d file runs From ${low} to ${high}; the second must be above the first.`)
  const [begin, end] = [lines.findIndex((l) => l.trim() === '{'), lines.findIndex((l) => l.trim() === '}')]
  const rows = begin < 0 || end < begin ? [] : lines.slice(begin + 1, end)
  const values = rows.flatMap((row, i) => (row.trim() ? numbersOf(row, begin + 2 + i, '.spi1d') : []))
  if (values.length !== length * components)
    throw wrong(
      `The .spi1d file holds ${values.length} numbers; ${length} nodes of ${components} need ${length * components}.`,
    )
  return {
    op: 'lut1d',
    back: false,
    half: false,
    from: same(low!),
    to: same(high!),
    channels: components,
    nodes: packFloats(values),
  }
}

/** A .spi3d file: `SPILUT 1.0`, sizes, then the place and the colour of each node. */
export function spi3dOp(text: string): Op {
  const lines = text.split(/\r\n|\r|\n/).map((l) => l.trim())
  if (!lines[0]?.startsWith('SPILUT')) throw wrong("The .spi3d file does not begin with 'SPILUT'.")
  const sizes = numbersOf(lines[2] ?? '', 3, '.spi3d')
  const side = sizes[0]!
  if (sizes.length !== 3 || sizes.some((v) => v !== side) || side < 2 || side > 129)
    throw wrong(`The .spi3d file has the sizes ${sizes.join(' ')}; all three must be the same, from 2 to 129.`)
  const values = new Float64Array(3 * side ** 3).fill(NaN)
  for (const [i, row] of lines.slice(3).entries()) {
    if (row === '' || row.startsWith('#')) continue
    const [r, g, b, ...colour] = numbersOf(row, i + 4, '.spi3d')
    if (colour.length !== 3 || [r, g, b].some((v) => !Number.isInteger(v) || v! < 0 || v! >= side))
      throw wrong(`Line ${i + 4} of the .spi3d file: a row is a place within ${side} nodes and three numbers.`)
    values.set(colour, 3 * (r! + side * (g! + side * b!)))
  }
  if (values.some(Number.isNaN)) throw wrong('The .spi3d file does not name every node.')
  return { op: 'lut3d', side, from: same(0), to: same(1), nodes: packFloats(values) }
}
