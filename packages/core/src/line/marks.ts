import Type, { type Static } from 'typebox'
import { mergeFields } from './merge'

export const MOST_PROBES = 8
/** Half the side of the smallest area that a probe reads, as a share of the picture's width. */
export const PROBE_REACH = 0.004

const share = (description: string) => Type.Number({ minimum: 0, maximum: 1, description })

const ProbeMarkSchema = Type.Object(
  {
    u: share('Across, 0 at the left edge.'),
    v: share('Down, 0 at the upper edge.'),
    reach: Type.Number({ minimum: PROBE_REACH, maximum: 0.5, description: 'Half the side, in shares of the width.' }),
  },
  { additionalProperties: false },
)
export type ProbeMark = Static<typeof ProbeMarkSchema>

/** Most notes on a shot, and letters in one. */
const [MOST_NOTES, MOST_SAID] = [200, 500] as const

const NoteSchema = Type.Object(
  {
    key: Type.String({ pattern: '^[a-zA-Z0-9_-]{6,32}$', description: 'Its name, which no other note has.' }),
    frame: Type.Union([Type.Integer({ minimum: 0 }), Type.Null()], { description: 'Null: of the whole shot.' }),
    text: Type.String({ minLength: 1, maxLength: MOST_SAID }),
    author: Type.String({ maxLength: 80, description: 'Who wrote it, as they call themselves; may be empty.' }),
    time: Type.String({ pattern: '^\\d{4}-\\d\\d-\\d\\dT[0-9:.]+Z$', description: 'When, UTC (ISO 8601).' }),
  },
  { additionalProperties: false },
)
export type Note = Static<typeof NoteSchema>

/** What a colourist has marked on a shot: places that are measured, the grey card, notes. */
export const MarksSchema = Type.Object(
  {
    probes: Type.Array(ProbeMarkSchema, { maxItems: MOST_PROBES }),
    /** Scene light (luminance, before trims) of the footage's own mid grey, or null where no card was marked. */
    grey: Type.Union([Type.Number({ minimum: 1e-6, maximum: 1e4 }), Type.Null()]),
    /** The oldest first; left out where there never was one. */
    notes: Type.Optional(Type.Array(NoteSchema, { maxItems: MOST_NOTES })),
  },
  { additionalProperties: false },
)
export type Marks = Static<typeof MarksSchema>

export const NO_MARKS: Marks = { probes: [], grey: null }

export const notesOf = ({ notes = [] }: Marks): readonly Note[] => notes
/** By frame, those of the whole shot first. */
export const notesInOrder = (marks: Marks): Note[] =>
  [...notesOf(marks)].sort((a, b) => (a.frame ?? -1) - (b.frame ?? -1) || a.time.localeCompare(b.time))

/**
 * Marks that were changed in two places: notes that either has added are there, those that either has removed are not; null
 * where the same probe or card was changed in both.
 */
export function mergeMarks(base: Marks, mine: Marks, theirs: Marks): Marks | null {
  const bare = ({ probes, grey }: Marks) => ({ probes, grey })
  const fields = mergeFields(bare(base), bare(mine), bare(theirs))
  if (!fields) return null
  const [old, own] = [base, mine].map((marks) => new Set(notesOf(marks).map(({ key }) => key))) as [
    Set<string>,
    Set<string>,
  ]
  const kept = notesOf(theirs).filter(({ key }) => own.has(key) || !old.has(key))
  const there = new Set(notesOf(theirs).map(({ key }) => key))
  const added = notesOf(mine).filter(({ key }) => !there.has(key) && !old.has(key))
  return { ...fields, notes: [...kept, ...added] }
}
