// npm start: installs what is missing, builds, starts a private MariaDB and the application, prints its address.
import { accessSync, constants, existsSync, readdirSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { lock } from './lib/lock.mjs'
import { anyPort, isFree } from './lib/ports.mjs'
import { Problem, run, say } from './lib/say.mjs'
import { serve } from './lib/serving.mjs'
import { ROOT, build, checkDisk, checkNode, installPackages, installPrograms, makeFolder } from './lib/setup.mjs'

const WANTED_PORT = 4680

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
    const ready = (address) => {
      held.write(address)
      say(`Fog Bath is ready: ${address}   (Ctrl+C stops it)`)
    }
    await serve({ data, port: await choosePort(), asked, ready })
  } finally {
    held.release()
  }
  say('Stopped.')
  return 0
})
