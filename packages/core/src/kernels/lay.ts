import { layOne, type Laying } from '../line/blend'

/**
 * Lays the bath's picture on the line's, in place.
 * @param line,bath interleaved RGBA float32 of display code values, length >= 4n
 * @param mask how much of it is laid at each pixel, 0..1, or null for all of it everywhere
 */
export function layPictures(
  how: Laying,
  line: Float32Array,
  bath: Float32Array,
  n: number,
  mask: Float32Array | null = null,
): void {
  if (mask) return layMasked(how, line, bath, n, mask)
  if (how.lay === 'normal' && !how.under) return mixPictures(how.strength / 100, line, bath, n)
  for (let i = 0; i < 4 * n; i += 4) {
    const laid = layOne(how, [line[i]!, line[i + 1]!, line[i + 2]!], [bath[i]!, bath[i + 1]!, bath[i + 2]!])
    line[i] = laid[0]
    line[i + 1] = laid[1]
    line[i + 2] = laid[2]
  }
}

function layMasked(how: Laying, line: Float32Array, bath: Float32Array, n: number, mask: Float32Array): void {
  const plain = how.lay === 'normal' && !how.under
  for (let i = 0, at = 0; i < n; i++, at += 4) {
    const share = (mask[i]! * how.strength) / 100
    if (share <= 0) continue
    if (!plain) {
      const under = [line[at]!, line[at + 1]!, line[at + 2]!] as const
      const laid = layOne({ ...how, strength: 100 }, under, [bath[at]!, bath[at + 1]!, bath[at + 2]!])
      for (let k = 0; k < 3; k++) line[at + k] = under[k]! + (laid[k]! - under[k]!) * share
    } else for (let k = at; k < at + 3; k++) line[k] = line[k]! + (bath[k]! - line[k]!) * share
  }
}

function mixPictures(share: number, line: Float32Array, bath: Float32Array, n: number): void {
  if (share >= 1) return line.set(bath.length === 4 * n ? bath : bath.subarray(0, 4 * n))
  for (let i = 0; i < 4 * n; i++) line[i] = line[i]! + (bath[i]! - line[i]!) * share
}
