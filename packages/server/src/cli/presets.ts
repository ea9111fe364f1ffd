import { existsSync } from 'node:fs'
import {
  DELIVERY_IDS,
  SHIPPED_PRESETS,
  deliveryOfPreset,
  readPreset,
  type Delivery,
  type DeliveryId,
} from '@fogbath/core/delivery'
import { Fault } from '../errors'
import { openRegular, readText } from '../files/inside'
import { nearest } from './nearest'

const MOST_BYTES = 1e5

/** A delivery by the id or name of a shipped preset, or by a file. */
export async function loadPreset(name: string): Promise<Delivery> {
  const shipped = SHIPPED_PRESETS.find((p) => p.id === name || p.name.toLowerCase() === name.toLowerCase())
  if (shipped) return deliveryOfPreset(shipped)
  if (!existsSync(name)) {
    const ids = SHIPPED_PRESETS.map((p) => p.id)
    const meant = nearest(name, ids)
    throw new Fault(
      'usage',
      `'${name}' is neither a preset file nor a shipped preset${meant ? `; did you mean ${meant}?` : ` (${ids.join(', ')}).`}`,
    )
  }
  return readPreset(await readText(openRegular(name), MOST_BYTES, name), name).delivery
}

export function formatNamed(text: string): DeliveryId {
  const found = DELIVERY_IDS.find((id) => id === text)
  if (found) return found
  const meant = nearest(text, DELIVERY_IDS)
  throw new Fault(
    'usage',
    `There is no format '${text}'${meant ? `; did you mean ${meant}?` : `; there are ${DELIVERY_IDS.join(', ')}.`}`,
  )
}
