import { mkdir, statfs } from 'node:fs/promises'
import type { Reply, ROUTES } from '@fogbath/contract'
import {
  USUAL_NAMES,
  checkDelivery,
  deliveryFormat,
  distinctNames,
  nameFor,
  type Delivery,
  type NameParts,
} from '@fogbath/core/delivery'
import { encodingOf } from '@fogbath/core/encodings'
import { cropOf, wholeLine } from '@fogbath/core/line'
import { framesASecond, timecode } from '@fogbath/core/numbers'
import { Medium, Production, Shot, Trial } from '../db/models'
import { findRow } from '../db/rows'
import { asRead } from '../db/shots'
import { Fault, sentenceOf } from '../errors'
import { hasAlpha } from '../media/decode'
import { writtenSize } from '../media/encode-args'
import type { Footage } from '../media/store'
import { encodingRefOf } from '../shelf/encodings'
import { makeJob } from './job'
import { HD } from './pace'

/** A shot on its way to a render: what it is, and the frames that are taken. */
export interface Ordered {
  readonly shot: Shot
  readonly trial: Trial
  readonly medium: Footage
  readonly name: string
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
  return { shot, trial, medium, name: nameFor(names, parts), first, count: last - first + 1 }
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

/** What is wrong with rendering it so; null for nothing. */
async function shapeOf({ shot, trial, medium }: Ordered, delivery: Delivery) {
  const { recipe, after } = trial
  const order = { recipe, preparation: shot.preparation, after, encoding: await encodingRefOf(shot.encoding) }
  const job = makeJob(order, delivery, delivery.to === undefined ? undefined : await encodingRefOf(delivery.to))
  const { width, height } = cropOf({ baths: wholeLine(order) }, medium.info.width, medium.info.height)
  return { job, size: writtenSize({ delivery, width, height, encoding: job.to }) }
}

/** Refuses a delivery that this shot cannot have. */
export const checkOrder = async (ordered: Ordered, delivery: Delivery): Promise<void> =>
  void (await shapeOf(ordered, delivery))

/**
 * What rendering shots makes: names, sizes, the room that it takes, what is lost.
 * @param folder where renders lie @param pace HD frames a second, from what was rendered last; null where nothing was
 */
export async function planRenders(
  shotIds: readonly number[],
  delivery: Delivery,
  folder: string,
  pace: number | null,
): Promise<Reply<typeof ROUTES.planRenders>> {
  checkDelivery(delivery)
  const orders: Ordered[] = []
  for (const id of shotIds) orders.push(await orderOf(id, delivery))
  const names = distinctNames(orders.map((o) => o.name))
  const shots = []
  const encodings = new Set<string>()
  for (const [i, ordered] of orders.entries()) {
    const { shot, first, count, medium } = ordered
    const common = { shotId: shot.id, name: names[i]!, first, count }
    try {
      const { job, size } = await shapeOf(ordered, delivery)
      encodings.add(encodingOf(job.to).label)
      shots.push({ ...common, ...size, bytes: bytesOf(delivery, size, count, medium), problem: null })
    } catch (error) {
      const { width, height } = medium.info
      shots.push({ ...common, width, height, bytes: 0, problem: sentenceOf(error) })
    }
  }
  const bytes = shots.reduce((sum, shot) => sum + shot.bytes, 0)
  // Before the first render there is none.
  await mkdir(folder, { recursive: true })
  const { bavail, bsize } = await statfs(folder)
  const free = bavail * bsize
  const pixels = orders.reduce((sum, { medium, count }) => sum + count * medium.info.width * medium.info.height, 0)
  return {
    shots,
    bytes,
    free,
    seconds: pace === null ? null : pixels / (pace * HD),
    remarks: [
      ...(encodings.size > 0 ? [`Written in ${[...encodings].join(' and ')}.`] : []),
      ...lossesOf(orders, delivery),
      ...(bytes > free ? [`It needs about ${gigabytes(bytes)}, and ${gigabytes(free)} are free.`] : []),
    ],
  }
}

const gigabytes = (bytes: number): string => `${(bytes / 1e9).toFixed(1)} GB`

/** About as large as it will be; a size that is asked for counts. */
function bytesOf(
  delivery: Delivery,
  size: { width: number; height: number },
  count: number,
  { info }: Footage,
): number {
  const { perPixel } = deliveryFormat(delivery.format)
  const seconds = count / (framesASecond(info.fps) || 24)
  if (delivery.rate !== undefined) return Math.round((delivery.rate * 1e6 * seconds) / 8)
  // Half of the quality is about a fifth of the size (common practice: six steps of a rate factor halve it).
  const share = delivery.quality === undefined ? 1 : 2 ** ((delivery.quality - 75) / 14)
  return Math.round((size.width * size.height * count * perPixel * share) / 8)
}

function lossesOf(orders: readonly Ordered[], delivery: Delivery): string[] {
  const { loses, alpha } = deliveryFormat(delivery.format)
  const withAlpha = orders.filter(({ medium }) => hasAlpha(medium.info))
  const lost = withAlpha.length > 0 && (!alpha || !delivery.alpha)
  const larger = orders.filter(({ medium }) => delivery.size && delivery.size.width > medium.info.width)
  return [
    `Loses: ${loses[0]!.toLowerCase()}${loses.slice(1)}`,
    ...(lost
      ? [`The alpha of ${withAlpha.length} ${withAlpha.length === 1 ? 'shot' : 'shots'} does not go along.`]
      : []),
    ...(larger.length > 0
      ? [`${larger.length} ${larger.length === 1 ? 'shot is' : 'shots are'} made larger than the footage.`]
      : []),
  ]
}
