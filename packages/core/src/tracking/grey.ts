/** One value a pixel, rows from the top; a pixel's middle lies at whole numbers and a half. */
export interface Grey {
  readonly pixels: Float32Array
  readonly width: number
  readonly height: number
}

/** BT.709's luma of RGB codes. @param most the code of white */
export function greyOf(rgb: ArrayLike<number>, width: number, height: number, most: number): Grey {
  const pixels = new Float32Array(width * height)
  for (let i = 0; i < pixels.length; i++)
    pixels[i] = (0.2126 * rgb[3 * i]! + 0.7152 * rgb[3 * i + 1]! + 0.0722 * rgb[3 * i + 2]!) / most
  return { pixels, width, height }
}

/** Half as wide and high, each pixel the mean of four; what is left at an odd side is left out. */
function halved({ pixels, width, height }: Grey): Grey {
  const [w, h] = [width >> 1, height >> 1]
  const out = new Float32Array(w * h)
  for (let y = 0; y < h; y++)
    for (let x = 0; x < w; x++) {
      const at = 2 * y * width + 2 * x
      out[y * w + x] = (pixels[at]! + pixels[at + 1]! + pixels[at + width]! + pixels[at + width + 1]!) / 4
    }
  return { pixels: out, width: w, height: h }
}

/** The picture and its halves, large ones first. */
export function pyramidOf(grey: Grey, levels: number): Grey[] {
  const all = [grey]
  while (all.length < levels) all.push(halved(all.at(-1)!))
  return all
}

/** Value between pixels, straight from four neighbours; NaN outside. */
export function valueAt({ pixels, width, height }: Grey, x: number, y: number): number {
  const [u, v] = [x - 0.5, y - 0.5]
  if (!(u >= 0 && v >= 0 && u < width - 1 && v < height - 1)) return NaN
  const [i, j] = [Math.floor(u), Math.floor(v)]
  const [s, t] = [u - i, v - j]
  const at = j * width + i
  const above = pixels[at]! + s * (pixels[at + 1]! - pixels[at]!)
  const below = pixels[at + width]! + s * (pixels[at + width + 1]! - pixels[at + width]!)
  return above + t * (below - above)
}
