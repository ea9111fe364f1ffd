import { QueryTypes, Sequelize } from 'sequelize'
import { Umzug, type UmzugStorage } from 'umzug'
import { Fault } from '../errors'
import { checkTables } from './check'
import { MIGRATIONS } from './migrations'
import { defineModels } from './columns'

export interface DatabaseOptions {
  readonly port: number
  readonly user: string
  readonly password: string
  readonly database: string
}

/** Opens the database on loopback, brings its schema up to date and binds the models. */
export async function connect(options: DatabaseOptions): Promise<Sequelize> {
  const sequelize = new Sequelize(options.database, options.user, options.password, {
    host: '127.0.0.1',
    port: options.port,
    dialect: 'mariadb',
    logging: false,
    // Under load a connection takes its time; that is no reason to refuse what somebody sends.
    dialectOptions: { connectTimeout: 20_000 },
    pool: { max: 12, acquire: 60_000 },
  })
  await sequelize.authenticate()
  await checkTables(sequelize)
  await migrate(sequelize)
  defineModels(sequelize)
  return sequelize
}

/** Umzug keeps its record in a table of the database itself. */
function storage(sequelize: Sequelize): UmzugStorage {
  const ensure = () => sequelize.query('CREATE TABLE IF NOT EXISTS migration (name VARCHAR(120) PRIMARY KEY)')
  return {
    executed: async () => {
      await ensure()
      const rows = await sequelize.query<{ name: string }>('SELECT name FROM migration ORDER BY name', {
        type: QueryTypes.SELECT,
      })
      return rows.map((r) => r.name)
    },
    logMigration: async ({ name }) =>
      void (await sequelize.query('INSERT INTO migration VALUES (?)', { replacements: [name] })),
    unlogMigration: async ({ name }) =>
      void (await sequelize.query('DELETE FROM migration WHERE name = ?', { replacements: [name] })),
  }
}

export function makeUmzug(sequelize: Sequelize): Umzug {
  const query = sequelize.getQueryInterface()
  return new Umzug({
    migrations: MIGRATIONS.map((m) => ({ name: m.name, up: () => m.up(query), down: () => m.down(query) })),
    storage: storage(sequelize),
    logger: undefined,
  })
}

/** Brings the schema up to date; one from a later version is left as it is. */
async function migrate(sequelize: Sequelize): Promise<void> {
  const umzug = makeUmzug(sequelize)
  const known = new Set(MIGRATIONS.map((m) => m.name))
  const later = (await storage(sequelize).executed({ context: {} })).filter((name) => !known.has(name))
  if (later.length)
    throw new Fault(
      'program',
      `The database was last used by a newer version of Fog Bath (its step ${later.at(-1)} is not known here). Nothing has been changed. Start that version, or set FOGBATH_DATA to another folder.`,
    )
  await umzug.up()
}
