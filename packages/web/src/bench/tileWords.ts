import { kindById, takesEither } from '@fogbath/core/baths'
import { layName } from '@fogbath/core/lay'
import { whyIdle, type Bath } from '@fogbath/core/line'
import type { BathChange } from '../workers/protocol'

/** Less than half a step of 8 bits is no change. */
const NOTHING = 0.5 / 255

/** A sentence when a bath leaves the frame as it found it. @param change null while that is not known */
export function noteOf(bath: Bath, change: BathChange | null): string | null {
  const why = whyIdle(bath)
  if (why) return bath.in ? `Changes nothing here: ${why}.` : null
  if (!change || change.moved > NOTHING) return null
  if (change.mask && change.mask.most < NOTHING) return 'Changes nothing here: its mask is empty on this frame.'
  if (bath.lay !== 'normal') return `Changes nothing here: laid in ${bath.lay} mode it leaves this frame as it is.`
  return 'Changes nothing here: it makes the same picture that is there.'
}

/** How a bath is laid and what it takes, where that is not the ordinary way. */
export function howOf({ lay, under, takes, kind, keys }: Bath): string {
  const own = kindById(kind)
  const words = [
    lay === 'normal' ? '' : layName(lay),
    under ? 'under' : '',
    takesEither(own) && takes !== own.takes ? `of the ${takes}` : '',
    keys ? 'over the shot' : '',
  ]
  return words.filter(Boolean).join(', ')
}
