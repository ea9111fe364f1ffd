import { mkdir, statfs } from 'node:fs/promises'
import type { Asked, Reply, ROUTES } from '@fogbath/contract'
import { checkDelivery, deliveryFormat, distinctNames, type Delivery } from '@fogbath/core/delivery'
import { encodingOf } from '@fogbath/core/encodings'
import { framesASecond } from '@fogbath/core/numbers'
import { sentenceOf } from '../errors'
import type { Footage } from '../media/store'
import { asCut, checkJoined, cutsOf } from './joined'
import { lossesOf } from './losses'
import { orderOf, shapeOf, type Ordered } from './ordered'
import { HD } from './pace'
import type { RenderQueue } from './queue'

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
      ...(one && delivery.handles ? ['Handles are left out: they are for shots of their own.'] : []),
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
