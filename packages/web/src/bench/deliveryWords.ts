import { deliveryFormat, type DeliveryId } from '@fogbath/core/delivery'

/** A format in a menu: what it is, and the ending of its files. */
export function deliveryWords(id: DeliveryId): string {
  const { label, endings, moving } = deliveryFormat(id)
  return moving ? `${label} (.${endings[0]})` : `${label}, numbered (.${endings[0]})`
}
