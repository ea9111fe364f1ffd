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

type Engines = ReturnType<typeof startEngines>

let early: Engines | undefined
/** Has the workers of the bench load beside the bench itself. */
export const startEarly = (): void => void (early ??= startEngines())
/** Those that were started early, or new ones; whoever takes them ends them. */
export function takeEngines(): Engines {
  const taken = early ?? startEngines()
  early = undefined
  return taken
}

/** A worker of which nothing is asked before something else is done: two processors have enough to do until then. */
export const heldBack = (engine: Engine, until: Promise<unknown>): Engine =>
  new Proxy(engine, {
    get: (target, name) =>
      name === 'then'
        ? undefined
        : async (...asked: unknown[]): Promise<unknown> => {
            await until
            return (target as unknown as Record<PropertyKey, (...asked: unknown[]) => unknown>)[name]!(...asked)
          },
  })

export { proxy, transfer }
