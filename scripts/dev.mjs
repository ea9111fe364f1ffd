// npm run dev: the application on demo data, on the same port each time; the page is changed in place, the server is built
// and started anew, and the tests that a change touches are run, as files are saved. `-- --no-tests` leaves the tests out.
import { spawn } from 'node:child_process'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { parseArgs } from 'node:util'
import { lock } from './lib/lock.mjs'
import { anyPort, isFree } from './lib/ports.mjs'
import { Problem, run, say } from './lib/say.mjs'
import { SERVER_BUILD } from './lib/server-build.mjs'
import { serve } from './lib/serving.mjs'
import { ROOT, buildServer, checkDisk, checkNode, installPackages, installPrograms, makeFolder } from './lib/setup.mjs'
import { endWithin } from './lib/supervise.mjs'

const PORT = 4690
const PATIENCE_MS = 5000
/** Apart from that of `npm start`, so that both may run. */
const DATA = join(ROOT, '.fogbath/dev')

/** Builds the server as its sources change; `renew` is called after each build but the first. */
async function watchServer(renew) {
  let first = true
  const restart = {
    name: 'restart',
    setup: ({ onEnd }) =>
      onEnd(({ errors }) => {
        if (!first && errors.length === 0) void renew()
        first = false
      }),
  }
  // Not above: on a new machine it is installed only by now.
  const { context } = await import('esbuild')
  const watching = await context({ ...SERVER_BUILD, plugins: [restart] })
  await watching.watch()
  return watching
}

/** A program of the packages, itself and not through npx, which would not hand on what ends it. */
const program = (name, args, how = {}) =>
  spawn(join(ROOT, 'node_modules/.bin', name), args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], ...how })

const page = (api) =>
  program('vite', ['--host', '127.0.0.1', '--port', String(PORT), '--strictPort', '--clearScreen', 'false'], {
    cwd: join(ROOT, 'packages/web'),
    env: { ...process.env, FOGBATH_API: api },
  })

/** Nothing at first; then those that a saved file touches. */
const tests = (folder) => program('vitest', ['watch', '--root', join(ROOT, folder), '--standalone'])

/** Until somebody listens there. */
async function taken(port) {
  while (await isFree(port)) await sleep(200)
}

run(async () => {
  const { values } = parseArgs({ options: { 'no-tests': { type: 'boolean', default: false } } })
  checkNode()
  checkDisk()
  if (!(await isFree(PORT))) throw new Problem(`Port ${PORT} is in use; another npm run dev may have it.`)
  makeFolder(DATA)
  const held = lock(DATA)
  const asked = new Promise((done) => ['SIGINT', 'SIGTERM', 'SIGHUP'].forEach((signal) => process.on(signal, done)))
  const children = []
  let renew = async () => undefined
  let watching
  const ready = (address) => {
    held.write(address)
    if (children.length) return say('The server is there again.')
    children.push(page(address), ...(values['no-tests'] ? [] : ['packages/core', 'packages/web'].map(tests)))
    void taken(PORT).then(() => say(`Fog Bath is ready for work: http://127.0.0.1:${PORT}   (Ctrl+C stops it)`))
  }
  try {
    installPrograms(['mariadbd', 'ffmpeg'])
    installPackages()
    buildServer()
    watching = await watchServer(() => renew())
    await serve({ data: DATA, port: await anyPort(), asked, ready, restarts: (by) => (renew = by) })
  } finally {
    await watching?.dispose()
    await Promise.all(children.map((child) => endWithin(child, PATIENCE_MS)))
    held.release()
  }
  say('Stopped.')
  return 0
})
