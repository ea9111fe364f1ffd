import type { App, Context } from './context'
import { SweepBody } from './schemas'

/** What lies on the disk, and what of it can go. */
export function storageRoutes(app: App, { storage }: Context): void {
  app.get('/api/storage', () => storage.use())

  app.post('/api/sweep', { schema: { body: SweepBody } }, async (request) => ({
    swept: await storage.sweep(request.body.dryRun),
  }))
}
