import helmet from '@fastify/helmet'
import multipart from '@fastify/multipart'
import rateLimit from '@fastify/rate-limit'
import files from '@fastify/static'
import { existsSync } from 'node:fs'
import Fastify, { type RouteOptions } from 'fastify'
import { MOST_FOOTAGE_BYTES } from '../limits'
import { validatorFor } from '../validate'
import { backupRoutes } from './backups'
import { installBodies } from './bodies'
import type { App, Context } from './context'
import { installErrors } from './errors'
import { installGuard, signInRoutes, type Guard } from './guard'
import { installDescription } from './description'
import { editRoutes } from './edits'
import { encodingRoutes } from './encodings'
import { favouriteRoutes } from './favourites'
import { healthRoutes } from './health'
import { historyRoutes } from './history'
import { installLastResort } from './last-resort'
import { intakeRoutes } from './intake'
import { mediaRoutes } from './media'
import { presetRoutes } from './presets'
import { productionRoutes } from './productions'
import { proofRoutes } from './proofs'
import { renderFileRoutes } from './render-files'
import { renderRoutes } from './renders'
import { maskRoutes } from './masks'
import { sharingRoutes } from './sharing'
import { shelfRoutes } from './shelf'
import { shotRoutes } from './shots'
import { storageRoutes } from './storage'
import { unknownRoutes } from './unknown'
import { trackingRoutes } from './tracking'
import { UNREAD_MS, installUnread } from './unread'

export interface AppOptions {
  readonly context: Context
  /** The built page, or null to serve the API alone. */
  readonly page: string | null
  /** Most bytes of a JSON body. */
  readonly bodyLimit?: number
  /** Requests a minute from one address; frames have a limit of their own. */
  readonly requestsPerMinute?: number
  /** How long a client may take nothing of an answer, ms. */
  readonly unreadMs?: number
  readonly log?: boolean
  /** Under which names, and with which key, the server is asked; only this machine without a key when left out. */
  readonly guard?: Guard
  /** Told of every route as it is made. */
  readonly onRoute?: (route: RouteOptions) => void
}

/** Everything that a page may do; kernels are WebAssembly, workers come from the page's own files. */
const CSP = {
  'default-src': ["'self'"],
  'script-src': ["'self'", "'wasm-unsafe-eval'"],
  'worker-src': ["'self'", 'blob:'],
  // Naive UI writes its component styles into the page at run time.
  'style-src': ["'self'", "'unsafe-inline'"],
  'img-src': ["'self'", 'blob:', 'data:'],
  'media-src': ["'self'", 'blob:'],
  // Pictures of one's own are read by workers from addresses that the page made.
  'connect-src': ["'self'", 'blob:'],
  'object-src': ["'none'"],
  'frame-ancestors': ["'none'"],
  'base-uri': ["'none'"],
  'form-action': ["'self'"],
}

/** Builds the application without listening. */
export async function buildApp(options: AppOptions): Promise<App> {
  const app = Fastify({
    logger: options.log ? { level: 'warn' } : false,
    bodyLimit: options.bodyLimit ?? 1_000_000,
    forceCloseConnections: true,
  }) as unknown as App
  // Typed as one of schemas of its own; any that Ajv takes will do.
  app.setValidatorCompiler(validatorFor as never)
  // Schemas of answers say what they hold, and leave nothing out; tests hold all answers against them.
  app.setSerializerCompiler(() => JSON.stringify)
  installErrors(app)
  if (options.onRoute) app.addHook('onRoute', options.onRoute)
  // First of all, so that a request which may not be made is not even read.
  const guard = options.guard ?? { hosts: [], key: null }
  await installGuard(app, guard)
  installBodies(app)
  installUnread(app, options.unreadMs ?? UNREAD_MS)
  installLastResort(app)
  await app.register(helmet, {
    contentSecurityPolicy: { useDefaults: false, directives: CSP },
    // The page is served over plain HTTP on loopback: nothing may be upgraded.
    strictTransportSecurity: false,
    // With these two headers a page may share memory between its threads.
    crossOriginOpenerPolicy: { policy: 'same-origin' },
    crossOriginEmbedderPolicy: { policy: 'require-corp' },
  })
  await app.register(rateLimit, { max: options.requestsPerMinute ?? 3000, timeWindow: '1 minute' })
  await app.register(multipart, { limits: { fileSize: MOST_FOOTAGE_BYTES, files: 500, fields: 10 } })
  await installDescription(app)
  if (guard.key !== null) signInRoutes(app, guard.key)
  for (const routes of [
    healthRoutes,
    productionRoutes,
    shelfRoutes,
    sharingRoutes,
    favouriteRoutes,
    maskRoutes,
    shotRoutes,
    historyRoutes,
    proofRoutes,
    intakeRoutes,
    editRoutes,
    trackingRoutes,
    encodingRoutes,
    mediaRoutes,
    renderRoutes,
    renderFileRoutes,
    presetRoutes,
    backupRoutes,
    storageRoutes,
    unknownRoutes,
  ])
    routes(app, options.context)
  if (options.page && existsSync(options.page)) await servePage(app, options.page)
  // Footage is sent as files as well.
  else await app.register(files, { root: import.meta.dirname, serve: false })
  return app
}

/** Files of the page; every other address that is neither the API's nor a file's gets the page itself, which routes on its own. */
async function servePage(app: App, folder: string): Promise<void> {
  await app.register(files, { root: folder, wildcard: false })
  app.get('/*', (request, reply) => {
    const [path = ''] = request.url.split('?')
    const noPage = /^\/api(\/|$)/.test(path) || /\.\w+$/.test(path)
    return noPage ? reply.callNotFound() : reply.sendFile('index.html')
  })
}
