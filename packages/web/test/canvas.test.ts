import { expect, it } from 'vitest'
import { PictureCanvas } from '../src/workers/canvas'

/** A canvas that gives its pen once, as Firefox does with one that belongs to a worker. */
function strictCanvas() {
  const put: [width: number, left: number][] = []
  let given = false
  const canvas = {
    width: 1,
    height: 1,
    getContext() {
      if (given) throw new Error('Cannot update created context to different thread')
      given = true
      return { putImageData: (image: ImageData, left: number) => put.push([image.width, left]) }
    },
  }
  return { canvas, put }
}

it('pictures are shown one after the other with one pen, of any size, alone and side by side', () => {
  const { canvas, put } = strictCanvas()
  const picture = new PictureCanvas(canvas as unknown as OffscreenCanvas)
  const image = (width: number, height: number) => ({ width, height }) as ImageData
  picture.show([image(64, 36)])
  expect([canvas.width, canvas.height]).toEqual([64, 36])
  picture.show([image(32, 18), image(32, 18)])
  expect(canvas.height).toBe(18)
  expect(canvas.width).toBeGreaterThan(64)
  // The second begins where the canvas has room for just one more.
  expect(put).toEqual([
    [64, 0],
    [32, 0],
    [32, canvas.width - 32],
  ])
})
