import { footageOf, framesIn, type EditEvent, type EditedFootage, type EditedRange } from '@fogbath/core/edits'
import { sentenceOf } from '../errors'

/** Footage that an event may be from, looked at only when it may. */
export interface Listed {
  readonly name: string
  readonly sequence: boolean
  readonly look: () => Promise<EditedFootage>
}

/**
 * The footage of an event: the first of those that its names fit which holds what it shows.
 * @param where they are, in words @returns or why none is it
 */
export async function footageFor<F extends Listed>(
  event: EditEvent,
  footage: readonly F[],
  where: string,
): Promise<{ readonly of: F; readonly range: EditedRange; readonly fps: string } | string> {
  let reason = `Nothing ${where} is called ${event.footage.map((n) => `'${n}'`).join(' or ')} (${event.place}).`
  for (const of of footageOf(event, footage)) {
    try {
      const known = await of.look()
      const range = framesIn(event, known)
      if (typeof range !== 'string') return { of, range, fps: known.fps }
      reason = range
    } catch (error) {
      reason = sentenceOf(error)
    }
  }
  return reason
}
