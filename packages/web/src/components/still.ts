import type { Wanted } from '../workers/side'
import { startEngines, type Engine } from '../workers/engine'

let side: Engine | undefined

/** Draws a frame, small, by a worker that all stills of the page share. */
export async function drawStill(canvas: HTMLCanvasElement, wanted: Wanted): Promise<void> {
  side ??= startEngines(1).picture
  const bitmap = await side.thumbnail(wanted)
  ;[canvas.width, canvas.height] = [bitmap.width, bitmap.height]
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
  bitmap.close()
}
