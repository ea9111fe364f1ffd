import { FogBathError } from '../errors'

/** A LUT as a .cube file has it. */
export interface CubeFile {
  readonly title: string
  readonly kind: '1D' | '3D'
  /** Nodes a side. */
  readonly size: number
  /** What the numbers that go in run from and to, a channel. */
  readonly from: readonly number[]
  readonly to: readonly number[]
  /** Three numbers a node, red running fastest. */
  readonly values: Float64Array
}

/** Longest file that is read, letters: the largest LUT with forty letters a row. */
export const MOST_CUBE_LETTERS = 90e6

const MOST = { '1D': 65536, '3D': 129 } as const

const wrong = (line: number, text: string): FogBathError =>
  new FogBathError('format', 'lut', `Line ${line} of the .cube file: ${text}`)

/**
 * Reads the open .cube form: TITLE, LUT_1D_SIZE or LUT_3D_SIZE, DOMAIN_MIN and DOMAIN_MAX, then a row of three numbers a node.
 * Throws naming the line and the rule.
 */
export function readCube(text: string): CubeFile {
  if (text.length > MOST_CUBE_LETTERS)
    throw new FogBathError(
      'format',
      'lut',
      `The file is longer than ${MOST_CUBE_LETTERS / 1e6} million letters, the most that is read.`,
    )
  let [title, kind, size] = ['', '' as CubeFile['kind'] | '', 0]
  const ends = { DOMAIN_MIN: [0, 0, 0], DOMAIN_MAX: [1, 1, 1] }
  const values: number[] = []
  const lines = text.split(/\r\n|\r|\n/)
  for (const [i, raw] of lines.entries()) {
    const row = raw.trim()
    if (row === '' || row.startsWith('#')) continue
    const [word, ...rest] = row.split(/\s+/)
    if (word === 'TITLE') title = row.slice(5).trim().replace(/^"|"$/g, '').slice(0, 80)
    else if (word === 'LUT_1D_SIZE' || word === 'LUT_3D_SIZE') {
      if (kind) throw wrong(i + 1, 'it names a second size; a file holds one LUT.')
      kind = word === 'LUT_1D_SIZE' ? '1D' : '3D'
      size = sizeOf(rest[0] ?? '', kind, i + 1)
    } else if (word === 'DOMAIN_MIN' || word === 'DOMAIN_MAX') ends[word] = threeOf(rest, i + 1)
    else if (/^[-+.\d]|^nan|^inf/i.test(word!)) values.push(...threeOf([word!, ...rest], i + 1))
    else if (!/^[A-Z_0-9]+$/.test(word!))
      throw wrong(i + 1, `'${row.slice(0, 40)}' is neither a keyword nor three numbers; this is no .cube file.`)
  }
  if (!kind)
    throw new FogBathError('format', 'lut', 'The file names neither LUT_1D_SIZE nor LUT_3D_SIZE; it is no .cube LUT.')
  const rows = kind === '1D' ? size : size ** 3
  if (values.length !== 3 * rows)
    throw new FogBathError(
      'format',
      'lut',
      `The LUT has ${values.length / 3} rows of numbers; a ${kind} LUT of size ${size} has ${rows}.`,
    )
  const at = ends.DOMAIN_MAX.findIndex((v, k) => v <= ends.DOMAIN_MIN[k]!)
  if (at >= 0)
    throw new FogBathError(
      'format',
      'lut',
      `DOMAIN_MAX (${ends.DOMAIN_MAX[at]}) is not above DOMAIN_MIN (${ends.DOMAIN_MIN[at]}).`,
    )
  return { title, kind, size, from: ends.DOMAIN_MIN, to: ends.DOMAIN_MAX, values: Float64Array.from(values) }
}

function sizeOf(word: string, kind: CubeFile['kind'], line: number): number {
  const size = Number(word)
  if (!Number.isInteger(size) || size < 2 || size > MOST[kind])
    throw wrong(line, `the size '${word}' of a ${kind} LUT must be a whole number from 2 to ${MOST[kind]}.`)
  return size
}

function threeOf(words: readonly string[], line: number): number[] {
  const numbers = words.slice(0, 3).map(Number)
  if (words.length !== 3 || !numbers.every(Number.isFinite))
    throw wrong(line, `'${words.join(' ').slice(0, 40)}' must be three finite numbers.`)
  return numbers
}
