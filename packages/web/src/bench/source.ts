import type { Shot } from '../api/types'
import type { ShotSource } from '../workers/protocol'

/** Where a shot's frames come from, as the workers ask for them. */
export const sourceOf = (shot: Shot): ShotSource => ({
  type: 'shot',
  mediumId: shot.mediumId,
  encoding: shot.encoding,
})
