import { coverOf, type CoverShape } from '../stages/cover'

/**
 * Paints shapes over an RGBA float picture, in place, one after the other. Painted over an empty plane it leaves colours
 * times their share, and the share in the fourth channel.
 */
export function paintShapes(
  shapes: (height: number) => readonly CoverShape[],
  pixels: Float32Array,
  width: number,
  height: number,
): void {
  for (const shape of shapes((1000 * height) / width)) {
    const { rows, columns, share } = coverOf(shape, width / 1000)
    const paint = [...shape.colour, 1]
    for (let y = Math.max(0, rows[0]); y <= Math.min(height - 1, rows[1]); y++)
      for (const [first, last] of columns(y))
        for (let x = Math.max(0, first); x <= Math.min(width - 1, last); x++) {
          const laid = shape.opacity * share(x, y)
          if (laid === 0) continue
          const at = 4 * (y * width + x)
          for (let k = 0; k < 4; k++) pixels[at + k]! += (paint[k]! - pixels[at + k]!) * laid
        }
  }
}
