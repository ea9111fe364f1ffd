// Database and server, kept running until they are asked to stop.
import { fork } from 'node:child_process'
import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
import { startMariadb } from './mariadb.mjs'
import { Problem, say } from './say.mjs'
import { ROOT } from './setup.mjs'
import { endWithin, supervise } from './supervise.mjs'

/** How long the server may take to end what it is doing. */
const PATIENCE_MS = 15_000

function startServer(db, data, port, said) {
  const watched = process.env.FOGBATH_WATCH ?? join(data, 'watched')
  const shared = process.env.FOGBATH_SHARED ?? join(data, 'shared')
  const deliveries = process.env.FOGBATH_DELIVERIES ?? join(data, 'deliveries')
  for (const folder of [watched, shared, deliveries]) mkdirSync(folder, { recursive: true })
  const env = {
    ...process.env,
    FOGBATH_DATA: data,
    FOGBATH_PORT: String(port),
    FOGBATH_WATCH: watched,
    FOGBATH_SHARED: shared,
    FOGBATH_DELIVERIES: deliveries,
    FOGBATH_PAGE: join(ROOT, 'packages/web/dist'),
    FOGBATH_DB_PORT: String(db.port),
    FOGBATH_DB_USER: db.user,
    FOGBATH_DB_PASSWORD: db.password,
    FOGBATH_DB_NAME: db.database,
    FOGBATH_DEMO: process.env.FOGBATH_DEMO ?? join(ROOT, 'demo'),
    NODE_ENV: 'production',
  }
  const child = fork(join(ROOT, 'packages/server/dist/serve.js'), [], {
    env,
    detached: true,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  })
  child.on('message', said)
  return child
}

/**
 * Returns when `asked` settles; fails when one of the two could not be started.
 * @param ready is told the address each time that the server answers
 * @param restarts is handed what ends the server so that it is started anew
 */
export async function serve({ data, port, asked, ready: told, restarts = () => undefined }) {
  const folder = join(data, 'db')
  let db = await startMariadb(folder)
  let first = true
  const database = supervise('The database', async () => {
    // The same port again, so that the server finds it where it was.
    if (!first) db = await startMariadb(folder, { port: db.port })
    first = false
    return db.child
  })
  try {
    let ready = false
    let giveUp = () => undefined
    const neverReady = new Promise((_, reject) => (giveUp = reject))
    const said = ({ said: words, address }) => {
      if (words) say(words)
      if (!address) return
      ready = true
      told(address)
    }
    const start = () => {
      const child = startServer(db, data, port, said)
      child.once('exit', () => !ready && giveUp(new Problem('The server could not start; what it said stands above.')))
      return child
    }
    // One that has never been ready would fail in the same way again.
    const server = supervise('The server', start, () => ready)
    restarts(() => server.renew((child) => endWithin(child, PATIENCE_MS)))
    try {
      await Promise.race([asked, neverReady, server.failed, database.failed])
      say('\nStopping ...')
    } finally {
      await server.stop((child) => endWithin(child, PATIENCE_MS))
    }
  } finally {
    await database.stop(() => db.stop())
  }
}
