import { preparationOfTrims } from '@fogbath/core/line'
import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize'

export interface Migration {
  readonly name: string
  readonly up: (query: QueryInterface) => Promise<void>
  readonly down: (query: QueryInterface) => Promise<void>
}

const id = { type: DataTypes.INTEGER, primaryKey: true, autoIncrement: true }
const revision = { type: DataTypes.INTEGER, allowNull: false, defaultValue: 1 }
const int = { type: DataTypes.INTEGER, allowNull: false }
const flag = { type: DataTypes.BOOLEAN, allowNull: false, defaultValue: false }
const json = { type: DataTypes.JSON, allowNull: false }
const text = (length: number) => ({ type: DataTypes.STRING(length), allowNull: false })
const stamps = {
  created_at: { type: DataTypes.DATE(3), allowNull: false },
  updated_at: { type: DataTypes.DATE(3), allowNull: false },
}
const refers = (table: string, onDelete: 'CASCADE' | 'RESTRICT' | 'SET NULL') => ({
  type: DataTypes.INTEGER,
  allowNull: onDelete === 'SET NULL',
  references: { model: table, key: 'id' },
  onDelete,
})

const ADD_FAVOURITE = 'ALTER TABLE kept_recipe ADD COLUMN IF NOT EXISTS favourite TINYINT(1) NOT NULL DEFAULT 0'
const ADD_EDITS = 'ALTER TABLE shot ADD COLUMN IF NOT EXISTS edits INTEGER NOT NULL DEFAULT 0'

/** What makes tables large. */
const SIZED = [
  ['proof', 'picture'],
  ['edit', 'step'],
] as const

/** Columns that came for trims, and tables that had them. */
const PARTS = [
  ['shot', 'preparation'],
  ['trial', 'after'],
  ['proof', 'preparation'],
  ['proof', 'after'],
  ['render', 'preparation'],
  ['render', 'after'],
] as const
/** What reads footage. */
const READ = ['shot', 'render'] as const
const TRIMMED = ['shot', 'proof', 'render'] as const
const NO_TRIMS = { exposure: 0, temperature: 0, tint: 0, lightRed: 0, lightGreen: 0, lightBlue: 0 }

/**
 * Every step of the schema, oldest first. What a released step leads to is never changed. MariaDB ends a transaction at
 * each change of a table, so a start that is cut off leaves a step half done: every statement can be run again.
 */
