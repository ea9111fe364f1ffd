// Who may enter the private MariaDB: the application over TCP, whoever runs it through the socket, nobody else.
import { spawnSync } from 'node:child_process'
import { userInfo } from 'node:os'
import { Problem } from './say.mjs'

export const DATABASE = 'fogbath'
export const USER = 'fogbath'

/** The account that runs this; the system vouches for it at the socket. */
export const admin = userInfo().username

export const client = (socket, program, args, more = {}) =>
  spawnSync(program, ['--no-defaults', `--socket=${socket}`, `--user=${more.as ?? admin}`, ...args], {
    encoding: 'utf8',
    ...more,
  })
/** Whether a server answers at the socket; one that knows nobody of our name answers too. */
export const answers = (socket) => client(socket, 'mariadb-admin', ['ping'], { timeout: 5000 }).status === 0

/**
 * Over TCP only the application's own account comes in, with its password and rights on its own database; whoever runs
 * this comes in through the socket, by the name that the system vouches for. Folders from before this rule are brought to it.
 */
export function secure({ socket }, password, many) {
  const sql = (text, as) => client(socket, 'mariadb', ['--batch', '--skip-column-names'], { input: text, as })
  const keep = `'${USER}'@'127.0.0.1'`
  const us = `\`${admin}\`@localhost`
  let as = admin
  // Before this rule the database's root needed no password.
  if (sql('SELECT 1;', as).status !== 0) as = 'root'
  const accounts = sql("SELECT CONCAT('`', User, '`@`', Host, '`'), User, Host FROM mysql.global_priv;", as)
  if (accounts.status !== 0) throw new Problem(`The database lets nobody in: ${accounts.stderr.trim()}`)
  const others = accounts.stdout
    .trim()
    .split('\n')
    .map((line) => line.split('\t'))
    .filter(([, , host]) => host)
    .filter(
      ([, user, host]) =>
        !(user === USER && host === '127.0.0.1') && !(host === 'localhost' && [admin, 'mariadb.sys'].includes(user)),
    )
  const made = sql(
    [
      `CREATE DATABASE IF NOT EXISTS ${DATABASE};`,
      `CREATE USER IF NOT EXISTS ${keep};`,
      `ALTER USER ${keep} IDENTIFIED BY '${password}';`,
      `REVOKE ALL PRIVILEGES, GRANT OPTION FROM ${keep};`,
      `GRANT ALL ON \`${DATABASE}\`.* TO ${keep};`,
      ...(many ? [`GRANT ALL ON \`${DATABASE}\\_%\`.* TO ${keep};`] : []),
      `CREATE USER IF NOT EXISTS ${us} IDENTIFIED VIA unix_socket;`,
      `ALTER USER ${us} IDENTIFIED VIA unix_socket;`,
      `GRANT ALL ON *.* TO ${us} WITH GRANT OPTION;`,
      ...others.map(([name]) => `DROP USER IF EXISTS ${name};`),
    ].join('\n'),
    as,
  )
  if (made.status !== 0) throw new Problem(`The database could not be prepared: ${made.stderr.trim()}`)
}
