// npm start: installs what is missing, builds, starts a private MariaDB and the application, prints its address.
import { fork } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { join, resolve } from 'node:path'
import { startMariadb } from './lib/mariadb.mjs'
import { anyPort, isFree } from './lib/ports.mjs'
import { Problem, run, say } from './lib/say.mjs'
import { ROOT, build, checkDisk, checkNode, installPackages, installPrograms, makeFolder } from './lib/setup.mjs'

const WANTED_PORT = 4680

const alive = (pid) => {
  try {
    process.kill(pid, 0)
    return true
  } catch {
    return false
  }
}

/** One application for one data folder. */
function lock(data) {
  const path = join(data, 'running.json')
  if (existsSync(path)) {
    const { pid, address } = JSON.parse(readFileSync(path, 'utf8') || '{}')
    if (pid && pid !== process.pid && alive(pid))
      throw new Problem(
        `Fog Bath is already running${address ? ` at ${address}` : ''} with this data folder (${data}).`,
      )
  }
  const write = (address) => writeFileSync(path, JSON.stringify({ pid: process.pid, address }))
  write()
  return { write, release: () => rmSync(path, { force: true }) }
}

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

function startServer(db, data, port) {
  const watched = process.env.FOGBATH_WATCH ?? join(data, 'watched')
  mkdirSync(watched, { recursive: true })
  const env = {
    ...process.env,
    ...{
      FOGBATH_DATA: data,
      FOGBATH_PORT: String(port),
      FOGBATH_WATCH: watched,
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
  return fork(join(ROOT, 'packages/server/dist/serve.js'), [], {
    env,
    detached: true,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
  })
}

const ended = (child) =>
  new Promise((done) => (child.exitCode !== null || child.signalCode ? done() : child.once('exit', done)))

run(async () => {
  checkNode()
  checkDisk()
  const data = resolve(process.env.FOGBATH_DATA ?? join(ROOT, '.fogbath'))
  makeFolder(data)
  const held = lock(data)
  let stopping
  let stop = () => undefined
  const asked = new Promise((done) => (stop = done))
  for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP']) process.on(signal, () => stop())
  try {
    installPrograms(['mariadbd', 'ffmpeg'])
    installPackages()
    build()
    const db = await startMariadb(join(data, 'db'))
    try {
      const server = startServer(db, data, await choosePort())
      server.on('message', ({ said, address }) => {
        if (said) say(said)
        if (!address) return
        held.write(address)
        say(`Fog Bath is ready: ${address}   (Ctrl+C stops it)`)
      })
      await Promise.race([asked, ended(server)])
      stopping = server.exitCode === null
      if (stopping) {
        say('\nStopping ...')
        server.kill('SIGTERM')
        await ended(server)
      }
    } finally {
      await db.stop()
    }
  } finally {
    held.release()
  }
  if (stopping) say('Stopped.')
  return stopping ? 0 : 1
})
