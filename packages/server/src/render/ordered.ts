import type { Piece } from '@fogbath/contract'
import { USUAL_NAMES, nameFor, type Delivery, type NameParts } from '@fogbath/core/delivery'
import { cropOf, timeOf, wholeLine } from '@fogbath/core/line'
import { timecode } from '@fogbath/core/numbers'
import { Medium, Production, Shot, Trial } from '../db/models'
import { findRow } from '../db/rows'
import { asRead } from '../db/shots'
import { Fault } from '../errors'
import { writtenSize } from '../media/encode-args'
import type { Footage } from '../media/store'
import { encodingRefOf } from '../shelf/encodings'
import { makeJob } from './job'

/** A shot on its way to a render: what it is, and the frames that are taken. */
export interface Ordered {
  readonly shot: Shot
  readonly trial: Trial
  readonly medium: Footage
  readonly name: string
  /** What its name is made of. */
  readonly parts: NameParts
  readonly first: number
  readonly count: number
}

/** @param trialId the chosen one when left out */
export async function orderOf(shotId: number, delivery: Delivery, trialId?: number): Promise<Ordered> {
  const shot = await findRow(Shot, shotId, 'shot')
  const trial = await findRow(Trial, trialId ?? shot.trialId ?? 0, 'trial')
  if (trial.shotId !== shot.id) throw new Fault('invalid', `Trial ${trial.id} belongs to another shot.`)
  const production = await findRow(Production, shot.productionId, 'production')
  const medium = asRead((await findRow(Medium, shot.mediumId, 'medium')).toJSON(), shot.reading)
  const { handles = 0, names = USUAL_NAMES } = delivery
  const first = Math.max(0, shot.first - handles)
  const last = Math.min(medium.info.frames - 1, shot.last + handles)
  const parts = partsOf(production, shot, trial, medium, first)
  return { shot, trial, medium, name: nameFor(names, parts), parts, first, count: last - first + 1 }
}

function partsOf(production: Production, shot: Shot, trial: Trial, { info }: Footage, first: number): NameParts {
  return {
    production: production.name,
    shot: shot.name,
    trial: trial.name,
    recipe: trial.recipe.name,
    date: new Date().toISOString().slice(0, 10),
    number: String(shot.position + 1).padStart(3, '0'),
    timecode: timecode(first, info.fps, info.timecode).replace(/[:;]/g, '-'),
    frame: String(first),
  }
}

/** What a render keeps of it. */
export const pieceOf = ({ shot, trial, medium, first, count }: Ordered): Piece => ({
  label: shot.name,
  mediumId: shot.mediumId,
  reading: medium.info.reading ?? {},
  first,
  count,
  encoding: shot.encoding,
  recipe: trial.recipe,
  preparation: shot.preparation,
  after: trial.after,
  time: timeIn({ shot, trial }) ?? null,
})

/** What a trial's line needs to know of its shot. */
const timeIn = ({ shot, trial }: Pick<Ordered, 'shot' | 'trial'>) =>
  timeOf(
    { first: shot.first, last: shot.last, tracks: shot.tracks ?? [] },
    { preparation: shot.preparation, recipe: trial.recipe, after: trial.after },
  )

/** What it becomes. @throws what is wrong with rendering it so */
export async function shapeOf({ shot, trial, medium }: Ordered, delivery: Delivery) {
  const { recipe, after } = trial
  const line = { recipe, preparation: shot.preparation, after, time: timeIn({ shot, trial }) }
  const order = { ...line, encoding: await encodingRefOf(shot.encoding) }
  const job = makeJob(order, delivery, delivery.to === undefined ? undefined : await encodingRefOf(delivery.to))
  const { width, height } = cropOf({ baths: wholeLine(order) }, medium.info.width, medium.info.height)
  return { job, size: writtenSize({ delivery, width, height, encoding: job.to }) }
}

/** Refuses a delivery that this shot cannot have. */
export const checkOrder = async (ordered: Ordered, delivery: Delivery): Promise<void> =>
  void (await shapeOf(ordered, delivery))
