/** Sixteen hexadecimal digits of a text, to tell texts apart: two FNV-1a sums of 32 bits (G. Fowler, L. C. Noll, K.-P. Vo 1991), which keep no secret. */
export function digestOf(text: string): string {
  let [a, b] = [0x811c9dc5, 0x1b873593]
  for (let i = 0; i < text.length; i++) {
    const code = text.charCodeAt(i)
    a = Math.imul(a ^ code, 0x01000193)
    b = Math.imul(b ^ (code + i), 0x01000193)
  }
  return [a, b].map((v) => (v >>> 0).toString(16).padStart(8, '0')).join('')
}
