// npm start: installs what is missing, builds, starts a private MariaDB and the application, prints its address.
import { fork } from 'node:child_process'
import { accessSync, constants, existsSync, mkdirSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { lock } from './lib/lock.mjs'
import { startMariadb } from './lib/mariadb.mjs'
import { anyPort, isFree } from './lib/ports.mjs'
import { Problem, run, say } from './lib/say.mjs'
import { ROOT, build, checkDisk, checkNode, installPackages, installPrograms, makeFolder } from './lib/setup.mjs'
import { endWithin, supervise } from './lib/supervise.mjs'

const WANTED_PORT = 4680
/** How long the server may take to end what it is doing. */
const PATIENCE_MS = 15_000

async function choosePort() {
  const asked = process.env.FOGBATH_PORT
  const wanted = asked ? Number(asked) : WANTED_PORT
  if (!Number.isInteger(wanted) || wanted < 1 || wanted > 65535)
    throw new Problem(`FOGBATH_PORT is '${asked}'; it must be a port from 1 to 65535.`)
  if (await isFree(wanted)) return wanted
  const port = await anyPort()
  say(`Port ${wanted} is in use; taking ${port} instead.`)
  return port
}

/** Footage without its database is not a first start: nothing may be put in its place unasked. */
function checkWhole(data) {
  const media = join(data, 'media')
  const holds = existsSync(media) && readdirSync(media).length > 0
  if (holds && !existsSync(join(data, 'db/data')))
    throw new Problem(
      `${data} holds footage (media) but no database (db/data). Nothing has been changed. Bring the folder db back from a backup; or move media away and start again with an empty database.`,
    )
}

function checkTemporary() {
  try {
    accessSync(tmpdir(), constants.W_OK)
  } catch (error) {
    throw new Problem(
      `The folder for temporary files, ${tmpdir()}, cannot be written (${error.code}); set TMPDIR to another.`,
    )
  }
}

function startServer(db, data, port, said) {
  const watched = process.env.FOGBATH_WATCH ?? join(data, 'watched')
  const shared = process.env.FOGBATH_SHARED ?? join(data, 'shared')
  for (const folder of [watched, shared]) mkdirSync(folder, { recursive: true })
  const env = {
    ...process.env,
    ...{
      FOGBATH_DATA: data,
      FOGBATH_PORT: String(port),
      FOGBATH_WATCH: watched,
      FOGBATH_SHARED: shared,
      FOGBATH_PAGE: join(ROOT, 'packages/web/dist'),
    },
    ...{
      FOGBATH_DB_PORT: String(db.port),
      FOGBATH_DB_USER: db.user,
      FOGBATH_DB_PASSWORD: db.password,
      FOGBATH_DB_NAME: db.database,
    },
    ...{ FOGBATH_DEMO: process.env.FOGBATH_DEMO ?? join(ROOT, 'demo'), NODE_ENV: 'production' },
  }
  const child = fork(join(ROOT, 'packages/server/dist/serve.js'), [], {
    env,
    detached: true,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  })
  child.on('message', said)
  return child
}

async function serve(data, held, asked) {
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
    const port = await choosePort()
    let ready = false
    let giveUp = () => undefined
    const neverReady = new Promise((_, reject) => (giveUp = reject))
    const said = ({ said: words, address }) => {
      if (words) say(words)
      if (!address) return
      ready = true
      held.write(address)
      say(`Fog Bath is ready: ${address}   (Ctrl+C stops it)`)
    }
    const start = () => {
      const child = startServer(db, data, port, said)
      child.once('exit', () => !ready && giveUp(new Problem('The server could not start; what it said stands above.')))
      return child
    }
    // One that has never been ready would fail in the same way again.
    const server = supervise('The server', start, () => ready)
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

run(async () => {
  checkNode()
  checkDisk()
  checkTemporary()
  const data = resolve(process.env.FOGBATH_DATA ?? join(ROOT, '.fogbath'))
  makeFolder(data)
  checkWhole(data)
  const held = lock(data)
  let stop = () => undefined
  const asked = new Promise((done) => (stop = done))
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => stop())
  try {
    installPrograms(['mariadbd', 'ffmpeg'])
    installPackages()
    build()
    await serve(data, held, asked)
  } finally {
    held.release()
  }
  say('Stopped.')
  return 0
})
