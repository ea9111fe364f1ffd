import { preparationOfTrims } from '@fogbath/core/line'
import { DataTypes, QueryTypes, type QueryInterface } from 'sequelize'
import { id, revision, json, text, refers, stamps, type Migration } from './columns'

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

/** Parts of a line, encodings of one’s own, edits, and what renders become. */
export const DELIVERIES: readonly Migration[] = [
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
  {
    // Renders are put in order by hand, and can be of several shots.
    name: '014-order-of-renders',
    up: async (q) => {
      await q.sequelize.query(
        'ALTER TABLE render ADD COLUMN IF NOT EXISTS pieces JSON NULL, ADD COLUMN IF NOT EXISTS place DOUBLE NOT NULL DEFAULT 0, ADD COLUMN IF NOT EXISTS put VARCHAR(8) NULL',
      )
      await q.sequelize.query('UPDATE render SET place = id WHERE place = 0')
    },
    down: async (q) => {
      // What is paused or of several shots is unknown to what was before.
      await q.sequelize.query("DELETE FROM render WHERE state = 'paused' OR pieces IS NOT NULL")
      await q.sequelize.query(
        'ALTER TABLE render DROP COLUMN IF EXISTS pieces, DROP COLUMN IF EXISTS place, DROP COLUMN IF EXISTS put',
      )
    },
  },
  {
    // Masks follow what moves, and settings change over a shot. What is kept of that before is not known to what was before.
    name: '015-tracks',
    up: async (q) => {
      await q.sequelize.query('ALTER TABLE shot ADD COLUMN IF NOT EXISTS tracks JSON NULL')
      await q.sequelize.query('ALTER TABLE render ADD COLUMN IF NOT EXISTS time JSON NULL')
    },
    down: async (q) => {
      await q.sequelize.query('ALTER TABLE render DROP COLUMN IF EXISTS time')
      await q.sequelize.query('ALTER TABLE shot DROP COLUMN IF EXISTS tracks')
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
