import { ROUTES } from '@fogbath/contract'
import { readAs, type Reading } from '@fogbath/core/footage'
import { cutWithin, type Cut } from '@fogbath/core/edits'
import { checkPart, checkRecipe, type Bath, type Recipe } from '@fogbath/core/line'
import { checkTracks, type Track } from '@fogbath/core/tracking'
import type { Transaction } from 'sequelize'
import { Medium, Production, Shot, Trial } from '../db/models'
import { deleteRow, findRow, updateRow } from '../db/rows'
import { heldShot, wholeShots } from '../db/shots'
import { Fault } from '../errors'
import { checkFrames } from '../limits'
import type { FootageHealth } from '../media/health'
import { encodingRefOf } from '../shelf/encodings'
import { createShot } from '../shots/new-shot'
import type { App, Context } from './context'
import { serverOf } from './serve-route'

async function wholeShot(id: number, health: FootageHealth) {
  const [shot] = await wholeShots({ id }, health)
  if (!shot) throw new Fault('not-found', `There is no shot ${id}.`)
  return shot
}

interface ShotFields {
  first?: number
  last?: number
  still?: number
  trialId?: number
  encoding?: string
  reading?: Reading
  tracks?: readonly Track[]
}

/**
 * In and out must lie in the footage as it is read, and the chosen trial must be the shot's own.
 * @returns what changes with it: footage that is read in a way that makes it shorter or longer keeps its share of time
 */
async function checkShot(
  shot: Shot,
  change: ShotFields,
  transaction: Transaction,
): Promise<Partial<ShotFields & { cut: Cut }>> {
  const { info } = await findRow(Medium, shot.mediumId, 'medium', transaction)
  const reading = change.reading ?? shot.reading
  const kept = inFrames(shot, readAs(info, shot.reading).frames, readAs(info, reading).frames)
  const { first = kept.first, last = kept.last, still = kept.still } = change
  checkFrames({ first, last, still, reading }, info)
  if (change.tracks) checkTracks(change.tracks, readAs(info, reading).frames)
  if (change.encoding !== undefined) await encodingRefOf(change.encoding, transaction)
  const cut = shot.cut && cutWithin(shot.cut, { first, last })
  const moved = { ...(change.reading && kept), ...(cut && { cut }) }
  if (change.trialId === undefined) return moved
  const trial = await findRow(Trial, change.trialId, 'trial', transaction)
  if (trial.shotId !== shot.id) throw new Fault('invalid', `Trial ${trial.id} belongs to another shot.`)
  return moved
}

/** In, out and poster of footage that had so many frames, now that it has others. */
function inFrames({ first, last, still }: Shot, had: number, has: number) {
  const at = (frame: number): number => Math.min(has - 1, Math.round((frame * has) / had))
  return { first: at(first), last: last === had - 1 ? has - 1 : at(last), still: at(still) }
}

/** What is given of a trial's look. */
function checkLook({ recipe, after }: { recipe?: Recipe | undefined; after?: readonly Bath[] | undefined }) {
  if (after) checkPart('after', after)
  return { ...(recipe && { recipe: checkRecipe(recipe) }), ...(after && { after }) }
}

export function shotRoutes(app: App, { db, store }: Context): void {
  const serve = serverOf(app)
  serve(ROUTES.addShot, async ({ params, body }) => {
    const production = await findRow(Production, params.id, 'production')
    const medium = await findRow(Medium, body.mediumId, 'medium')
    const shot = await createShot(db, production.id, medium, body.name === undefined ? {} : { name: body.name })
    return wholeShot(shot.id, store.health)
  })

  serve(ROUTES.shot, ({ params }) => wholeShot(params.id, store.health))

  serve(ROUTES.changeShot, async ({ params: { id }, body: { revision, ...changes } }) => {
    if (changes.preparation) checkPart('preparation', changes.preparation)
    await db.transaction(async (transaction) => {
      // Held until all is written: the trial that is chosen cannot be deleted meanwhile.
      const shot = await heldShot(id, transaction)
      const moved = await checkShot(shot, changes, transaction)
      await updateRow(Shot, id, revision, { ...moved, ...changes }, 'shot', transaction)
    })
    return wholeShot(id, store.health)
  })

  serve(ROUTES.deleteShot, ({ params, query }) => deleteRow(Shot, params.id, query.revision, 'shot'))

  serve(ROUTES.createTrial, async ({ params, body: { name, recipe, after = [] } }) => {
    checkPart('after', after)
    const shot = await findRow(Shot, params.id, 'shot')
    return Trial.create({ shotId: shot.id, name, recipe: checkRecipe(recipe), after })
  })

  serve(ROUTES.changeTrial, ({ params, body: { revision, name, recipe, after } }) => {
    const changes = { ...(name !== undefined && { name }), ...checkLook({ recipe, after }) }
    return updateRow(Trial, params.id, revision, changes, 'trial')
  })

  /** Changed in one transaction: either all of them or, when one was changed elsewhere, none. */
  serve(ROUTES.changeLines, async ({ body }) => {
    const lines = body.lines.map(({ trialId, revision, ...look }) => ({ trialId, revision, look: checkLook(look) }))
    const preparations = [...(body.preparations ?? [])]
    for (const { preparation } of preparations) checkPart('preparation', preparation)
    // In the order of their ids, so that two such writes never wait for each other.
    lines.sort((a, b) => a.trialId - b.trialId)
    preparations.sort((a, b) => a.shotId - b.shotId)
    const trials = await db.transaction(async (transaction) => {
      const saved: Trial[] = []
      for (const { trialId, revision, look } of lines)
        saved.push(await updateRow(Trial, trialId, revision, look, 'trial', transaction))
      for (const { shotId, revision, preparation } of preparations)
        await updateRow(Shot, shotId, revision, { preparation }, 'shot', transaction)
      return saved
    })
    return { trials, shots: await wholeShots({ id: preparations.map((p) => p.shotId) }, store.health) }
  })

  serve(ROUTES.deleteTrial, async ({ params, query }) => {
    const { shotId, id } = await findRow(Trial, params.id, 'trial')
    await db.transaction(async (transaction) => {
      const shot = await heldShot(shotId, transaction)
      if ((await Trial.count({ where: { shotId }, transaction })) === 1)
        throw new Fault('invalid', 'A shot keeps at least one trial.')
      if (shot.trialId === id) throw new Fault('invalid', 'This trial is the shot’s current one; choose another first.')
      await deleteRow(Trial, id, query.revision, 'trial', transaction)
    })
  })
}
