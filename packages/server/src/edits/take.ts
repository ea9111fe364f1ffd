import type { EditList, PlannedEvent, Reply, ROUTES } from '@fogbath/contract'
import { withDecision, type EditEvent } from '@fogbath/core/edits'
import type { Bath } from '@fogbath/core/line'
import type { Sequelize, Transaction } from 'sequelize'
import { KeptList, Medium, Shot } from '../db/models'
import { updateRow } from '../db/rows'
import { Fault } from '../errors'
import type { Folder } from '../files/inside'
import type { MediaStore } from '../media/store'
import { addShot, copyShot, heldProduction, stillWithin } from '../shots/new-shot'
import { planEdit, shotsInOrder } from './plan'

interface Wanted {
  readonly list: EditList
  /** Of the plan that was seen. */
  readonly key: string
  /** Shots that go, of those that the edit does not show. */
  readonly remove: readonly number[]
}

/** Makes of a production what the plan of an edit list says: all of it or nothing. */
export function takeEdit(
  db: Sequelize,
  productionId: number,
  { list, key, remove }: Wanted,
  places: { readonly store: MediaStore; readonly watched: Folder | null },
): Promise<Reply<typeof ROUTES.takeEdit>> {
  return db.transaction(async (transaction) => {
    await heldProduction(productionId, transaction)
    const { plan, events } = await planEdit(productionId, list, places, transaction)
    if (plan.key !== key)
      throw new Fault(
        'stale',
        'The production or its footage has changed since; look at what the edit makes of it again.',
      )
    const strangers = remove.filter((id) => !plan.gone.some((shot) => shot.id === id))
    if (strangers.length > 0)
      throw new Fault(
        'invalid',
        `Shot ${strangers.join(', ')} cannot be removed: the edit shows it, or it is of another production.`,
      )
    const shots = new Map((await shotsInOrder(productionId, transaction)).map((shot) => [shot.id, shot]))
    const siblings = new Map([...shots.values()].map((shot) => [shot.mediumId, shot]))
    const order: number[] = []
    const counts = { made: 0, changed: 0, removed: remove.length, waiting: 0 }
    for (const [i, planned] of plan.events.entries()) {
      if (planned.range === null) {
        counts.waiting++
        continue
      }
      const event = events[i]!
      const was = planned.shotId === null ? null : shots.get(planned.shotId)!
      if (was) counts.changed += Number(await changeShot(was, planned, event, transaction))
      else counts.made++
      const alike = planned.like === null ? null : shots.get(planned.like)!
      const shot = was ?? (await makeShot(productionId, planned, event, alike, siblings, transaction))
      order.push(shot.id)
    }
    if (remove.length > 0) await Shot.destroy({ where: { id: [...remove], productionId }, transaction })
    const others = [...shots.keys()].filter((id) => !order.includes(id) && !remove.includes(id))
    for (const [position, id] of [...order, ...others].entries())
      await Shot.update({ position }, { where: { id }, transaction, silent: true })
    await KeptList.upsert({ ...list, productionId }, { transaction })
    return counts
  })
}

const prepared = (preparation: readonly Bath[], event: EditEvent, { graded }: PlannedEvent): readonly Bath[] =>
  graded ? withDecision(preparation, event.decision!) : preparation

/** @returns whether anything of it is another now */
async function changeShot(
  shot: Shot,
  planned: PlannedEvent,
  event: EditEvent,
  transaction: Transaction,
): Promise<boolean> {
  const { range, cut } = planned
  const preparation = prepared(shot.preparation, event, planned)
  const now = { ...range!, cut, preparation, still: stillWithin(shot.still, range!) }
  const { first, last, still } = shot
  const before = { first, last, cut: shot.cut, preparation: shot.preparation, still }
  if (JSON.stringify(sorted(before)) === JSON.stringify(sorted(now))) return false
  await updateRow(Shot, shot.id, shot.revision, now, 'shot', transaction)
  return true
}
/** JSON columns come back with their members in another order. */
const sorted = (value: unknown): unknown =>
  Array.isArray(value)
    ? value.map(sorted)
    : value && typeof value === 'object'
      ? Object.fromEntries(
          Object.entries(value)
            .sort(([a], [b]) => (a < b ? -1 : 1))
            .map(([k, v]) => [k, sorted(v)]),
        )
      : value

/** A part of a shot that was cut in two takes its treatment; other footage of the production is read as it is there. */
async function makeShot(
  productionId: number,
  planned: PlannedEvent,
  event: EditEvent,
  alike: Shot | null,
  siblings: ReadonlyMap<number, Shot>,
  transaction: Transaction,
): Promise<Shot> {
  const { name, range, cut } = planned
  const own = { ...range!, name, cut }
  if (alike) {
    const preparation = prepared(alike.preparation, event, planned)
    return copyShot(alike, { ...own, preparation, still: stillWithin(alike.still, range!) }, transaction)
  }
  const medium = (await Medium.findByPk(planned.mediumId!, { transaction }))!
  const sibling = siblings.get(medium.id)
  const as = sibling ? { encoding: sibling.encoding, reading: sibling.reading } : {}
  return addShot(productionId, medium, { ...own, ...as, preparation: prepared([], event, planned) }, transaction)
}
