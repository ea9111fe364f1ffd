// A private MariaDB on loopback with its own data folder; nothing of a system-wide one is touched.
import { spawn, spawnSync } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import { chownSync, existsSync, mkdirSync, readFileSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { anyPort } from './ports.mjs'
import { Problem, say } from './say.mjs'

const DATABASE = 'fogbath'
const USER = 'fogbath'

/** Whether other users may pass through every folder above. */
function reachable(folder) {
  for (let at = folder; at !== '/'; at = dirname(at)) if ((statSync(at).mode & 0o001) === 0) return false
  return true
}

/** As root the server must be told whom to run as: its own user where that one gets to the folder, else root. */
function serverUser(folder) {
  if (process.getuid() !== 0) return null
  const found = spawnSync('id', ['-u', 'mysql'], { encoding: 'utf8' })
  const group = spawnSync('id', ['-g', 'mysql'], { encoding: 'utf8' })
  if (found.status !== 0 || !reachable(dirname(folder))) return { name: 'root' }
  return { name: 'mysql', uid: Number(found.stdout), gid: Number(group.stdout) }
}

function secretOf(folder) {
  const path = join(folder, 'secret')
  if (!existsSync(path)) writeFileSync(path, randomBytes(24).toString('hex'), { mode: 0o600 })
  return readFileSync(path, 'utf8')
}

/** Socket paths may only be about 100 characters long, so the socket lies in the folder for temporary files. */
const socketOf = (folder) =>
  join(tmpdir(), `fogbath-${createHash('sha256').update(folder).digest('hex').slice(0, 16)}.sock`)

const client = (socket, program, args, more = {}) =>
  spawnSync(program, ['--no-defaults', `--socket=${socket}`, '--user=root', ...args], { encoding: 'utf8', ...more })

/**
 * Starts the server, making its data folder first when there is none.
 * @returns connection settings and stop(), which ends it cleanly
 */
export async function startMariadb(folder) {
  mkdirSync(join(folder, 'tmp'), { recursive: true })
  const socket = socketOf(folder)
  // A server left behind by a start that was killed holds the data folder: end it first.
  if (client(socket, 'mariadb-admin', ['ping']).status === 0) await stopServer(socket, folder)
  const user = serverUser(folder)
  if (user?.uid) for (const path of [folder, join(folder, 'tmp')]) chownSync(path, user.uid, user.gid)
  const data = join(folder, 'data')
  const asUser = user ? [`--user=${user.name}`] : []
  if (!existsSync(join(data, 'mysql'))) createData(data, asUser)
  const password = secretOf(folder)
  const port = await anyPort()
  const child = spawn(
    existsSync('/usr/sbin/mariadbd') ? '/usr/sbin/mariadbd' : 'mariadbd',
    [
      ...['--no-defaults', ...asUser, `--datadir=${data}`, `--tmpdir=${join(folder, 'tmp')}`, `--socket=${socket}`],
      ...[
        `--pid-file=${join(folder, 'mariadbd.pid')}`,
        `--port=${port}`,
        '--bind-address=127.0.0.1',
        '--skip-networking=OFF',
      ],
      ...['--skip-name-resolve', '--character-set-server=utf8mb4', '--collation-server=utf8mb4_unicode_ci'],
      ...['--max-allowed-packet=64M', '--skip-log-bin', `--log-error=${join(folder, 'error.log')}`],
    ],
    // A process group of its own: Ctrl+C on the terminal reaches the start script, which stops things in order.
    { detached: true, stdio: 'ignore' },
  )
  await untilReady(child, socket, folder)
  const sql = [
    `CREATE DATABASE IF NOT EXISTS ${DATABASE};`,
    `CREATE USER IF NOT EXISTS '${USER}'@'127.0.0.1';`,
    `ALTER USER '${USER}'@'127.0.0.1' IDENTIFIED BY '${password}';`,
    `GRANT ALL ON \`${DATABASE}%\`.* TO '${USER}'@'127.0.0.1';`,
  ].join('\n')
  const made = client(socket, 'mariadb', [], { input: sql })
  if (made.status !== 0) throw new Problem(`The database could not be prepared: ${made.stderr.trim()}`)
  return { port, user: USER, password, database: DATABASE, stop: () => stopServer(socket, folder) }
}

function createData(data, asUser) {
  rmSync(data, { recursive: true, force: true })
  const made = spawnSync(
    'mariadb-install-db',
    [
      '--no-defaults',
      ...asUser,
      `--datadir=${data}`,
      '--auth-root-authentication-method=normal',
      '--skip-test-db',
      '--skip-name-resolve',
    ],
    { encoding: 'utf8' },
  )
  if (made.status !== 0)
    throw new Problem(`The database folder could not be made: ${(made.stderr || made.stdout).trim().split('\n').pop()}`)
}

async function untilReady(child, socket, folder) {
  for (let i = 0; i < 300; i++) {
    if (client(socket, 'mariadb-admin', ['ping']).status === 0) return
    if (child.exitCode !== null) break
    await sleep(100)
  }
  const log = join(folder, 'error.log')
  const last = existsSync(log)
    ? readFileSync(log, 'utf8')
        .trim()
        .split('\n')
        .filter((l) => l.includes('ERROR'))
        .pop()
    : ''
  throw new Problem(`MariaDB did not start. ${last ?? ''}`)
}

/** How long the server may take to write what it still holds. */
const PATIENCE_MS = 10_000

async function stopServer(socket, folder) {
  const pidFile = join(folder, 'mariadbd.pid')
  const pid = existsSync(pidFile) ? Number(readFileSync(pidFile, 'utf8')) : 0
  client(socket, 'mariadb-admin', ['shutdown'], { timeout: PATIENCE_MS })
  for (let i = 0; i < 100 && existsSync(pidFile); i++) await sleep(50)
  if (!pid || !existsSync(pidFile)) return
  // On a full disk the server would wait for room without end. InnoDB's log brings back whatever was committed.
  say('The database cannot finish writing; is the disk full? It is ended now. What was saved is kept.')
  process.kill(pid, 'SIGKILL')
  rmSync(pidFile, { force: true })
}
