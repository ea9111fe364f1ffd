import { encodingOf, wayBack, type EncodingRef } from '@fogbath/core/encodings'
import { checkDelivery, deliveryFormat, type Delivery } from '@fogbath/core/delivery'
import { writtenIn, type Order } from '@fogbath/core/treat'
import type { Job } from './frame-worker'

/** @param to encoding of the delivery; when none is asked for, linear light in EXR, otherwise that of footage for screens */
export function makeJob(
  { recipe, preparation, after, encoding, time }: Order,
  delivery: Delivery,
  to?: EncodingRef,
): Job {
  checkDelivery(delivery)
  const { bits, float } = deliveryFormat(delivery.format)
  const order = { recipe, preparation, after, encoding, time }
  const wanted = writtenIn(delivery, encoding, to)
  wayBack(encodingOf(wanted))
  return { order, to: wanted, bits, float }
}
