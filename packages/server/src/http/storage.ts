import { ROUTES, type Reply } from '@fogbath/contract'
import { Medium } from '../db/models'
import type { Proxies } from '../media/proxies'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

/** Proxies with the names of their footage. */
async function proxiesUse({ list, folder, budget }: Proxies): Promise<Reply<typeof ROUTES.storage>['proxies']> {
  const states = await list()
  const media = await Medium.findAll({ where: { sha256: states.map((s) => s.key.slice(0, 64)) } })
  const names = new Map(media.map((m) => [m.sha256, m.name]))
  return {
    bytes: states.reduce((sum, s) => sum + s.bytes, 0),
    budget,
    folder,
    list: states.map((s) => ({ ...s, name: names.get(s.key.slice(0, 64)) ?? 'footage that is gone' })),
  }
}

/** What lies on the disk, and what of it can go. */
export function storageRoutes(app: App, { storage, backups, proxies }: Context): void {
  const serve = serverOf(app)
  serve(ROUTES.storage, async () => ({
    ...(await storage.use()),
    proxies: await proxiesUse(proxies),
    backups: backups.state(),
  }))
  serve(ROUTES.removeProxy, ({ params }) => proxies.remove(params.key))

  serve(ROUTES.sweep, async ({ body }) => ({ swept: await storage.sweep(body.dryRun) }))
}
