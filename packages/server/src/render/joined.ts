import { deliveryFormat, nameFor, USUAL_NAMES, type Delivery } from '@fogbath/core/delivery'
import { encodingOf } from '@fogbath/core/encodings'
import { framesASecond } from '@fogbath/core/numbers'
import { sentenceOf } from '../errors'
import { hasAlpha } from '../media/decode'
import { rateOf } from './delivery'
import { shapeOf, type Ordered } from './ordered'

/** What all shots of one file have to have alike, in words. */
interface Alike {
  readonly size: string
  readonly rate: string
  readonly encoding: string
  readonly alpha: string
}
const CURE: Readonly<Record<keyof Alike, string>> = {
  size: 'choose a size for all',
  rate: 'shots of one file have one rate',
  encoding: 'choose an encoding for all',
  alpha: 'leave alpha out',
}

/**
 * One file of all shots: its name, and for each shot what keeps it out, or null.
 * The first shot says what the others have to be like.
 */
export async function checkJoined(
  orders: readonly Ordered[],
  delivery: Delivery,
): Promise<{ readonly name: string; readonly problems: readonly (string | null)[] }> {
  const name = nameFor(delivery.names ?? USUAL_NAMES, { ...orders[0]!.parts, shot: 'in order', trial: '', recipe: '' })
  if (!deliveryFormat(delivery.format).moving) {
    const { label } = deliveryFormat(delivery.format)
    return { name, problems: orders.map(() => `${label} is a file for each frame; one file of all is a clip.`) }
  }
  const found = await Promise.all(orders.map((ordered) => alikeOf(ordered, delivery).catch(sentenceOf)))
  const [first] = found.filter((f) => typeof f !== 'string')
  return {
    name,
    problems: found.map((own) => {
      if (typeof own === 'string') return own
      const key = (Object.keys(CURE) as (keyof Alike)[]).find((k) => own[k] !== first![k])
      return key ? `It has ${own[key]}, the first shot ${first![key]}; ${CURE[key]}.` : null
    }),
  }
}

async function alikeOf(ordered: Ordered, delivery: Delivery): Promise<Alike> {
  const { job, size } = await shapeOf(ordered, delivery)
  const { info } = ordered.medium
  return {
    size: `${size.width}x${size.height}`,
    rate: `${Number(framesASecond(rateOf(info.fps)).toFixed(3))} frames a second`,
    encoding: encodingOf(job.to).label,
    alpha: delivery.alpha && hasAlpha(info) ? 'alpha' : 'no alpha',
  }
}

/** A shot as the cut shows it: handles and what is only there for dissolves are left out. */
export function asCut(ordered: Ordered): Ordered {
  const { first, last, cut } = ordered.shot
  const [from, to] = [first + (cut?.before ?? 0), last - (cut?.after ?? 0)]
  return { ...ordered, first: from, count: Math.max(1, to - from + 1) }
}

const many = (n: number, one: string, more: string): string => `${n} ${n === 1 ? one : more}`
/** What one file shows otherwise than the edit. */
export function cutsOf(orders: readonly Ordered[]): string[] {
  const cuts = orders.flatMap(({ shot }) => shot.cut ?? [])
  const soft = cuts.filter(({ before }) => before > 0).length
  const paced = cuts.filter(({ speed }) => speed !== 1).length
  return [
    ...(soft > 0 ? [`${many(soft, 'dissolve of the edit becomes a cut', 'dissolves of the edit become cuts')}.`] : []),
    ...(paced > 0
      ? [`${many(paced, 'shot', 'shots')} of another speed in the edit: each of its frames is shown once.`]
      : []),
  ]
}
