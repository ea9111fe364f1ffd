import type { Bath } from '@fogbath/core/line'
import { QueryTypes, Sequelize } from 'sequelize'
import { afterAll, beforeAll, beforeEach, expect, it } from 'vitest'
import { connect, makeUmzug } from '../src/db/connect'
import { MIGRATIONS } from '../src/db/migrations'
import { Favourite, KeptRecipe } from '../src/db/models'
import { makeRig, type Rig } from './helpers'

let rig: Rig
let db: Sequelize
beforeAll(async () => {
  rig = await makeRig()
  db = rig.context.db
})
afterAll(() => rig.close())
beforeEach(async () => {
  await makeUmzug(db).up()
})

/** Every column and index as the database itself describes them. */
const schema = async (): Promise<unknown> => ({
  columns: await db.query(
    'SELECT table_name, column_name, column_type, is_nullable, column_default FROM information_schema.columns WHERE table_schema = DATABASE() ORDER BY table_name, column_name',
    { type: QueryTypes.SELECT },
  ),
  indexes: await db.query(
    'SELECT table_name, column_name, non_unique, seq_in_index FROM information_schema.statistics WHERE table_schema = DATABASE() ORDER BY table_name, column_name, seq_in_index, non_unique',
    { type: QueryTypes.SELECT },
  ),
})

/** Runs something that is cut off before its n-th statement; gives whether it came to its end first. */
async function cutAfter(n: number, work: () => Promise<unknown>): Promise<boolean> {
  const query = db.query.bind(db)
  let left = n
  db.query = ((...args: Parameters<typeof query>) =>
    left-- > 0 ? query(...args) : Promise.reject(new Error('cut off'))) as typeof db.query
  try {
    await work()
    return true
  } catch (error) {
    expect(String(error)).toMatch(/cut off/)
    return false
  } finally {
    db.query = query
  }
}

it('goes down and up again', async () => {
  const before = await schema()
  const umzug = makeUmzug(db)
  expect(await umzug.executed()).toHaveLength(MIGRATIONS.length)
  await umzug.down({ to: 0 })
  expect(await umzug.executed()).toHaveLength(0)
  await umzug.up()
  expect(await schema()).toEqual(before)
})

it('cut off before any of its statements, is finished by the next start', async () => {
  const whole = await schema()
  let cuts = 0
  for (const done = { yet: false }; !done.yet; cuts++) {
    await makeUmzug(db).down({ to: 0 })
    done.yet = await cutAfter(cuts, () => makeUmzug(db).up())
    await makeUmzug(db).up()
    expect(await schema()).toEqual(whole)
  }
  // Tables, columns, and a note of each step.
  expect(cuts).toBeGreaterThan(3 * MIGRATIONS.length)
})

it('favourites that were marked before they had a table of their own are favourites still', async () => {
  const umzug = makeUmzug(db)
  await umzug.down({ to: '007-favourites' })
  const row = (key: string, favourite: number) =>
    db.query(
      `INSERT INTO kept_recipe (\`key\`, name, sentence, tags, favourite, archived, latest, created_at, updated_at) VALUES ('${key}', 'x', '', '[]', ${favourite}, 0, 1, NOW(), NOW())`,
    )
  await row('weirstone', 1)
  await row('lockstone', 0)
  await umzug.up()
  expect((await Favourite.findAll()).map(({ key }) => key)).toEqual(['weirstone'])
  await umzug.down({ to: '007-favourites' })
  const marked = await db.query('SELECT `key` FROM kept_recipe WHERE favourite', { type: QueryTypes.SELECT })
  expect(marked).toEqual([{ key: 'weirstone' }])
  await umzug.up()
  await KeptRecipe.destroy({ where: {} })
  await Favourite.destroy({ where: {} })
})

it('from a later version is left alone, and said', async () => {
  const { port, username, password, database } = db.config
  const open = () => connect({ port: Number(port), user: username, password: password!, database })
  await db.query("INSERT INTO migration VALUES ('999-of-tomorrow')")
  const before = await schema()
  await expect(open()).rejects.toThrow(
    /last used by a newer version of Fog Bath \(its step 999-of-tomorrow is not known here\)\. Nothing has been changed/,
  )
  expect(await schema()).toEqual(before)
  await db.query("DELETE FROM migration WHERE name = '999-of-tomorrow'")
  await (await open()).close()
})

it('makes a balance of what was trimmed, before and after a cut, and leaves what was not as it is', async () => {
  const umzug = makeUmzug(db)
  await umzug.down({ to: '009-parts-of-a-line' })
  await db.query("INSERT INTO production (name, notes, created_at, updated_at) VALUES ('Old', '', NOW(), NOW())")
  await db.query(
    "INSERT INTO medium (sha256, name, size, info, created_at, updated_at) VALUES ('a', 'a.png', 1, '{}', NOW(), NOW())",
  )
  const none = { exposure: 0, temperature: 0, tint: 0, lightRed: 0, lightGreen: 0, lightBlue: 0 }
  for (const trims of [none, { ...none, exposure: 0.5, temperature: -20 }])
    await db.query(
      "INSERT INTO shot (production_id, medium_id, name, position, first, last, still, encoding, trims, created_at, updated_at) SELECT p.id, m.id, 'S', 0, 0, 0, 0, 'bt1886', ?, NOW(), NOW() FROM production p, medium m WHERE p.name = 'Old' AND m.sha256 = 'a'",
      { replacements: [JSON.stringify(trims)] },
    )
  // Cut off once each row has been written, then once the first column is gone.
  for (const n of [9, 11]) await cutAfter(n, () => umzug.up())
  await umzug.up()
  const rows = await db.query<{ preparation: unknown }>("SELECT preparation FROM shot WHERE name = 'S' ORDER BY id", {
    type: QueryTypes.SELECT,
  })
  const told = rows.map(({ preparation: p }) => (typeof p === 'string' ? JSON.parse(p) : p) as Bath[])
  expect(told.map((baths) => baths.map((b) => [b.kind, b.settings['exposure'], b.settings['mired']]))).toEqual([
    [],
    [['balance', 0.5, -20]],
  ])
})
