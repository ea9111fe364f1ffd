import { deliveryFormat, type Delivery } from '@fogbath/core/delivery'
import { hasAlpha } from '../media/decode'
import type { Ordered } from './ordered'

const shots = (n: number): string => `${n} ${n === 1 ? 'shot' : 'shots'}`

/** What shots lose by a delivery, in words. */
export function lossesOf(orders: readonly Ordered[], delivery: Delivery): string[] {
  const { loses, alpha } = deliveryFormat(delivery.format)
  const withAlpha = orders.filter(({ medium }) => hasAlpha(medium.info))
  const lost = withAlpha.length > 0 && (!alpha || !delivery.alpha)
  const larger = orders.filter(({ medium }) => delivery.size && delivery.size.width > medium.info.width)
  return [
    `Loses: ${loses[0]!.toLowerCase()}${loses.slice(1)}`,
    ...(lost ? [`The alpha of ${shots(withAlpha.length)} does not go along.`] : []),
    ...(larger.length > 0
      ? [`${shots(larger.length)} ${larger.length === 1 ? 'is' : 'are'} made larger than the footage.`]
      : []),
  ]
}
