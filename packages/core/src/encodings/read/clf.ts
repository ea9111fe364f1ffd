import { same, type Op, type PerChannel } from '../ops/op'
import { packFloats } from '../ops/pack'
import { cdlOp, exponentOp, logOp, rangeOp } from './clf-curves'
import { fullOf, numbersIn, wrong, type Given } from './clf-given'
import { attributesOf, childOf, childrenOf, nameOf, parseXml, textOf } from './xml'

/** Longest file that is read, letters. */
const MOST_CLF_LETTERS = 60e6

/** The array of an element with its sizes. */
function arrayOf({ node, name }: Given): { readonly dim: readonly number[]; readonly values: readonly number[] } {
  const array = childOf(node, 'Array')
  if (!array) throw wrong(`${name} has no Array.`)
  const dim = numbersIn(attributesOf(array)['dim'] ?? '', `the dim of ${name}`)
  return { dim, values: numbersIn(textOf(array), name) }
}

function matrixOp(given: Given): Op {
  const { dim, values } = arrayOf(given)
  const { full, name } = given
  const [rows, columns] = dim
  if (rows !== 3 || (columns !== 3 && columns !== 4) || values.length !== 3 * columns)
    throw wrong(`${name} is an array of ${dim.join(' ')} with ${values.length} numbers; a matrix is 3 3 or 3 4.`)
  const row = (k: number): PerChannel => {
    const at = columns * k
    return [values[at]!, values[at + 1]!, values[at + 2]!].map((v) => (v * full.in) / full.out) as unknown as PerChannel
  }
  const offset = [0, 1, 2].map((k) => (columns === 4 ? values[4 * k + 3]! / full.out : 0)) as unknown as PerChannel
  return { op: 'matrix', matrix: [row(0), row(1), row(2)], offset }
}

function lut1dOp(given: Given): Op {
  const { node, name, full } = given
  const { dim, values } = arrayOf(given)
  const [length, channels] = dim
  const half = attributesOf(node)['halfDomain'] === 'true'
  if (attributesOf(node)['rawHalfs'] === 'true') throw wrong(`${name} has raw half floats, which cannot be read.`)
  if (!length || length < 2 || (channels !== 1 && channels !== 3) || values.length !== length * channels)
    throw wrong(
      `${name} is an array of ${dim.join(' ')} with ${values.length} numbers; a LUT1D is N 1 or N 3, N at least 2.`,
    )
  if (half && length !== 65536) throw wrong(`${name} has a half domain of ${length} nodes; it must have 65536.`)
  const ends = indexMap(given)
  const nodes = packFloats(values.map((v) => v / full.out))
  return { op: 'lut1d', back: false, half, ...ends, channels, nodes }
}

/** An IndexMap of two ends; without one the table goes from 0 to 1. */
function indexMap({ node, name, full }: Given): { from: PerChannel; to: PerChannel } {
  const map = childOf(node, 'IndexMap')
  if (!map) return { from: same(0), to: same(1) }
  const pairs = textOf(map)
    .split(/\s+/)
    .map((p) => p.split('@').map(Number))
  if (pairs.length !== 2 || pairs.flat().some((v) => !Number.isFinite(v)))
    throw wrong(`The IndexMap of ${name} has ${pairs.length} places; two, each as value@index, can be read.`)
  return { from: same(pairs[0]![0]! / full.in), to: same(pairs[1]![0]! / full.in) }
}

function lut3dOp(given: Given): Op {
  const { dim, values } = arrayOf(given)
  const { full, name } = given
  const [side, ...others] = dim
  if (!side || side < 2 || side > 129 || others.join() !== `${side},${side},3` || values.length !== 3 * side ** 3)
    throw wrong(
      `${name} is an array of ${dim.join(' ')} with ${values.length} numbers; a LUT3D is N N N 3, N from 2 to 129.`,
    )
  // Blue runs fastest there, red here.
  const turned = new Float64Array(values.length)
  for (let r = 0, i = 0; r < side; r++)
    for (let g = 0; g < side; g++)
      for (let b = 0; b < side; b++, i += 3)
        for (let k = 0; k < 3; k++) turned[3 * (r + side * (g + side * b)) + k] = values[i + k]! / full.out
  return { op: 'lut3d', side, ...indexMap(given), nodes: packFloats(turned) }
}

const READERS: Readonly<Record<string, (given: Given) => Op>> = {
  Matrix: matrixOp,
  LUT1D: lut1dOp,
  LUT3D: lut3dOp,
  Range: rangeOp,
  Log: logOp,
  Exponent: exponentOp,
  ASC_CDL: cdlOp,
}
/** Elements that say nothing of the numbers. */
const TEXTS = new Set(['Description', 'InputDescriptor', 'OutputDescriptor', 'Info', '#text', 'Comment'])

/** The process nodes of a Common LUT Format file, in their order. Throws naming the node and the rule. */
export function clfOps(text: string): Op[] {
  if (text.length > MOST_CLF_LETTERS)
    throw wrong(`The file is longer than ${MOST_CLF_LETTERS / 1e6} million letters, the most that is read.`)
  const list = parseXml(text, wrong).find((node) => nameOf(node) === 'ProcessList')
  if (!list) throw wrong('The file holds no ProcessList; it is no Common LUT Format file.')
  return childrenOf(list)
    .filter((node) => !TEXTS.has(nameOf(node)))
    .filter((node) => attributesOf(node)['bypass'] !== 'true')
    .map((node, i) => {
      const name = `The node ${i + 1} (${nameOf(node)})`
      const read = READERS[nameOf(node)]
      if (!read) throw wrong(`${name} is of a kind that is not known.`)
      const { inBitDepth, outBitDepth } = attributesOf(node)
      return read({ node, name, full: { in: fullOf(inBitDepth, name), out: fullOf(outBitDepth, name) } })
    })
}
