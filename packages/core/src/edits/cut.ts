import Type, { type Static } from 'typebox'
import { decisionOf, settingsOfDecision } from '../baths/preparing/cdl'
import type { Decision } from '../formats'
import { newBath, newId, type Bath } from '../line'
import { rateScale, type EditEvent, type EditedRange } from './event'

const frames = Type.Integer({ minimum: 0, maximum: 2 ** 31 - 1 })

/** How an edit shows a shot: frames of its footage, which its in and out hold. */
export const CutSchema = Type.Object(
  {
    before: { ...frames, description: 'Of its frames, those at its beginning that only a dissolve or wipe shows.' },
    after: { ...frames, description: 'Likewise at its end.' },
    speed: Type.Number({
      minimum: -1000,
      maximum: 1000,
      description: 'Frames of footage for each that is shown; below 0 backwards, 0 held.',
    }),
    length: { ...frames, description: 'Frames that it lasts in the edit, at the rate of its footage.' },
  },
  { additionalProperties: false },
)
export type Cut = Static<typeof CutSchema>

/** How an event shows footage of a rate; a still is held. @param range what it takes of it */
export const cutOf = (event: EditEvent, { first, last, before, after }: EditedRange, fps: string): Cut => ({
  before,
  after,
  speed: first === last && event.length > 1 ? 0 : Math.min(1000, Math.max(-1000, event.speed)),
  length: Math.round(event.length * rateScale(event.rate, fps)),
})

/** In words, where a cut is more than a cut; else empty. */
export function cutInWords({ before, after, speed, length }: Cut): string {
  const handles = [...(before > 0 ? [`${before} at its beginning`] : []), ...(after > 0 ? [`${after} at its end`] : [])]
  const pace =
    speed === 1 ? [] : speed === 0 ? [`held for ${length} frames`] : [`at ${Number((100 * speed).toFixed(2))} % speed`]
  return [...pace, ...(handles.length ? [`frames of a dissolve: ${handles.join(', ')}`] : [])].join('; ')
}

/** A shot as an edit shows it, where nothing says otherwise. */
export const plainCut = ({ first, last }: { readonly first: number; readonly last: number }): Cut => ({
  before: 0,
  after: 0,
  speed: 1,
  length: last - first + 1,
})

/** The cut of a shot whose in and out are set by hand: dissolves keep their frames where there is room. */
export function cutWithin(
  { before, after, speed, length }: Cut,
  { first, last }: { first: number; last: number },
): Cut {
  const count = last - first + 1
  const room = before + after < count
  const shown = room ? count - before - after : count
  return {
    before: room ? before : 0,
    after: room ? after : 0,
    speed,
    length: speed === 0 ? length : Math.max(1, Math.round(shown / Math.abs(speed))),
  }
}

/** What the bath is called that an edit's decision becomes: taken in again, it takes the place of itself. */
const DECISION_NAME = 'From the edit'

/** A preparation with the decision of an edit. @throws FogBathError naming a number that no bath takes */
export function withDecision(preparation: readonly Bath[], decision: Decision): readonly Bath[] {
  const settings = settingsOfDecision(decision)
  const was = preparation.find((bath) => bath.kind === 'cdl' && bath.name === DECISION_NAME)
  if (was)
    return preparation.map((bath) => (bath === was ? { ...bath, settings: { ...bath.settings, ...settings } } : bath))
  return [...preparation, { ...newBath('cdl', newId(), settings), name: DECISION_NAME }]
}

/** The decision that a preparation holds, the edit's own before others; null where there is none at work. */
export function decisionIn(preparation: readonly Bath[]): Decision | null {
  const all = preparation.filter((bath) => bath.kind === 'cdl' && bath.in && bath.strength === 100 && !bath.mask)
  const bath = all.find(({ name }) => name === DECISION_NAME) ?? all[0]
  return bath ? decisionOf(bath.settings) : null
}

/** What a list says of a shot. */
export interface ListedShot {
  readonly name: string
  /** The file of its footage, or the first of numbered ones. */
  readonly file: string
  readonly fps: string
  /** Frames of the footage, and the timecode of its first. */
  readonly frames: number
  readonly timecode?: string
  readonly first: number
  readonly last: number
  readonly cut: Cut
  readonly decision: Decision | null
  /** What goes along where a list has room for anything. */
  readonly metadata: Readonly<Record<string, unknown>>
}
