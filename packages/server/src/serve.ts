import { isIP } from 'node:net'
import { join } from 'node:path'
import { Imports } from './backup/imports'
import { Backups } from './backup/write'
import { connect } from './db/connect'
import { Medium } from './db/models'
import { loadDemo } from './demo'
import { sentenceOf } from './errors'
import { buildApp } from './http/app'
import type { Context } from './http/context'
import { keyIn } from './http/key'
import { lastResort } from './http/last-resort'
import { CutSearches } from './media/cut-search'
import { Trackings } from './media/trackings'
import { FrameCache } from './media/frames'
import { Proxies } from './media/proxies'
import { MediaStore } from './media/store'
import { SharedFolder } from './shared/files'
import { Storage } from './storage/storage'
import { RenderQueue } from './render/queue'

/** Settings come from the environment; scripts/start.mjs sets them. */
const env = (name: string, fallback?: string): string => {
  const value = process.env[name] ?? fallback
  if (value === undefined) throw new Error(`${name} is not set; start the program with npm start.`)
  return value
}

const isLoopback = (host: string): boolean => host === '::1' || host.startsWith('127.')

const tell = (said: string): void => void process.send?.({ said })

/** What is left over goes at the start and every day. */
function sweepDaily(storage: Storage): void {
  const sweep = (): void =>
    void storage.sweep(false).catch((error: unknown) => {
      process.stderr.write(`fogbath: what is left over could not be removed: ${sentenceOf(error)}\n`)
    })
  sweep()
  setInterval(sweep, 24 * 3_600_000).unref()
}

/** The database may be another one than that of the footage: what it knows comes back, what it does not know is kept. */
async function settleFootage(storage: Storage): Promise<void> {
  const { back, aside } = await storage.settle()
  if (back > 0) tell(`${back} files of footage that this database knows again were put back in their place.`)
  if (aside > 0)
    tell(`${aside} files that this database does not know were set aside; nothing of them is removed (see Storage).`)
}

/** In the background: all footage that the database knows, held against its hash. */
async function proveFootage(store: MediaStore, signal: AbortSignal): Promise<void> {
  const bad = await store.health.proveAll(await Medium.findAll({ order: [['id', 'ASC']] }), signal)
  const [first] = bad
  if (first && !signal.aborted)
    tell(
      `${bad.length} ${bad.length === 1 ? 'piece' : 'pieces'} of footage missing or damaged, such as ${first.name} (${first.state}); bring the same files in again.`,
    )
}

/** Days after which footage that nothing uses is removed; nothing is, unless somebody asks for it. */
function unusedDays(text: string): number | null {
  if (text === '') return null
  const days = Number(text)
  if (!Number.isInteger(days) || days < 1 || days > 3650)
    throw new Error(`FOGBATH_UNUSED_DAYS is '${text}'; it must be a whole number of days from 1 to 3650.`)
  return days
}

/** How much of the disk proxies may take. */
function proxyBytes(text: string): number {
  const size = Number(text)
  if (!(size >= 1 && size <= 100_000))
    throw new Error(`FOGBATH_PROXY_GB is '${text}'; it must be a number of gigabytes from 1 to 100000.`)
  return size * 1e9
}

async function serve(): Promise<void> {
  const data = env('FOGBATH_DATA')
  const host = env('FOGBATH_HOST', '127.0.0.1')
  if (!isIP(host)) throw new Error(`FOGBATH_HOST is '${host}'; it must be an address such as 127.0.0.1 or 0.0.0.0.`)
  const key = isLoopback(host) ? null : await keyIn(join(data, 'key'))
  const db = await connect({
    port: Number(env('FOGBATH_DB_PORT')),
    user: env('FOGBATH_DB_USER'),
    password: env('FOGBATH_DB_PASSWORD'),
    database: env('FOGBATH_DB_NAME'),
  })
  const store = new MediaStore(join(data, 'media'))
  const queue = new RenderQueue(join(data, 'renders'), store, env('FOGBATH_DELIVERIES', join(data, 'deliveries')))
  const imports = new Imports(join(data, 'imports'), db, store)
  const backups = new Backups(join(data, 'backups'), db, store)
  const shared = process.env['FOGBATH_SHARED']
  const context: Context = {
    db,
    store,
    queue,
    imports,
    backups,
    storage: new Storage(data, db, store, {
      isOpen: (path) => imports.isOpen(path) || backups.isOpen(path),
      unusedDays: unusedDays(env('FOGBATH_UNUSED_DAYS', '')),
    }),
    frames: new FrameCache(join(data, 'cache')),
    cuts: new CutSearches(),
    trackings: new Trackings(),
    proxies: new Proxies(env('FOGBATH_PROXIES', join(data, 'proxies')), proxyBytes(env('FOGBATH_PROXY_GB', '20'))),
    watched: process.env['FOGBATH_WATCH'] ?? null,
    shared: shared ? new SharedFolder(shared) : null,
  }
  const demo = process.env['FOGBATH_DEMO']
  if (demo && (await loadDemo(db, store, demo))) tell('Loaded the demo production.')
  await settleFootage(context.storage)
  const hosts = env('FOGBATH_HOSTS', '')
    .split(',')
    .map((name) => name.trim())
    .filter(Boolean)
  const app = await buildApp({ context, page: env('FOGBATH_PAGE'), log: true, guard: { hosts, key } })
  const address = await app.listen({ host, port: Number(env('FOGBATH_PORT')) })
  queue.wake()
  await imports.resume()
  sweepDaily(context.storage)
  const proving = new AbortController()
  void proveFootage(store, proving.signal).catch((error: unknown) => {
    process.stderr.write(`fogbath: footage could not be looked through: ${sentenceOf(error)}\n`)
  })
  if (key) tell(`Others need the key in ${join(data, 'key')}.`)
  process.send?.({ address })

  let stopping = false
  const stop = async (code: number): Promise<void> => {
    if (stopping) return
    stopping = true
    proving.abort()
    await app.close()
    await queue.close()
    await context.proxies.close()
    await context.cuts.close()
    await context.trackings.close()
    await imports.close()
    await db.close()
    process.exit(code)
  }
  process.on('SIGTERM', () => void stop(0))
  process.on('SIGINT', () => void stop(0))
  process.on('disconnect', () => void stop(0))
  process.on('uncaughtException', (error) => {
    void lastResort(app, error, () => stop(1)).finally(() => process.exit(1))
  })
}

// A promise that nobody waits for: told, and the work of others goes on.
process.on('unhandledRejection', (reason) => {
  process.stderr.write(`fogbath: ${reason instanceof Error ? (reason.stack ?? reason.message) : String(reason)}\n`)
})

serve().catch((error: unknown) => {
  process.stderr.write(`fogbath: ${sentenceOf(error)}\n`)
  process.exit(1)
})
