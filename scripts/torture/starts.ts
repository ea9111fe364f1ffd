import { execFileSync } from 'node:child_process'
import { chmodSync, existsSync, mkdirSync, readFileSync, readdirSync, renameSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROUTES } from '@fogbath/contract'
// @ts-expect-error a plain script without types
import { startMariadb } from '../lib/mariadb.mjs'
import type { Ledger } from './ledger'
import { Mortal, type Database } from './mortal'

const STARTS = 'starts with another database or clock'
const OTHERS = 'files that may not be read'
/** Who owns nothing. */
const NOBODY = 65_534
const DAY = 24

/** Footage is there whatever the database knows and whatever the clock says; lost footage is told and comes back. */
export async function oddStarts(root: string, data: string, ledger: Ledger, clip: Buffer): Promise<void> {
  mkdirSync(data, { recursive: true })
  const db = (await startMariadb(join(data, 'db'), { many: true })) as Database
  const login = [
    '--no-defaults',
    '--host=127.0.0.1',
    `--port=${db.port}`,
    `--user=${db.user}`,
    `--password=${db.password}`,
  ]
  const sql = (text: string): void => void execFileSync('mariadb', [...login, `--execute=${text}`])
  const mortal = new Mortal(root, data, db)
  const holds = (ok: boolean, what: string): void => ledger.holds(STARTS, ok, `${what}: ${mortal.said.slice(-200)}`)
  try {
    holds(await mortal.start(), 'starts')
    const id = await mortal.production('Own')
    await mortal.upload(id, 'own.mp4', clip)
    const shots = async () => (await mortal.ask(ROUTES.production, { params: { id } }))?.shots ?? []
    const { sha256 } = (await shots())[0]!.medium
    const path = join(data, 'media', sha256.slice(0, 2), sha256)
    const unknown = async () => (await mortal.ask(ROUTES.storage))?.unknown.map((u) => u.key) ?? []
    await mortal.stop()
    holds(await mortal.start(-DAY), 'starts with the clock a day back')
    holds(existsSync(path), 'footage is there with the clock a day back')
    await mortal.stop()
    // Another database in its place, which knows nothing, and the right one again.
    sql(`CREATE DATABASE IF NOT EXISTS ${db.database}_away; ${moved(login, db.database, `${db.database}_away`)}`)
    holds(await mortal.start(DAY), 'starts with an empty database and the clock a day on')
    holds((await unknown()).includes(sha256), 'unknown footage is listed')
    await mortal.ask(ROUTES.sweep, { body: { dryRun: false } })
    holds((await unknown()).includes(sha256), 'unknown footage is there after a sweep')
    await mortal.stop()
    sql(
      `DROP DATABASE ${db.database}; CREATE DATABASE ${db.database}; ${moved(login, `${db.database}_away`, db.database)}`,
    )
    holds(await mortal.start(), 'starts with its own database')
    holds(existsSync(path) && readFileSync(path).equals(clip), 'footage is back in its place')
    holds((await unknown()).length === 0, 'nothing is unknown any more')
    // The file goes, and is brought again.
    renameSync(path, `${path}.away`)
    holds((await shots())[0]?.medium.state === 'missing', 'missing footage is told')
    const backup = await fetch(`${mortal.url}/api/backup`)
    holds(backup.ok && (await backup.arrayBuffer()).byteLength > 0 && mortal.running, 'a backup goes on without it')
    await mortal.upload(id, 'again.mp4', clip)
    const [back, ...more] = await shots()
    holds(back?.medium.state === 'here' && more.length === 0, 'footage comes back to its shot')
    holds(!/\n\s+at /.test(mortal.said), 'no stack in the log')
  } finally {
    await mortal.stop()
    await db.stop()
  }
}

/** Statements that move all tables from one database into another. */
function moved(login: readonly string[], from: string, to: string): string {
  const names = execFileSync('mariadb', [
    ...login,
    '--batch',
    '--skip-column-names',
    `--execute=SHOW TABLES IN ${from}`,
  ])
  const tables = names.toString().trim().split('\n')
  return `RENAME TABLE ${tables.map((t) => `${from}.\`${t}\` TO ${to}.\`${t}\``).join(', ')};`
}

/** A server that is not the system's root meets files and folders that are closed to it. */
export async function closedFiles(root: string, data: string, ledger: Ledger, clip: Buffer): Promise<void> {
  if (process.getuid!() !== 0)
    return ledger.note(OTHERS, 'left out: only the system’s root can start it as somebody else')
  mkdirSync(data, { recursive: true })
  const db = (await startMariadb(join(data, 'db'))) as Database
  for (const name of ['media', 'cache', 'renders', 'imports', 'watched', 'shared']) mkdirSync(join(data, name))
  for (const name of ['watched/closed.mp4', 'shared/closed.json']) writeFileSync(join(data, name), clip)
  execFileSync('chown', [
    '-R',
    String(NOBODY),
    ...readdirSync(data)
      .filter((n) => n !== 'db')
      .map((n) => join(data, n)),
  ])
  execFileSync('chown', [String(NOBODY), data])
  mkdirSync(join(data, 'watched/shut'))
  for (const name of ['watched/closed.mp4', 'shared/closed.json', 'watched/shut']) chmodSync(join(data, name), 0)
  for (const name of ['watched/closed.mp4', 'shared/closed.json', 'watched/shut'])
    execFileSync('chown', ['0', join(data, name)])
  const mortal = new Mortal(root, data, db, { uid: NOBODY, gid: NOBODY })
  const holds = (ok: boolean, what: string): void => ledger.holds(OTHERS, ok, `${what}: ${mortal.said.slice(-300)}`)
  try {
    if (!(await mortal.start())) {
      // A checkout in a private folder cannot be read by anybody else.
      if (/EACCES|Cannot find module/.test(mortal.said))
        return ledger.note(OTHERS, 'left out: the program’s folder is private')
      return holds(false, 'starts')
    }
    const id = await mortal.production('Closed')
    holds((await mortal.ask(ROUTES.watched)) !== null, 'the watched folder is listed')
    const shared = await mortal.ask(ROUTES.sharedFiles)
    holds(/may not be read/.test(shared?.files[0]?.problem ?? ''), 'the shared folder says what may not be read')
    const picked = await fetch(`${mortal.url}/api/productions/${id}/pick`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ paths: ['closed.mp4'], asSequence: false }),
    })
    holds(picked.status === 422 && /may not be read/.test(await picked.text()), 'picking says what may not be read')
    await mortal.upload(id, 'own.mp4', clip)
    const { shots } = (await mortal.ask(ROUTES.production, { params: { id } }))!
    const { sha256 } = shots[0]!.medium
    const path = join(data, 'media', sha256.slice(0, 2), sha256)
    execFileSync('chown', ['0', path])
    chmodSync(path, 0)
    const backup = await fetch(`${mortal.url}/api/backup`)
    holds(backup.status === 200 && (await backup.arrayBuffer()).byteLength > 0, 'a backup goes on without it')
    holds(mortal.running && !/\n\s+at /.test(mortal.said), 'it lives on, without a stack in the log')
  } finally {
    await mortal.stop()
    await db.stop()
  }
}
