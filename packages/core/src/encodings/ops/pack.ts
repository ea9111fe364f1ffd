import { FogBathError } from '../../errors'

/** Numbers of tables as text: 32-bit floats, little-endian, base64. */
export function packFloats(values: ArrayLike<number>): string {
  const bytes = new Uint8Array(Float32Array.from(values).buffer)
  let text = ''
  for (let i = 0; i < bytes.length; i += 8192) text += String.fromCharCode(...bytes.subarray(i, i + 8192))
  return btoa(text)
}

/** And back. Throws where there are not so many. */
export function unpackFloats(text: string, count: number): Float32Array {
  const bytes = Uint8Array.from(atob(text), (c) => c.charCodeAt(0))
  if (bytes.length !== 4 * count)
    throw new FogBathError('encoding', 'nodes', `The table holds ${bytes.length / 4} numbers; it must hold ${count}.`)
  return new Float32Array(bytes.buffer)
}
/** How many numbers a packed table holds. */
export const packedCount = (text: string): number =>
  Math.floor((text.length * 3) / 4 / 4 - (text.endsWith('==') ? 0.5 : text.endsWith('=') ? 0.25 : 0))
