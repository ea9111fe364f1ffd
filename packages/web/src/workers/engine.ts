import { proxy, transfer, wrap, type Remote } from 'comlink'
import type { PictureWorker } from './picture.worker'

export type Engine = Remote<PictureWorker>

/** A worker for the picture, and one for strips, figures and thumbnails, so that those never hold the picture up. */
export function startEngines(count: 1 | 2 = 2): { picture: Engine; side: Engine; end: () => void } {
  const workers = Array.from(
    { length: count },
    () => new Worker(new URL('./picture.worker.ts', import.meta.url), { type: 'module' }),
  )
  for (const worker of workers)
    worker.onerror = (e) => reportError(new Error(`The picture could not be worked out: ${e.message}`))
  const engines = workers.map((w) => wrap<PictureWorker>(w))
  void engines[0]!.startHelpers()
  return { picture: engines[0]!, side: engines[count - 1]!, end: () => workers.forEach((w) => w.terminate()) }
}

export { proxy, transfer }
