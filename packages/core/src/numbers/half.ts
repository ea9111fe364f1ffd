/** IEEE 754 half float to number. */
export function halfToNumber(half: number): number {
  const sign = half & 0x8000 ? -1 : 1
  const exponent = (half >> 10) & 31
  const fraction = half & 1023
  if (exponent === 0) return sign * fraction * 2 ** -24
  if (exponent === 31) return fraction ? NaN : sign * Infinity
  return sign * (1 + fraction / 1024) * 2 ** (exponent - 15)
}

/** Number to the nearest half float (ties upwards); what is too large becomes the largest finite half. */
export function numberToHalf(value: number): number {
  if (Number.isNaN(value)) return 0
  const sign = value < 0 || Object.is(value, -0) ? 0x8000 : 0
  const v = Math.min(65504, Math.abs(value))
  if (v < 2 ** -14) return sign | Math.round(v * 2 ** 24)
  const exponent = Math.floor(Math.log2(v))
  const held = 2 ** exponent > v ? exponent - 1 : exponent
  return sign | (((held + 15) << 10) + Math.round((v / 2 ** held - 1) * 1024))
}
