import { CutSchema } from '@fogbath/core/edits'
import { ReadingSchema } from '@fogbath/core/footage'
import { nameOf } from '@fogbath/core/line'
import Type, { type Static } from 'typebox'
import { IdParams, RATE_PATTERN, closed, flag, id, oneOf, orNull, revision, text, whole } from './parts'
import { route } from './route'

/** Longest edit list that is read; ten thousand events are a tenth of it. */
export const MOST_LIST_LETTERS = 8_000_000
/** What comes around its text, and what escaping makes of it. */
const MOST_LIST_BYTES = 3 * MOST_LIST_LETTERS

/** An edit list as it came, and the rate of one that says none itself. */
export const EditList = closed({
  name: nameOf('file'),
  fps: Type.String({ pattern: RATE_PATTERN }),
  content: Type.String({ maxLength: MOST_LIST_LETTERS }),
})
export type EditList = Static<typeof EditList>

const Range = closed({ first: whole, last: whole })
/** An event of an edit, and what becomes of the shots of a production for it. */
const PlannedEvent = closed({
  place: Type.String({ description: 'Where it stands in the list.' }),
  name: nameOf('shot'),
  footage: Type.Array(text, { description: 'What its footage may be called, the likeliest first.' }),
  mediumId: orNull(id),
  range: orNull(Range),
  cut: orNull(CutSchema),
  missing: orNull(Type.String({ description: 'Why nothing that is here is its footage.' })),
  remark: orNull(Type.String({ description: 'What of it cannot be taken.' })),
  watched: Type.Array(text, { description: 'Files of the watched folder that it may be from; of a sequence all.' }),
  graded: Type.Boolean({ description: 'It brings a colour decision.' }),
  shotId: orNull(id),
  like: orNull(id),
  was: orNull(Range),
  trimmed: flag,
  moved: flag,
})
export type PlannedEvent = Static<typeof PlannedEvent>
const EditPlan = closed({
  title: text,
  /** Of all that follows: what is applied is what was seen. */
  key: text,
  events: Type.Array(PlannedEvent),
  gone: Type.Array(closed({ id, name: nameOf('shot'), revision })),
  left: Type.Array(Type.String({ description: 'What of the list could not be read, and where it stands.' })),
})
export type EditPlan = Static<typeof EditPlan>

/** Edits in and out, and cuts that are found in footage. */
export const editRoutes = {
  editList: route({
    method: 'GET',
    path: '/productions/:id/edit',
    says: 'The edit list that the shots of a production were last put in order by, or null.',
    params: IdParams,
    reply: orNull(EditList),
  }),
  planEdit: route({
    method: 'POST',
    path: '/productions/:id/edit/plan',
    says: 'Reads an edit list and tells what taking it in would make of the shots; nothing is changed.',
    params: IdParams,
    body: EditList,
    reply: EditPlan,
    mostBytes: MOST_LIST_BYTES,
  }),
  takeEdit: route({
    method: 'POST',
    path: '/productions/:id/edit',
    says: 'Takes an edit list in: new shots, other ins and outs, its order; events without footage are left for later.',
    params: IdParams,
    body: closed({
      ...EditList.properties,
      key: Type.String({
        description: 'Of the plan that was seen; where it would be another by now, nothing is changed.',
      }),
      remove: Type.Array(id, {
        maxItems: 10_000,
        description: 'Shots that the edit does not show and that are deleted.',
      }),
    }),
    reply: closed({ made: whole, changed: whole, removed: whole, waiting: whole }),
    mostBytes: MOST_LIST_BYTES,
  }),
  editFile: route({
    method: 'GET',
    path: '/productions/:id/edit/file',
    says: 'The production as an edit list: CMX 3600 with colour decisions, or OpenTimelineIO with recipes as well.',
    params: IdParams,
    query: closed({ form: oneOf('edl', 'otio'), fps: Type.Optional(Type.String({ pattern: RATE_PATTERN })) }),
    reply: { file: ['text/plain', 'application/json'] },
  }),
  cuts: route({
    method: 'GET',
    path: '/media/:id/cuts',
    says: 'The first frames of the shots that footage holds; it is looked through once, in the background.',
    params: IdParams,
    query: closed({
      threshold: Type.Optional(
        Type.Number({ minimum: 0, maximum: 100, description: 'How different frames of two shots are, per cent.' }),
      ),
      least: Type.Optional(
        Type.Integer({ minimum: 1, maximum: 10_000, description: 'Frames that a shot has at least.' }),
      ),
      ...ReadingSchema.properties,
    }),
    reply: closed({
      state: oneOf('looking', 'found', 'failed'),
      done: whole,
      of: whole,
      cuts: Type.Array(whole),
      message: orNull(text),
    }),
  }),
  stopCuts: route({
    method: 'DELETE',
    path: '/media/:id/cuts',
    says: 'Gives up looking for cuts.',
    params: IdParams,
    reply: null,
  }),
} as const
