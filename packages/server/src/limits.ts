import { readAs, type Probed, type Reading } from '@fogbath/core/footage'
import { Fault } from './errors'

/** Largest file of footage that is taken in, bytes. */
export const MOST_FOOTAGE_BYTES = 20e9
/** Proofs of one shot; as many fill a wall several screens high, and some hundreds of MB. */
export const MOST_PROOFS = 200
/** Largest side of a proof's picture, pixels. */
export const MOST_PROOF_SIDE = 8192

/** In, out and the telling frame of a shot must lie in its footage. */
export function checkFrames(
  shot: { first: number; last: number; still: number; reading?: Reading | undefined },
  info: Probed,
): void {
  const { first, last, still, reading = {} } = shot
  const end = readAs(info, reading).frames - 1
  if (first > last || last > end)
    throw new Fault(
      'invalid',
      `The shot runs from frame ${first} to ${last}; it must lie within 0 to ${end} and not run backwards.`,
    )
  if (still > end) throw new Fault('invalid', `The still is frame ${still}; the footage ends at ${end}.`)
}
