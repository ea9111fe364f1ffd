import { mkdir, statfs } from 'node:fs/promises'
import type { Asked, Piece, Reply, ROUTES } from '@fogbath/contract'
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
import { writtenSize } from '../media/encode-args'
import type { Footage } from '../media/store'
import { encodingRefOf } from '../shelf/encodings'
import { makeJob } from './job'
import { asCut, checkJoined, cutsOf } from './joined'
import { lossesOf } from './losses'
import { HD } from './pace'
import type { RenderQueue } from './queue'

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
})

/** What it becomes. @throws what is wrong with rendering it so */
export async function shapeOf({ shot, trial, medium }: Ordered, delivery: Delivery) {
  const { recipe, after } = trial
  const order = { recipe, preparation: shot.preparation, after, encoding: await encodingRefOf(shot.encoding) }
  const job = makeJob(order, delivery, delivery.to === undefined ? undefined : await encodingRefOf(delivery.to))
  const { width, height } = cropOf({ baths: wholeLine(order) }, medium.info.width, medium.info.height)
  return { job, size: writtenSize({ delivery, width, height, encoding: job.to }) }
}

/** Refuses a delivery that this shot cannot have. */
export const checkOrder = async (ordered: Ordered, delivery: Delivery): Promise<void> =>
  void (await shapeOf(ordered, delivery))

type Plan = Reply<typeof ROUTES.planRenders>

/** What rendering shots makes: names, sizes, the room that it takes, what is lost. */
export async function planRenders(
  { shots: ids, delivery, joined = false }: Asked<typeof ROUTES.planRenders>['body'],
  queue: RenderQueue,
): Promise<Plan> {
  checkDelivery(delivery)
  const orders: Ordered[] = []
  for (const id of ids) orders.push(joined ? asCut(await orderOf(id, delivery)) : await orderOf(id, delivery))
  const one = joined ? await checkJoined(orders, delivery) : null
  const names = distinctNames(one ? [one.name] : orders.map((o) => o.name))
  const shots: Plan['shots'] = []
  const encodings = new Set<string>()
  for (const [i, ordered] of orders.entries()) {
    const { shot, first, count, medium } = ordered
    const common = { shotId: shot.id, name: one ? shot.name : names[i]!, first, count }
    try {
      const { job, size } = await shapeOf(ordered, delivery)
      encodings.add(encodingOf(job.to).label)
      const problem = one?.problems[i] ?? null
      shots.push({ ...common, ...size, bytes: bytesOf(delivery, size, count, medium), problem })
    } catch (error) {
      const { width, height } = medium.info
      shots.push({ ...common, width, height, bytes: 0, problem: sentenceOf(error) })
    }
  }
  const bytes = shots.reduce((sum, shot) => sum + shot.bytes, 0)
  const free = await freeIn(queue.files.folder)
  const pixels = orders.reduce((sum, { medium, count }) => sum + count * medium.info.width * medium.info.height, 0)
  const pace = queue.speed()
  return {
    name: one?.name ?? null,
    shots,
    bytes,
    free,
    folder: queue.deliveries.folder,
    there: await taken(names, delivery, queue),
    seconds: pace === null ? null : pixels / (pace * HD),
    remarks: [
      ...(encodings.size > 0 ? [`Written in ${[...encodings].join(' and ')}.`] : []),
      ...lossesOf(orders, delivery),
      ...(one ? cutsOf(orders) : []),
      ...(bytes > free ? [`It needs about ${gigabytes(bytes)}, and ${gigabytes(free)} are free.`] : []),
    ],
  }
}

/** Bytes that are free where a folder lies; before the first render there is none. */
async function freeIn(folder: string): Promise<number> {
  await mkdir(folder, { recursive: true })
  const { bavail, bsize } = await statfs(folder)
  return bavail * bsize
}

/** Names that something has in the folder of deliveries. */
async function taken(names: readonly string[], { format }: Delivery, { deliveries }: RenderQueue): Promise<string[]> {
  const there = await Promise.all(names.map((label) => deliveries.has({ label, format })))
  return names.filter((_, i) => there[i])
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
