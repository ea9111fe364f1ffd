import { DataTypes } from 'sequelize'
import { id, revision, int, json, text, refers, stamps, type Migration } from './columns'

const ADD_EDITS = 'ALTER TABLE shot ADD COLUMN IF NOT EXISTS edits INTEGER NOT NULL DEFAULT 0'

/** Productions, shots, trials, renders, proofs, and what undo brings back. */
export const PRODUCTIONS: readonly Migration[] = [
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
]
