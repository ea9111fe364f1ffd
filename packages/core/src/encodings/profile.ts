import { adaptation, BT709, BT709_TO_XYZ, D50_WHITE, xyzOf } from '../colour/spaces'
import { multiply, transform } from '../colour/matrix'
import type { Triple } from '../colour'
import { encodingOf, type EncodingRef } from './own'
import { lightOfColour } from './encoding'

/** Nodes of the curve: between them it is straight. */
const NODES = 4096
/** Light by which channels may depend on each other and still count as apart, and white may miss 1. */
const APART = 1e-4

const ascii = (text: string): number[] => [...text].map((c) => c.charCodeAt(0))
const whole = (value: number, bytes: 2 | 4): number[] =>
  Array.from({ length: bytes }, (_, i) => Math.floor(value / 256 ** (bytes - 1 - i)) % 256)
/** s15Fixed16Number (ICC.1:2022, 4.6). */
const fixed = (v: number): number[] => whole((Math.round(v * 65536) + 2 ** 32) % 2 ** 32, 4)
const typed = (type: string, ...bytes: readonly number[]): number[] => [...ascii(type), 0, 0, 0, 0, ...bytes]
/** multiLocalizedUnicodeType of one language (10.15). */
const words = (text: string): number[] => {
  const letters = [...text].flatMap((c) => whole(c.charCodeAt(0), 2))
  return typed(
    'mluc',
    ...whole(1, 4),
    ...whole(12, 4),
    ...ascii('enUS'),
    ...whole(letters.length, 4),
    ...whole(28, 4),
    ...letters,
  )
}

/**
 * The colour profile of an encoding, for files that are shown elsewhere: a matrix, and a curve for all three channels (ICC.1:2022,
 * version 4, 8.3.3).
 * @returns null for one that no such profile can say: that is not of a screen, goes above white, or mixes channels otherwise
 */
export function profileOfEncoding(ref: EncodingRef): Uint8Array | null {
  const encoding = encodingOf(ref)
  if (encoding.refers !== 'display') return null
  const light = (rgb: Triple): Triple => lightOfColour(encoding, rgb)
  const columns = (
    [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as const
  ).map(light)
  const white = light([1, 1, 1])
  if (white.some((v) => Math.abs(v - 1) > APART)) return null
  // Light of a channel alone is its column, weighted by the curve that greys have.
  const curve = (v: number): number => light([v, v, v])[1]
  const lone = [0.25, 0.6].every((v) =>
    columns.every((column, k) => {
      const made = light([0, 1, 2].map((i) => (i === k ? v : 0)) as unknown as Triple)
      return made.every((x, i) => Math.abs(x - curve(v) * column[i]!) < APART)
    }),
  )
  if (!lone) return null
  const toPcs = multiply(adaptation(xyzOf(BT709.white), D50_WHITE), BT709_TO_XYZ)
  const nodes = Array.from({ length: NODES }, (_, i) =>
    Math.round(65535 * Math.min(1, Math.max(0, curve(i / (NODES - 1))))),
  )
  const trc = typed('curv', ...whole(NODES, 4), ...nodes.flatMap((v) => whole(v, 2)))
  const xyz = (v: Triple): number[] => typed('XYZ ', ...v.flatMap(fixed))
  const adapted = adaptation(xyzOf(BT709.white), D50_WHITE).flatMap((row) => [...row].flatMap(fixed))
  return profileOfTags([
    ['desc', words(encoding.label)],
    ['cprt', words('No copyright, use freely')],
    ['wtpt', xyz(D50_WHITE)],
    ['chad', typed('sf32', ...adapted)],
    ...(['rXYZ', 'gXYZ', 'bXYZ'] as const).map((name, i) => [name, xyz(transform(toPcs, columns[i]!))] as const),
    ...(['rTRC', 'gTRC', 'bTRC'] as const).map((name) => [name, trc] as const),
  ])
}

/** Header (7.2) and table of tags (7.3); what is the same lies there once. */
function profileOfTags(tags: readonly (readonly [name: string, data: readonly number[]])[]): Uint8Array {
  const table: number[] = whole(tags.length, 4)
  const body: number[] = []
  const places = new Map<readonly number[], number>()
  for (const [name, data] of tags) {
    if (!places.has(data)) {
      while (body.length % 4 > 0) body.push(0)
      places.set(data, 132 + 12 * tags.length + body.length)
      body.push(...data)
    }
    table.push(...ascii(name), ...whole(places.get(data)!, 4), ...whole(data.length, 4))
  }
  while (body.length % 4 > 0) body.push(0)
  const size = 128 + table.length + body.length
  const zeros = (n: number): number[] => new Array<number>(n).fill(0)
  const header = [
    ...whole(size, 4),
    ...zeros(4),
    ...whole(0x04400000, 4),
    ...ascii('mntrRGB XYZ '),
    // A date that is always the same: the same picture is the same file.
    ...[2000, 1, 1, 0, 0, 0].flatMap((v) => whole(v, 2)),
    ...ascii('acsp'),
    ...zeros(28),
    ...D50_WHITE.flatMap(fixed),
    ...zeros(48),
  ]
  return Uint8Array.from([...header, ...table, ...body])
}
