import type { Picture } from '@fogbath/core/cpu'
import type { Scene } from '@fogbath/core/treat'

/** Pictures of code values, RGBA. */
export interface Still {
  readonly data: Float32Array
  readonly width: number
  readonly height: number
}

export const GAP = 4

/** Replaces the part before the wipe's edge, at the left or above it, by the other picture, in place: before is left, after is right. */
export function wiped(
  picture: Picture,
  other: Picture,
  { width, height }: Scene,
  at: number,
  upright: boolean,
): Picture {
  const [own, over] = [picture.pixels, other.pixels]
  if (upright) {
    const from = Math.round(at * width)
    for (let y = 0; y < height; y++) own.set(over.subarray(4 * y * width, 4 * (y * width + from)), 4 * y * width)
  } else own.set(over.subarray(0, 4 * Math.round(at * height) * width))
  return picture
}

/** Fills a picture of the size of the scene with a still, nearest pixel, its shape kept: black beside or above it. */
export function fitted(still: Still, { width, height }: Scene, to: Picture): Picture {
  const out = to.pixels
  const scale = Math.min(width / still.width, height / still.height)
  const [left, top] = [(width - still.width * scale) / 2, (height - still.height * scale) / 2]
  for (let y = 0, at = 0; y < height; y++) {
    const row = Math.floor((y + 0.5 - top) / scale)
    for (let x = 0; x < width; x++, at += 4) {
      const column = Math.floor((x + 0.5 - left) / scale)
      if (row < 0 || row >= still.height || column < 0 || column >= still.width) out.set([0, 0, 0, 1], at)
      else out.set(still.data.subarray(4 * (row * still.width + column), 4 * (row * still.width + column) + 4), at)
    }
  }
  return to
}

/** Pixels of a picture that the browser has decoded, as code values. */
export function stillOf(bitmap: ImageBitmap): Still {
  const { width, height } = bitmap
  const pen = new OffscreenCanvas(width, height).getContext('2d')!
  pen.drawImage(bitmap, 0, 0)
  const { data } = pen.getImageData(0, 0, width, height)
  bitmap.close()
  return { data: Float32Array.from(data, (v) => v / 255), width, height }
}
