import {
  HistoryChangeSchema,
  MOST_STEPS,
  checkRecipe,
  type HistoryChange,
  type StackChange,
  type Step,
} from '@fogbath/core'
import type { Sequelize, Transaction } from 'sequelize'
import { Edit, Shot, type Stack } from '../db/models'
import { findRow } from '../db/rows'
import { Fault } from '../errors'
import type { App, Context } from './context'
import { IdParams } from './schemas'

/** A step that put a line on many shots holds all their old lines. */
const MOST_BODY = 24e6

const stackOf = (shotId: number, stack: Stack, transaction?: Transaction): Promise<Edit[]> =>
  Edit.findAll({ where: { shotId, stack }, order: [['position', 'ASC']], ...(transaction ? { transaction } : {}) })

async function changeStack(
  shotId: number,
  stack: Stack,
  { drop, keep, add }: StackChange,
  transaction: Transaction,
): Promise<void> {
  const there = await stackOf(shotId, stack, transaction)
  if (drop + keep > there.length)
    throw new Fault(
      'invalid',
      `The ${stack} has ${there.length} steps; ${drop} dropped and ${keep} kept are more than that.`,
    )
  if (keep + add.length > MOST_STEPS)
    throw new Fault('invalid', `The ${stack} would have ${keep + add.length} steps; ${MOST_STEPS} are the most.`)
  const kept = there.slice(drop, drop + keep)
  const gone = there.filter((row) => !kept.includes(row)).map((row) => row.id)
  if (gone.length) await Edit.destroy({ where: { id: gone }, transaction })
  const from = (kept[kept.length - 1]?.position ?? 0) + 1
  await Edit.bulkCreate(
    add.map((step, i) => ({ shotId, stack, position: from + i, step: checkStep(step) })),
    { transaction },
  )
}

function checkStep(step: Step): Step {
  if (step.kind === 'recipe') checkRecipe(step.recipe)
  if (step.kind === 'shots') for (const { recipe } of step.trials) checkRecipe(recipe)
  return step
}

/** What undo and redo of a shot bring back. Written as differences: most often one step more, or one from stack to stack. */
export function historyRoutes(app: App, { db }: Context): void {
  app.get('/api/shots/:id/history', { schema: { params: IdParams } }, async (request) => {
    const shot = await findRow(Shot, Number(request.params.id), 'shot')
    const [past, future] = await Promise.all([stackOf(shot.id, 'past'), stackOf(shot.id, 'future')])
    const steps = (rows: Edit[]): Step[] => rows.map((row) => row.step)
    return { revision: shot.edits, past: steps(past), future: steps(future) }
  })

  app.patch(
    '/api/shots/:id/history',
    { schema: { params: IdParams, body: HistoryChangeSchema }, bodyLimit: MOST_BODY },
    async (request) => change(db, Number(request.params.id), request.body as unknown as HistoryChange),
  )
}

function change(db: Sequelize, id: number, { revision, past, future }: HistoryChange): Promise<{ revision: number }> {
  return db.transaction(async (transaction) => {
    const shot = await Shot.findByPk(id, { transaction, lock: transaction.LOCK.UPDATE })
    if (!shot) throw new Fault('not-found', `There is no shot ${id}.`)
    if (shot.edits !== revision)
      throw new Fault(
        'stale',
        `The undo of shot ${id} was written elsewhere: you have revision ${revision}, it is now at ${shot.edits}.`,
        { current: { revision: shot.edits } },
      )
    await changeStack(id, 'past', past, transaction)
    await changeStack(id, 'future', { drop: 0, ...future }, transaction)
    await shot.update({ edits: revision + 1 }, { transaction })
    return { revision: revision + 1 }
  })
}
