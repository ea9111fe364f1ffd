// A private MariaDB on loopback with its own data folder; nothing of a system-wide one is touched.
import { spawn, spawnSync } from 'node:child_process'
import { createHash, randomBytes } from 'node:crypto'
import {
  chmodSync,
  chownSync,
  existsSync,
  lstatSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { DATABASE, USER, admin, answers, client, secure } from './mariadb-accounts.mjs'
import { isRunning } from './processes.mjs'
import { anyPort } from './ports.mjs'
import { Problem, say } from './say.mjs'
import { writeWhole } from './whole-file.mjs'

/** Paths of sockets may be 107 characters long (unix(7)). */
const MOST_SOCKET = 100

/** The first folder above that others may not pass through, or null. */
function barrierAbove(folder) {
  let barrier = null
  for (let at = folder; at !== '/'; at = dirname(at)) if ((statSync(at).mode & 0o001) === 0) barrier = at
  return barrier
}

/**
 * The account that the server runs as: never the system's root. As root it is MariaDB's own, which must get to the folder.
 * @returns null for the account that is running this
 */
function serverAccount(folder) {
  if (process.getuid() !== 0) return null
  const id = (what) => spawnSync('id', [what, 'mysql'], { encoding: 'utf8' })
  const [uid, gid] = [id('-u'), id('-g')]
  if (uid.status !== 0) throw new Problem('There is no account “mysql”; install Debian’s package mariadb-server.')
  const barrier = barrierAbove(dirname(folder))
  if (barrier)
    throw new Problem(
      `The database runs as the account “mysql”, which may not pass through ${barrier}. Allow that (chmod o+x ${barrier}) or choose another data folder, such as FOGBATH_DATA=/var/lib/fogbath.`,
    )
  return { name: 'mysql', uid: Number(uid.stdout), gid: Number(gid.stdout) }
}

/** Makes a folder that only its owner may enter. */
function privateFolder(path, account) {
  mkdirSync(path, { recursive: true, mode: 0o700 })
  chmodSync(path, 0o700)
  if (account) chownSync(path, account.uid, account.gid)
}

/** Letters of the password of the application's account. */
const SECRET_LETTERS = 64

function secretOf(folder) {
  const path = join(folder, 'secret')
  if (!existsSync(path)) writeWhole(path, randomBytes(SECRET_LETTERS / 2).toString('hex'), 0o600)
  chmodSync(path, 0o600)
  const secret = readFileSync(path, 'utf8')
  if (!/^[0-9a-f]+$/.test(secret) || secret.length < SECRET_LETTERS)
    throw new Problem(
      `The database's password in ${path} is cut short or garbled; it must be ${SECRET_LETTERS} hexadecimal digits. Remove the file: the next start makes a new one, and nothing is lost by it.`,
    )
  return secret
}

/** The socket's folder is ours alone. Where the data folder's path is too long for a socket, it lies among temporary files. */
function socketFolder(folder, account) {
  const own = join(folder, 'socket')
  const short = join(tmpdir(), `fogbath-${createHash('sha256').update(folder).digest('hex').slice(0, 16)}`)
  const path = join(own, 'm.sock').length <= MOST_SOCKET ? own : short
  if (existsSync(path)) {
    const found = lstatSync(path)
    const owners = [process.getuid(), account?.uid]
    if (!found.isDirectory() || !owners.includes(found.uid))
      throw new Problem(`${path} belongs to somebody else; remove it, or set TMPDIR to a folder of your own.`)
  }
  try {
    privateFolder(path, account)
  } catch (error) {
    throw new Problem(`${path} cannot be made (${error.code}); set TMPDIR to a folder that can be written.`)
  }
  return path
}

/** Everything that belongs to one server. */
function placesOf(folder) {
  const account = serverAccount(folder)
  mkdirSync(folder, { recursive: true })
  if (account) chownSync(folder, account.uid, account.gid)
  for (const name of ['tmp', 'files']) privateFolder(join(folder, name), account)
  return {
    folder,
    account,
    data: join(folder, 'data'),
    pidFile: join(folder, 'mariadbd.pid'),
    log: join(folder, 'error.log'),
    socket: join(socketFolder(folder, account), 'm.sock'),
  }
}

/**
 * Starts the server, making its data folder first when there is none.
 * @param many for tests: the application may make further databases whose names begin with its own
 * @returns connection settings; stop(), which ends it cleanly; and child, the process that runs now
 */
export async function startMariadb(folder, { many = false, port } = {}) {
  const places = placesOf(folder)
  const password = secretOf(folder)
  // A server left behind by a start that was killed holds the data folder: end it first.
  if (answers(places.socket)) await stopServer(places)
  if (!existsSync(join(places.data, 'mysql'))) createData(places)
  const own = port ?? (await anyPort())
  const child = launch(places, own)
  await untilReady(child, places)
  secure(places, password, many)
  return { port: own, user: USER, password, database: DATABASE, child, stop: () => stopServer(places) }
}

function launch({ folder, account, data, pidFile, log, socket }, port) {
  return spawn(
    existsSync('/usr/sbin/mariadbd') ? '/usr/sbin/mariadbd' : 'mariadbd',
    [
      ...['--no-defaults', ...(account ? [`--user=${account.name}`] : []), `--datadir=${data}`],
      ...[`--tmpdir=${join(folder, 'tmp')}`, `--socket=${socket}`, `--pid-file=${pidFile}`, `--log-error=${log}`],
      ...[`--port=${port}`, '--bind-address=127.0.0.1', '--skip-networking=OFF', '--skip-name-resolve'],
      // Statements that read or write files reach this one empty folder.
      ...[`--secure-file-priv=${join(folder, 'files')}`, '--local-infile=OFF', '--skip-symbolic-links'],
      ...['--character-set-server=utf8mb4', '--collation-server=utf8mb4_unicode_ci'],
      ...['--max-allowed-packet=64M', '--skip-log-bin'],
    ],
    // A process group of its own: Ctrl+C on the terminal reaches the start script, which stops things in order.
    { detached: true, stdio: 'ignore' },
  )
}

/** Made beside its place and moved there when it is whole, so that a start that is killed leaves nothing half-made there. */
function createData({ folder, account, data }) {
  if (existsSync(data) && readdirSync(data).length > 0)
    throw new Problem(
      `The database folder ${data} holds files, but its part “mysql” is missing, so it cannot be opened. Nothing has been changed. Bring the part back from a backup, or move the folder away and start again: a new, empty database is made then.`,
    )
  const fresh = `${data}.new`
  rmSync(fresh, { recursive: true, force: true })
  const made = spawnSync(
    'mariadb-install-db',
    [
      ...['--no-defaults', ...(account ? [`--user=${account.name}`] : []), `--datadir=${fresh}`],
      ...['--auth-root-authentication-method=socket', `--auth-root-socket-user=${admin}`],
      ...['--skip-test-db', '--skip-name-resolve'],
    ],
    { encoding: 'utf8', cwd: folder },
  )
  if (made.status !== 0)
    throw new Problem(`The database folder could not be made: ${(made.stderr || made.stdout).trim().split('\n').pop()}`)
  rmSync(data, { recursive: true, force: true })
  renameSync(fresh, data)
}

async function untilReady(child, { folder, socket, log }) {
  for (let i = 0; i < 300; i++) {
    if (answers(socket)) return
    if (child.exitCode !== null) break
    await sleep(100)
  }
  throw new Problem(
    `The database did not start. ${lastError(log)} Nothing has been changed. Where its files are damaged, bring the folder ${folder} back from a copy; or start with a new data folder (FOGBATH_DATA=/another) and bring the productions back from a backup with \`npx fogbath restore FILE\`.`,
  )
}

/** What follows from an error that stands in the log before it. */
const FOLLOWS = /Aborting|Plugin initialization aborted|registration as a STORAGE ENGINE|Unknown\/unsupported storage/

/** What the server's log says went wrong last. */
function lastError(log) {
  if (!existsSync(log)) return ''
  const lines = readFileSync(log, 'utf8').trim().split('\n')
  const last = lines.filter((l) => l.includes('[ERROR]') && !FOLLOWS.test(l)).pop()
  return last ? `Its log says: ${last.replace(/^.*\[ERROR\]\s*/, '')} (${log})` : `Its log is ${log}.`
}

/** How long the server may take to write what it still holds. */
const PATIENCE_MS = 10_000

async function stopServer({ socket, pidFile, data }) {
  const pid = existsSync(pidFile) ? Number(readFileSync(pidFile, 'utf8')) : 0
  const ours = () => pid > 0 && isRunning(pid, 'mariadbd', data)
  for (const as of [admin, 'root']) {
    if (client(socket, 'mariadb-admin', ['shutdown'], { timeout: PATIENCE_MS, as }).status === 0) break
  }
  for (let i = 0; i < 100 && ours(); i++) await sleep(50)
  if (!ours()) return
  // On a full disk the server would wait for room without end. InnoDB's log brings back whatever was committed.
  say('The database cannot finish writing; is the disk full? It is ended now. What was saved is kept.')
  process.kill(pid, 'SIGKILL')
  rmSync(pidFile, { force: true })
}
