import { ROUTES } from '@fogbath/contract'
import { MOST_STEPS, checkStep, type HistoryChange, type KeptStep, type StackChange } from '@fogbath/core/line'
import { Op, col, fn, type Sequelize, type Transaction } from 'sequelize'
import { Edit, Shot, type Stack } from '../db/models'
import { findRow } from '../db/rows'
import { heldShot } from '../db/shots'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

/** Most bytes of a shot's undo, and of its redo; the oldest steps go first. */
export const MOST_STACK_BYTES = 16e6

async function changeStack(
  shotId: number,
  stack: Stack,
  { remove, add }: StackChange,
  transaction: Transaction,
): Promise<void> {
  const keys = [...remove, ...add.map(({ key }) => key)]
  // A step moves from stack to stack under a new name, so a name that comes again is an answer that got lost.
  const there = await Edit.findAll({ where: { shotId, key: { [Op.in]: keys } }, attributes: ['key'], transaction })
  const known = new Set(there.map((row) => row.key))
  if (remove.length) await Edit.destroy({ where: { shotId, stack, key: { [Op.in]: [...remove] } }, transaction })
  const last = await Edit.max<number | null, Edit>('position', { where: { shotId, stack }, transaction })
  const fresh = add.filter(({ key }) => !known.has(key))
  await Edit.bulkCreate(
    fresh.map(({ key, step }, i) => ({ shotId, stack, key, position: (last ?? 0) + 1 + i, step: checkStep(step) })),
    { transaction },
  )
  await dropOldest(shotId, stack, transaction)
}

/** Keeps the newest steps, as many as may be kept and as fit. */
async function dropOldest(shotId: number, stack: Stack, transaction: Transaction): Promise<void> {
  const rows = await Edit.findAll({
    where: { shotId, stack },
    order: [['position', 'DESC']],
    transaction,
    raw: true,
    attributes: ['id', [fn('LENGTH', col('step')), 'bytes']],
  })
  let room = MOST_STACK_BYTES
  const old = (rows as unknown as { id: number; bytes: number }[]).filter(
    ({ bytes }, i) => (room -= bytes) < 0 || i >= MOST_STEPS,
  )
  if (old.length) await Edit.destroy({ where: { id: old.map((row) => row.id) }, transaction })
}

/**
 * What undo and redo of a shot bring back. Each window writes what it put on the stacks and took off them, by name, so
 * windows that work on one shot at the same time add to each other's steps and never replace them.
 */
export function historyRoutes(app: App, { db }: Context): void {
  const serve = serverOf(app)
  serve(ROUTES.history, async ({ params }) => {
    const shot = await findRow(Shot, params.id, 'shot')
    // Both stacks in one statement: what is moved from one to the other meanwhile is seen once, not twice or never.
    const rows = await Edit.findAll({ where: { shotId: shot.id }, order: [['position', 'ASC']] })
    const stack = (name: Stack): KeptStep[] =>
      rows.filter((row) => row.stack === name).map(({ key, step }) => ({ key, step }))
    return { past: stack('past'), future: stack('future') }
  })

  serve(ROUTES.changeHistory, ({ params, body }) => change(db, params.id, body))
}

function change(db: Sequelize, id: number, { past, future }: HistoryChange): Promise<void> {
  return db.transaction(async (transaction) => {
    // The lock lets one window write at a time.
    await heldShot(id, transaction)
    await changeStack(id, 'past', past, transaction)
    await changeStack(id, 'future', future, transaction)
  })
}
