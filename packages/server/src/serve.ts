import { isIP } from 'node:net'
import { join } from 'node:path'
import { Imports } from './backup/imports'
import { connect } from './db/connect'
import { loadDemo } from './demo'
import { sentenceOf } from './errors'
import { buildApp } from './http/app'
import type { Context } from './http/context'
import { keyIn } from './http/key'
import { FrameCache } from './media/frames'
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

/** What is left over goes at the start and every day. */
function sweepDaily(storage: Storage): void {
  const sweep = (): void =>
    void storage.sweep(false, true).catch((error: unknown) => {
      process.stderr.write(`fogbath: what is left over could not be removed: ${sentenceOf(error)}\n`)
    })
  sweep()
  setInterval(sweep, 24 * 3_600_000).unref()
}

async function serve(): Promise<void> {
  const data = env('FOGBATH_DATA')
  const host = env('FOGBATH_HOST', '127.0.0.1')
  if (!isIP(host)) throw new Error(`FOGBATH_HOST is '${host}'; it must be an address such as 127.0.0.1 or 0.0.0.0.`)
  const key = isLoopback(host) ? null : keyIn(join(data, 'key'))
  const db = await connect({
    port: Number(env('FOGBATH_DB_PORT')),
    user: env('FOGBATH_DB_USER'),
    password: env('FOGBATH_DB_PASSWORD'),
    database: env('FOGBATH_DB_NAME'),
  })
  const store = new MediaStore(join(data, 'media'))
  const queue = new RenderQueue(join(data, 'renders'), store)
  const shared = process.env['FOGBATH_SHARED']
  const context: Context = {
    db,
    store,
    queue,
    imports: new Imports(join(data, 'imports')),
    storage: new Storage(data, db, store),
    frames: new FrameCache(join(data, 'cache')),
    watched: process.env['FOGBATH_WATCH'] ?? null,
    shared: shared ? new SharedFolder(shared) : null,
  }
  const demo = process.env['FOGBATH_DEMO']
  if (demo && (await loadDemo(db, store, demo))) process.send?.({ said: 'Loaded the demo production.' })
  const hosts = env('FOGBATH_HOSTS', '')
    .split(',')
    .map((name) => name.trim())
    .filter(Boolean)
  const app = await buildApp({ context, page: env('FOGBATH_PAGE'), log: true, guard: { hosts, key } })
  const address = await app.listen({ host, port: Number(env('FOGBATH_PORT')) })
  queue.wake()
  sweepDaily(context.storage)
  if (key) process.send?.({ said: `Others need the key in ${join(data, 'key')}.` })
  process.send?.({ address })

  let stopping = false
  const stop = async (): Promise<void> => {
    if (stopping) return
    stopping = true
    await app.close()
    await queue.close()
    await db.close()
    process.exit(0)
  }
  process.on('SIGTERM', () => void stop())
  process.on('SIGINT', () => void stop())
  process.on('disconnect', () => void stop())
}

// A promise that nobody waits for: told, and the work of others goes on. Whatever else is uncaught ends the program.
process.on('unhandledRejection', (reason) => {
  process.stderr.write(`fogbath: ${reason instanceof Error ? (reason.stack ?? reason.message) : String(reason)}\n`)
})

serve().catch((error: unknown) => {
  process.stderr.write(`fogbath: ${sentenceOf(error)}\n`)
  process.exit(1)
})
