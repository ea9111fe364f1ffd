// Installs and builds what is missing; does nothing when all is there.
import { spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import {
  accessSync,
  constants,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  statSync,
  statfsSync,
  writeFileSync,
} from 'node:fs'
import { join } from 'node:path'
import { Problem, say } from './say.mjs'

export const ROOT = new URL('../..', import.meta.url).pathname.replace(/\/$/, '')

const MODULES = new Set(['PyOpenColorIO', 'PIL'])
/** A program, or a module of Debian's Python. */
const has = (name) =>
  MODULES.has(name) ? spawnSync('/usr/bin/python3', ['-c', `import ${name}`]).status === 0 : hasProgram(name)

const hasProgram = (program) =>
  ['/usr/bin', '/usr/sbin', '/usr/local/bin', '/usr/local/sbin', '/bin', '/sbin'].some((d) =>
    existsSync(join(d, program)),
  )

/** Programs that Debian brings, and the packages they are in. */
const PROGRAMS = {
  mariadbd: 'mariadb-server',
  ffmpeg: 'ffmpeg',
  'chromium-headless-shell': 'chromium-headless-shell',
  // An independent reader of colour files, for the tests.
  PyOpenColorIO: 'python3-pyopencolorio',
  // Independent readers of pictures, and of colour profiles, likewise.
  PIL: 'python3-pil',
  // An independent integrator of spectra, for the tests.
  spec2cie: 'argyll',
}

export function checkNode() {
  const [major] = process.versions.node.split('.').map(Number)
  if (major < 20) throw new Problem(`Node ${process.versions.node} is too old; Fog Bath needs Node 20 or later.`)
}

/** Room for packages and build beside the program, and for database and frames in the data folder. */
export function checkDisk(folder = ROOT, needed = 1.5e9) {
  const { bavail, bsize } = statfsSync(folder)
  const free = bavail * bsize
  if (free < needed)
    throw new Problem(
      `Only ${(free / 1e9).toFixed(2)} GB are free on the disk of ${folder}; Fog Bath needs ${(needed / 1e9).toFixed(1)} GB there.`,
    )
}

/** Makes the data folder, or says why it cannot be. */
export function makeFolder(folder) {
  try {
    mkdirSync(folder, { recursive: true })
    accessSync(folder, constants.W_OK)
  } catch (error) {
    throw new Problem(`The data folder ${folder} cannot be written (${error.code}); name another with FOGBATH_DATA.`)
  }
  checkDisk(folder, 0.5e9)
}

/** Installs Debian packages for the named programs, as root or through sudo. */
export function installPrograms(names) {
  const missing = names.filter((n) => !has(n)).map((n) => PROGRAMS[n])
  if (missing.length === 0) return
  const list = missing.join(' ')
  if (!has('apt-get'))
    throw new Problem(`Missing here: ${list}. This is no Debian system; please install them and start again.`)
  const prefix = process.getuid() === 0 ? [] : ['sudo', '-n']
  if (prefix.length && spawnSync('sudo', ['-n', 'true']).status !== 0)
    throw new Problem(`Missing: ${list}. You may not install here; run as root: apt-get install ${list}`)
  say(`Installing ${list} ...`)
  const apt = (...args) => {
    const [command, ...rest] = [...prefix, 'env', 'DEBIAN_FRONTEND=noninteractive', 'apt-get', '-q', ...args]
    return spawnSync(command, rest, { encoding: 'utf8', maxBuffer: 1e8 })
  }
  apt('update')
  const result = apt('install', '-y', '--no-install-recommends', ...missing)
  if (result.status !== 0)
    throw new Problem(
      `Debian's packages ${list} could not be installed: ${(result.stderr ?? '').trim().split('\n').pop()}`,
    )
}

const digest = (text) => createHash('sha256').update(text).digest('hex')

/** npm packages, as the lock file says; remembered by the lock file's digest. */
export function installPackages() {
  const stamp = join(ROOT, 'node_modules/.fogbath-lock')
  const lock = digest(readFileSync(join(ROOT, 'package-lock.json')))
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return
  say('Installing npm packages ...')
  const result = spawnSync('npm', ['ci', '--no-audit', '--no-fund', '--loglevel', 'error'], {
    cwd: ROOT,
    encoding: 'utf8',
  })
  if (result.status !== 0)
    throw new Problem(
      `The npm packages could not be installed: ${(result.stderr || result.stdout).trim().split('\n').slice(-3).join(' ')}`,
    )
  // What is committed from this checkout is looked at first; a checkout without git has nothing to commit.
  if (existsSync(join(ROOT, '.git'))) spawnSync('npx', ['--no-install', 'simple-git-hooks'], { cwd: ROOT })
  writeFileSync(stamp, lock)
}

/** Names, sizes and times of all that goes into what is built of these packages. */
function sourceDigest(packages) {
  const lines = []
  const walk = (folder) => {
    for (const entry of readdirSync(folder, { withFileTypes: true })) {
      if (['node_modules', 'dist', 'test'].includes(entry.name)) continue
      const path = join(folder, entry.name)
      if (entry.isDirectory()) walk(path)
      else lines.push(`${path} ${statSync(path).size} ${statSync(path).mtimeMs}`)
    }
  }
  for (const name of packages) walk(join(ROOT, 'packages', name))
  lines.push(
    readFileSync(join(ROOT, 'package-lock.json'), 'utf8'),
    readFileSync(join(ROOT, 'scripts/lib/server-build.mjs'), 'utf8'),
  )
  return digest(lines.join('\n'))
}

/** Builds `part` where it is not what its sources say. */
function buildPart(part, packages) {
  const stamp = join(ROOT, 'packages', part, 'dist/.built')
  const source = sourceDigest(packages)
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === source) return
  say(`Building ${part === 'web' ? 'the page' : 'the server'} ...`)
  const result = spawnSync(process.execPath, [join(ROOT, 'scripts/build.mjs'), part], { cwd: ROOT, encoding: 'utf8' })
  if (result.status !== 0) throw new Problem(`The build failed:\n${result.stdout}${result.stderr}`)
  writeFileSync(stamp, source)
}

/** Server, command line and threads. */
export const buildServer = () => buildPart('server', ['core', 'contract', 'sheet', 'server'])
export function build() {
  buildServer()
  buildPart('web', ['core', 'contract', 'sheet', 'web'])
}
