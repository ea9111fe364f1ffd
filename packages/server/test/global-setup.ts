import { mkdirSync } from 'node:fs'
import { join } from 'node:path'
// @ts-expect-error a plain script without types
import { startMariadb } from '../../../scripts/lib/mariadb.mjs'
// @ts-expect-error a plain script without types
import { buildServer } from '../../../scripts/lib/setup.mjs'

interface Running {
  readonly port: number
  readonly user: string
  readonly password: string
  readonly stop: () => Promise<void>
}

/** A real MariaDB of the tests' own, on a port of its own, and threads that are built of the sources as they are. */
export default async function setup(): Promise<() => Promise<void>> {
  ;(buildServer as () => void)()
  const folder = join(import.meta.dirname, '../../../.fogbath-test/db-unit')
  mkdirSync(folder, { recursive: true })
  const db = (await startMariadb(folder, { many: true })) as Running
  Object.assign(process.env, { TEST_DB_PORT: String(db.port), TEST_DB_USER: db.user, TEST_DB_PASSWORD: db.password })
  return db.stop
}