export const MIGRATIONS: readonly Migration[] = [
  {
    name: '001-first-tables',
    up: async (q) => {
      await q.createTable('production', { id, revision, name: text(120), notes: text(2000), ...stamps })
      await q.createTable('medium', {
        id,
        sha256: { ...text(64), unique: true },
        name: text(255),
        size: { type: DataTypes.BIGINT, allowNull: false },
        info: json,
        sequence: { ...text(8), defaultValue: '' },
        ...stamps,
      })
      await q.createTable('shot', {
        id,
        revision,
        production_id: refers('production', 'CASCADE'),
        medium_id: refers('medium', 'RESTRICT'),
        name: text(120),
        position: int,
        first: int,
        last: int,
        still: int,
        encoding: text(32),
        trims: json,
        trial_id: { type: DataTypes.INTEGER, allowNull: true },
        ...stamps,
      })
      await q.createTable('trial', {
        id,
        revision,
        shot_id: refers('shot', 'CASCADE'),
        name: text(60),
        recipe: json,
        ...stamps,
      })
      await q.createTable('render', {
        id,
        shot_id: refers('shot', 'SET NULL'),
        label: text(255),
        format: text(8),
        state: text(16),
        first: int,
        count: int,
        done: int,
        message: text(500),
        medium_id: refers('medium', 'RESTRICT'),
        encoding: text(32),
        recipe: json,
        trims: json,
        ...stamps,
      })
      await q.createTable('render_part', {
        id,
        render_id: refers('render', 'CASCADE'),
        first: int,
        count: int,
        ...stamps,
      })
    },
    down: async (q) => {
      for (const table of ['render_part', 'render', 'trial', 'shot', 'medium', 'production']) await q.dropTable(table)
    },
  },
  {
    name: '002-marks-and-proofs',
    up: async (q) => {
      await q.sequelize.query('ALTER TABLE shot ADD COLUMN IF NOT EXISTS marks JSON NULL')
      await q.createTable('proof', {
        id,
        revision,
        shot_id: refers('shot', 'CASCADE'),
        name: text(60),
        frame: int,
        width: int,
        height: int,
        encoding: text(32),
        recipe: json,
        trims: json,
        picture: { type: DataTypes.BLOB('long'), allowNull: false },
        ...stamps,
      })
    },
    down: async (q) => {
      await q.dropTable('proof')
      await q.sequelize.query('ALTER TABLE shot DROP COLUMN IF EXISTS marks')
    },
  },
  {
    name: '003-edits',
    up: async (q) => {
      await q.sequelize.query(ADD_EDITS)
      await q.createTable('edit', {
        id,
        shot_id: refers('shot', 'CASCADE'),
        stack: text(8),
        position: int,
        step: json,
        ...stamps,
      })
    },
    down: async (q) => {
      await q.dropTable('edit')
      await q.sequelize.query('ALTER TABLE shot DROP COLUMN IF EXISTS edits')
    },
  },
  {
    name: '004-named-edits',
    up: async (q) => {
      await q.sequelize.query('ALTER TABLE edit ADD COLUMN IF NOT EXISTS `key` VARCHAR(32) NULL AFTER stack')
      await q.sequelize.query("UPDATE edit SET `key` = REPLACE(UUID(), '-', '') WHERE `key` IS NULL")
      await q.sequelize.query('ALTER TABLE edit MODIFY `key` VARCHAR(32) NOT NULL')
      await q.sequelize.query('ALTER TABLE edit ADD UNIQUE INDEX IF NOT EXISTS edit_of_shot (shot_id, `key`)')
      await q.sequelize.query('ALTER TABLE shot DROP COLUMN IF EXISTS edits')
    },
    down: async (q) => {
      await q.sequelize.query(ADD_EDITS)
      // The foreign key needs an index of its own again before this one can go.
      await q.sequelize.query('ALTER TABLE edit ADD INDEX IF NOT EXISTS shot_id (shot_id)')
      await q.sequelize.query('ALTER TABLE edit DROP INDEX IF EXISTS edit_of_shot, DROP COLUMN IF EXISTS `key`')
    },
  },
  {
    name: '005-shelf',
    up: async (q) => {
      await q.createTable('kept_recipe', {
        id,
        revision,
        key: { ...text(32), unique: true },
        name: text(80),
        sentence: text(300),
        tags: json,
        favourite: flag,
        archived: flag,
        latest: int,
        ...stamps,
      })
      await q.createTable('recipe_version', {
        id,
        kept_recipe_id: refers('kept_recipe', 'CASCADE'),
        number: int,
        recipe: json,
        changes: json,
        ...stamps,
      })
      await q.sequelize.query(
        'ALTER TABLE recipe_version ADD UNIQUE INDEX IF NOT EXISTS version_of_recipe (kept_recipe_id, `number`)',
      )
    },
    down: async (q) => {
      for (const table of ['recipe_version', 'kept_recipe']) await q.dropTable(table)
    },
  },
  {
    name: '006-makers-and-masks',
    up: async (q) => {
      await q.sequelize.query(
        "ALTER TABLE kept_recipe ADD COLUMN IF NOT EXISTS maker VARCHAR(80) NOT NULL DEFAULT '' AFTER sentence, ADD COLUMN IF NOT EXISTS notes VARCHAR(2000) NOT NULL DEFAULT '' AFTER maker",
      )
      await q.createTable('kept_mask', {
        id,
        revision,
        key: { ...text(32), unique: true },
        name: text(80),
        mask: json,
        archived: flag,
        ...stamps,
      })
    },
    down: async (q) => {
      await q.dropTable('kept_mask')
      await q.sequelize.query('ALTER TABLE kept_recipe DROP COLUMN IF EXISTS notes, DROP COLUMN IF EXISTS maker')
    },
  },
  {
    // Recipes that come with the program have no row of their own, and can be favourites as well.
    name: '007-favourites',
    up: async (q) => {
      await q.createTable('favourite', { id, key: { ...text(60), unique: true }, ...stamps })
      // Where the column went at a start that was cut off, it comes back empty.
      await q.sequelize.query(ADD_FAVOURITE)
      await q.sequelize.query(
        'INSERT IGNORE INTO favourite (`key`, created_at, updated_at) SELECT `key`, created_at, updated_at FROM kept_recipe WHERE favourite',
      )
      await q.sequelize.query('ALTER TABLE kept_recipe DROP COLUMN IF EXISTS favourite')
    },
    down: async (q) => {
      await q.sequelize.query(ADD_FAVOURITE)
      await q.sequelize.query('UPDATE kept_recipe SET favourite = TRUE WHERE `key` IN (SELECT `key` FROM favourite)')
      await q.dropTable('favourite')
    },
  },
  {
    // Sizes as numbers of their own, with an index from which they are summed: else every picture would be read for it.
    name: '008-sizes-and-restored',
    up: async (q) => {
      for (const [table, column] of SIZED)
        await q.sequelize.query(
          `ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS bytes INTEGER UNSIGNED AS (LENGTH(${column})) PERSISTENT, ADD INDEX IF NOT EXISTS ${table}_bytes (bytes)`,
        )
      await q.createTable('restored', { id, archive: { ...text(64), unique: true }, productions: json, ...stamps })
    },
    down: async (q) => {
      await q.dropTable('restored')
      for (const [table] of SIZED)
        await q.sequelize.query(`ALTER TABLE ${table} DROP INDEX IF EXISTS ${table}_bytes, DROP COLUMN IF EXISTS bytes`)
    },
  },
  {
    // Trims become a balance before the look; what may stand after a look belongs to the trial.
    name: '009-parts-of-a-line',
    up: async (q) => {
      for (const [table, column] of PARTS)
        await q.sequelize.query(
          `ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS \`${column}\` JSON NOT NULL DEFAULT '[]'`,
        )
      for (const table of TRIMMED) await trimsToPreparation(q, table)
    },
    down: async (q) => {
      for (const table of TRIMMED)
        await q.sequelize.query(
          `ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS trims JSON NOT NULL DEFAULT '${JSON.stringify(NO_TRIMS)}'`,
        )
      for (const [table, column] of PARTS)
        await q.sequelize.query(`ALTER TABLE ${table} DROP COLUMN IF EXISTS \`${column}\``)
      for (const table of TRIMMED) await q.sequelize.query(`ALTER TABLE ${table} ALTER COLUMN trims DROP DEFAULT`)
    },
  },
  {
    name: '010-own-encodings',
    up: async (q) => {
      await q.createTable('own_encoding', {
        id: { ...text(20), primaryKey: true },
        name: text(80),
        definition: json,
        ...stamps,
      })
    },
    down: async (q) => {
      await q.dropTable('own_encoding')
    },
  },
  {
    name: '011-readings',
    up: async (q) => {
      for (const table of READ)
        await q.sequelize.query(`ALTER TABLE ${table} ADD COLUMN IF NOT EXISTS reading JSON NOT NULL DEFAULT '{}'`)
    },
    down: async (q) => {
      for (const table of READ) await q.sequelize.query(`ALTER TABLE ${table} DROP COLUMN IF EXISTS reading`)
    },
  },
  {
    name: '012-edits',
    up: async (q) => {
      await q.sequelize.query('ALTER TABLE shot ADD COLUMN IF NOT EXISTS cut JSON NULL')
      await q.createTable('kept_list', {
        production_id: { ...refers('production', 'CASCADE'), primaryKey: true },
        name: text(255),
        fps: text(32),
        content: { type: DataTypes.TEXT('long'), allowNull: false },
        ...stamps,
      })
    },
    down: async (q) => {
      await q.dropTable('kept_list')
      await q.sequelize.query('ALTER TABLE shot DROP COLUMN IF EXISTS cut')
    },
  },
  {
    name: '013-deliveries',
    up: async (q) => {
      await q.sequelize.query(
        "ALTER TABLE render MODIFY COLUMN format VARCHAR(32) NOT NULL, ADD COLUMN IF NOT EXISTS delivery JSON NOT NULL DEFAULT '{}', ADD COLUMN IF NOT EXISTS edition VARCHAR(16) NOT NULL DEFAULT ''",
      )
      await q.createTable('kept_preset', {
        id,
        revision,
        name: { ...text(60), unique: true },
        delivery: json,
        ...stamps,
      })
    },
    down: async (q) => {
      await q.dropTable('kept_preset')
      // Formats that have come since are unknown to what was before.
      await q.sequelize.query('DELETE FROM render WHERE CHAR_LENGTH(format) > 8')
      await q.sequelize.query(
        'ALTER TABLE render DROP COLUMN IF EXISTS delivery, DROP COLUMN IF EXISTS edition, MODIFY COLUMN format VARCHAR(8) NOT NULL',
      )
    },
  },
]

/** Where a start was cut off behind the last statement, the column is gone already. */
async function trimsToPreparation(q: QueryInterface, table: string): Promise<void> {
  if (!('trims' in (await q.describeTable(table)))) return
  const rows = await q.sequelize.query<{ id: number; trims: unknown }>(`SELECT id, trims FROM ${table}`, {
    type: QueryTypes.SELECT,
  })
  for (const { id: row, trims } of rows) {
    const told = (typeof trims === 'string' ? JSON.parse(trims) : trims) as Parameters<typeof preparationOfTrims>[0]
    const preparation = JSON.stringify(preparationOfTrims(told))
    await q.sequelize.query(`UPDATE ${table} SET preparation = ? WHERE id = ?`, { replacements: [preparation, row] })
  }
  await q.sequelize.query(`ALTER TABLE ${table} DROP COLUMN trims`)
}
