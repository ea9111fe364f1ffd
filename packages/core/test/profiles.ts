/** ICC profiles written by hand, for tests: header, tag table, tags (ICC.1:2022, 7). */
type Tag = readonly [name: string, data: Uint8Array]

const ascii = (text: string): number[] => [...text].map((c) => c.charCodeAt(0))
const be = (value: number, bytes: number): number[] =>
  Array.from({ length: bytes }, (_, i) => Math.floor(value / 256 ** (bytes - 1 - i)) & 255)
const fixed = (v: number): number[] => be((Math.round(v * 65536) + 2 ** 32) % 2 ** 32, 4)
const tagData = (type: string, ...bytes: number[]): Uint8Array =>
  Uint8Array.from([...ascii(type), 0, 0, 0, 0, ...bytes])

export const xyzTag = (xyz: readonly number[]): Uint8Array => tagData('XYZ ', ...xyz.flatMap(fixed))
export const powerTag = (gamma: number): Uint8Array => tagData('curv', ...be(1, 4), ...be(Math.round(gamma * 256), 2))
export const paraTag = (kind: number, ...parameters: number[]): Uint8Array =>
  tagData('para', ...be(kind, 2), 0, 0, ...parameters.flatMap(fixed))
export const tableTag = (values: readonly number[]): Uint8Array =>
  tagData('curv', ...be(values.length, 4), ...values.flatMap((v) => be(Math.round(65535 * v), 2)))
export const nameTag = (name: string): Uint8Array => tagData('desc', ...be(name.length + 1, 4), ...ascii(name), 0)

export function profileOf(tags: readonly Tag[], space = 'RGB ', pcs = 'XYZ '): Uint8Array {
  const header = [...new Array<number>(16).fill(0), ...ascii(space), ...ascii(pcs)]
  const start = [...header, ...new Array<number>(12).fill(0), ...ascii('acsp'), ...new Array<number>(88).fill(0)]
  const table: number[] = be(tags.length, 4)
  const body: number[] = []
  const places = new Map<Uint8Array, number>()
  for (const [name, data] of tags) {
    // What is the same lies there once, as profiles do it.
    if (!places.has(data)) {
      places.set(data, 132 + 12 * tags.length + body.length)
      body.push(...data)
    }
    table.push(...ascii(name), ...be(places.get(data)!, 4), ...be(data.length, 4))
  }
  return Uint8Array.from([...start, ...table, ...body])
}

/** A matrix profile of red, green and blue. @param columns XYZ of the three colours under D50 */
export function matrixProfile(name: string, columns: readonly (readonly number[])[], curve: Uint8Array): Uint8Array {
  const colours = ['rXYZ', 'gXYZ', 'bXYZ'].map((tag, i): Tag => [tag, xyzTag(columns[i]!)])
  const curves = ['rTRC', 'gTRC', 'bTRC'].map((tag): Tag => [tag, curve])
  return profileOf([['desc', nameTag(name)], ...colours, ...curves])
}
