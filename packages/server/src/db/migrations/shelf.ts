import { id, revision, int, flag, json, text, refers, stamps, type Migration } from './columns'

const ADD_FAVOURITE = 'ALTER TABLE kept_recipe ADD COLUMN IF NOT EXISTS favourite TINYINT(1) NOT NULL DEFAULT 0'

/** What makes tables large. */
const SIZED = [
  ['proof', 'picture'],
  ['edit', 'step'],
] as const

/** What is kept for all productions, and how large things are. */
export const SHELF: readonly Migration[] = [
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
]
