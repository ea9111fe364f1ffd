import { three } from '../../colour/matrix'
import Type, { type Static } from 'typebox'
import { nodesOfValues, readNodes } from '../../stages/nodes'
import { FogBathError } from '../../errors'
import type { CubeFile } from '../../formats/cube-read'

/** Nodes a side that a 3-D LUT has in a bath, and a 1-D one; others are read at so many places. */
const SIDES = { '3D': 33, '1D': 1024 } as const

/**
 * A LUT as a setting of a bath: so it travels with the recipe. Numbers are 16-bit steps between `low` and `high`, little-endian, base64;
 * three a node, red running fastest.
 */
export const PackedLutSchema = Type.Object(
  {
    title: Type.String({ maxLength: 80 }),
    file: Type.String({ maxLength: 200 }),
    kind: Type.Unsafe<'1D' | '3D'>({ type: 'string', enum: ['1D', '3D'] }),
    /** Nodes a side that the file had. */
    size: Type.Integer({ minimum: 2, maximum: 65536 }),
    from: Type.Array(Type.Number(), { minItems: 3, maxItems: 3 }),
    to: Type.Array(Type.Number(), { minItems: 3, maxItems: 3 }),
    low: Type.Number(),
    high: Type.Number(),
    nodes: Type.String({ maxLength: 300_000, pattern: '^[A-Za-z0-9+/]*={0,2}$' }),
  },
  { additionalProperties: false },
)
export type PackedLut = Static<typeof PackedLutSchema>

const STEPS = 65535

/** @param file its name, to be shown */
export function packLut(cube: CubeFile, file: string): PackedLut {
  const values = cube.kind === '3D' ? resampled(cube) : stretched(cube)
  const [low, high] = values.reduce(([a, b], v) => [Math.min(a, v), Math.max(b, v)], [Infinity, -Infinity])
  const unit = Math.max(1e-9, high - low)
  const words = Uint16Array.from(values, (v) => Math.round((STEPS * (v - low)) / unit))
  const bytes = new Uint8Array(words.buffer)
  let text = ''
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192))
  const { title, kind, size, from, to } = cube
  return {
    title,
    file: file.slice(-200),
    kind,
    size,
    from: [...from],
    to: [...to],
    low,
    high: low + unit,
    nodes: btoa(text),
  }
}

/** The numbers of its nodes, three each. Throws where there are not as many as its kind has. */
export function unpackLut({ kind, low, high, nodes }: PackedLut): Float64Array {
  const bytes = Uint8Array.from(atob(nodes), (c) => c.charCodeAt(0))
  const expected = 3 * lutNodes(kind)
  if (bytes.length !== 2 * expected)
    throw new FogBathError(
      'recipe',
      'lut',
      `The LUT holds ${bytes.length / 2} numbers; one of its kind (${kind}) holds ${expected}.`,
    )
  return Float64Array.from(new Uint16Array(bytes.buffer), (v) => low + ((high - low) * v) / STEPS)
}

/** How many nodes a bath holds. */
export const lutNodes = (kind: PackedLut['kind']): number => (kind === '3D' ? SIDES['3D'] ** 3 : SIDES['1D'])
export const LUT_STEPS = SIDES['1D'] - 1

/** A 3-D LUT at as many places a side as tables have, read by tetrahedra. */
function resampled({ size, values }: CubeFile): Float64Array {
  const side = SIDES['3D']
  if (size === side) return values
  const read = readNodes({ from: [0, 0, 0], to: [1, 1, 1], nodes: () => nodesOfValues(values), holds: 'codes' })
  const all = new Float64Array(3 * side ** 3)
  const out = three()
  for (let i = 0; i < side ** 3; i++) {
    read(
      (i % side) / (side - 1),
      (Math.floor(i / side) % side) / (side - 1),
      Math.floor(i / side ** 2) / (side - 1),
      out,
    )
    all.set(out, 3 * i)
  }
  return all
}

function stretched({ size, values }: CubeFile): Float64Array {
  const count = SIDES['1D']
  return Float64Array.from({ length: 3 * count }, (_, i) => {
    const place = (Math.floor(i / 3) * (size - 1)) / (count - 1)
    const node = Math.min(size - 2, Math.floor(place))
    const at = (n: number): number => values[3 * n + (i % 3)]!
    return at(node) + (place - node) * (at(node + 1) - at(node))
  })
}
