import { deliveryFormat, type Delivery } from '../delivery'
import { encodingById, encodingOf, isOfScreens, kneeIn, type EncodingRef } from '../encodings'
import { NOTHING_AROUND, PARTS, bathsOf, withBaths, type Line } from '../line/parts'
import { NOTHING } from '../line/recipe'

/** What is done to footage: beside a frame and its number, all that the treated picture depends on. */
export interface Order extends Line {
  /** Encoding of the footage. */
  readonly encoding: EncodingRef
}

/** Footage stays as it is. */
export const UNTREATED: Line = { ...NOTHING_AROUND, recipe: NOTHING }

/**
 * Encoding in which a picture is shown on a screen: footage for screens as it came, so that a plain treatment shows the same numbers;
 * all other as BT.1886.
 */
export const shownIn = (encoding: EncodingRef): string =>
  typeof encoding === 'string' && isOfScreens(encodingById(encoding)) ? encoding : 'bt1886'

/** Encoding in which a picture is delivered where no other is asked for: display footage as it came, camera footage as BT.1886. */
export function deliveredIn(encoding: string): string
export function deliveredIn(encoding: EncodingRef): EncodingRef
export function deliveredIn(encoding: EncodingRef): EncodingRef {
  const { id, refers, encode } = encodingOf(encoding)
  // Of a knee nothing is left in what goes out.
  return refers === 'display' && encode ? (kneeIn(id)?.of ?? encoding) : 'bt1886'
}

/** Encoding of what is written: the one that is asked for, else that of a format that has one of its own, else as above. */
export const writtenIn = (
  delivery: Pick<Delivery, 'format' | 'to'>,
  encoding: EncodingRef,
  asked?: EncodingRef,
): EncodingRef => asked ?? delivery.to ?? deliveryFormat(delivery.format).encoding ?? deliveredIn(encoding)

/** A line up to a tapped bath. @param tap number of baths, over all parts, or null for the whole line */
export function tapped(line: Line, tap: number | null): Line {
  if (tap === null) return line
  let left = tap
  let cut = line
  for (const part of PARTS) {
    const baths = bathsOf(line)[part]
    // The strength of the look lies behind its last bath.
    if (part === 'look' && left <= baths.length) cut = { ...cut, recipe: { ...cut.recipe, strength: 100 } }
    cut = withBaths(cut, part, baths.slice(0, left))
    left = Math.max(0, left - baths.length)
  }
  return cut
}
