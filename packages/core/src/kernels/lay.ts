import { layOne, type Laying } from '../line/blend'

/**
 * Lays the bath's picture on the line's, in place.
 * @param line,bath interleaved RGBA float32 of display code values, length >= 4n
 */
export function layPictures(how: Laying, line: Float32Array, bath: Float32Array, n: number): void {
  if (how.lay === 'normal' && !how.under) return mixPictures(how.strength / 100, line, bath, n)
  for (let i = 0; i < 4 * n; i += 4) {
    const laid = layOne(how, [line[i]!, line[i + 1]!, line[i + 2]!], [bath[i]!, bath[i + 1]!, bath[i + 2]!])
    line[i] = laid[0]
    line[i + 1] = laid[1]
    line[i + 2] = laid[2]
  }
}

function mixPictures(share: number, line: Float32Array, bath: Float32Array, n: number): void {
  if (share >= 1) return line.set(bath.length === 4 * n ? bath : bath.subarray(0, 4 * n))
  for (let i = 0; i < 4 * n; i++) line[i] = line[i]! + (bath[i]! - line[i]!) * share
}
