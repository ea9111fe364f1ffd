import { GAP } from './compare'
import type { Compare } from './protocol'

/** The canvas on which pictures are shown. */
export class PictureCanvas {
  /** Asked for once: not every browser gives the same one again. */
  private readonly pen: OffscreenCanvasRenderingContext2D

  constructor(private readonly canvas: OffscreenCanvas) {
    this.pen = canvas.getContext('2d')!
  }

  /** Pictures of one size side by side. */
  show(images: readonly ImageData[]): void {
    const { width, height } = images[0]!
    this.fit(images.length, width, height)
    images.forEach((image, i) => this.pen.putImageData(image, i * (width + GAP), 0))
  }

  /** A picture that graphics has drawn: whole, on the right of a pair, or as the other one before the wipe's edge or on the left. */
  put(compare: Compare, from: OffscreenCanvas, which: 'own' | 'other'): void {
    const { width, height } = from
    const { pen } = this
    this.fit(compare.mode === 'pair' ? 2 : 1, width, height)
    if (which === 'own') pen.drawImage(from, compare.mode === 'pair' ? width + GAP : 0, 0)
    else if (compare.mode === 'wipe') {
      const { at, upright } = compare
      const [w, h] = upright ? [Math.round(at * width), height] : [width, Math.round(at * height)]
      if (w > 0 && h > 0) pen.drawImage(from, 0, 0, w, h, 0, 0, w, h)
    } else pen.drawImage(from, 0, 0)
  }

  /** Makes the canvas large enough for pictures side by side. */
  private fit(pictures: number, width: number, height: number): void {
    const { canvas } = this
    const whole = pictures * (width + GAP) - GAP
    if (canvas.width !== whole || canvas.height !== height) [canvas.width, canvas.height] = [whole, height]
  }
}
