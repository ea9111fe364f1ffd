import { startEngines, type Engine } from '../workers/engine'

let side: Engine | undefined

/** The worker that all small pictures outside the bench share. */
export const stillEngine = (): Engine => (side ??= startEngines(1).picture)
