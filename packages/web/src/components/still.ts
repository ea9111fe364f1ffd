import type { Shot } from '../api/types'
import { startEngines, type Engine } from '../workers/engine'
import { NOTHING } from '../workers/treat'

let side: Engine | undefined

/** Draws a frame of untreated footage into a small canvas, by a worker that all stills of the page share. */
export async function drawFootage(canvas: HTMLCanvasElement, shot: Shot, width: number): Promise<void> {
  side ??= startEngines(1).picture
  const source = { type: 'shot' as const, mediumId: shot.mediumId, sha256: shot.medium.sha256, encoding: shot.encoding }
  const bitmap = await side.thumbnail({ source, frame: shot.still, width, recipe: NOTHING, trims: shot.trims })
  ;[canvas.width, canvas.height] = [bitmap.width, bitmap.height]
  canvas.getContext('2d')!.drawImage(bitmap, 0, 0)
  bitmap.close()
}
