import { CutSchema } from '@fogbath/core/edits'
import {
  MarksSchema,
  HistoryChangeSchema,
  KeptStepSchema,
  nameOf,
  textOf,
  type HistoryChange,
} from '@fogbath/core/line'
import { MOST_TRACKS, TrackSchema } from '@fogbath/core/tracking'
import Type, { type Static } from 'typebox'
import { Medium } from './media'
import {
  IdParams,
  PageQuery,
  RevisionQuery,
  baths,
  closed,
  encoding,
  id,
  orNull,
  pageOf,
  reading,
  recipe,
  revision,
  stamps,
  whole,
} from './parts'
import { route } from './route'

export const Trial = closed({ id, revision, shotId: id, name: nameOf('trial'), recipe, after: baths, ...stamps })
export type Trial = Static<typeof Trial>

/** What parts of its masks follow. */
const tracks = Type.Array(TrackSchema, { maxItems: MOST_TRACKS })

export const Shot = closed({
  id,
  revision,
  productionId: id,
  mediumId: id,
  name: nameOf('shot'),
  position: whole,
  first: whole,
  last: whole,
  still: Type.Integer({ minimum: 0, description: 'The telling frame.' }),
  encoding,
  reading,
  preparation: baths,
  marks: MarksSchema,
  tracks,
  cut: orNull(CutSchema),
  trialId: orNull(id),
  medium: Medium,
  trials: Type.Array(Trial),
  ...stamps,
})
export type Shot = Static<typeof Shot>

const fields = { id, revision, name: nameOf('production'), notes: textOf('notes'), ...stamps }
const ProductionRow = closed(fields)
export const Production = closed({ ...fields, shots: Type.Array(Shot) })
export type Production = Static<typeof Production>
/** As the list shows it: of its shots the first ones, of their trials the chosen one. */
const ListedProduction = closed({ ...fields, shots: Type.Array(Shot), shotCount: whole })
export type ListedProduction = Static<typeof ListedProduction>

/** A body that puts a line on many shots, or a step that undoes it, holds all their lines: some 2 kB each. */
const MOST_LINES_BODY = 8e6
const ShotChange = closed({
  revision,
  name: Type.Optional(nameOf('shot')),
  first: Type.Optional(whole),
  last: Type.Optional(whole),
  still: Type.Optional(whole),
  encoding: Type.Optional(encoding),
  reading: Type.Optional(reading),
  preparation: Type.Optional(baths),
  marks: Type.Optional(MarksSchema),
  tracks: Type.Optional(tracks),
  trialId: Type.Optional(id),
})
const history = { params: IdParams, path: '/shots/:id/history' } as const

/** Productions, their shots, what shots carry, and undo. */
export const productionRoutes = {
  productions: route({
    method: 'GET',
    path: '/productions',
    says: 'A page of productions, the newest first, each with its first shots.',
    query: PageQuery,
    reply: pageOf(ListedProduction),
  }),
  createProduction: route({
    method: 'POST',
    path: '/productions',
    says: 'Makes an empty production.',
    body: closed({ name: nameOf('production'), notes: Type.Optional(textOf('notes')) }),
    reply: ProductionRow,
    status: 201,
  }),
  production: route({
    method: 'GET',
    path: '/productions/:id',
    says: 'A production with its shots in order.',
    params: IdParams,
    reply: Production,
  }),
  changeProduction: route({
    method: 'PATCH',
    path: '/productions/:id',
    says: 'Changes its name or notes.',
    params: IdParams,
    body: closed({ revision, name: Type.Optional(nameOf('production')), notes: Type.Optional(textOf('notes')) }),
    reply: ProductionRow,
  }),
  orderShots: route({
    method: 'PUT',
    path: '/productions/:id/order',
    says: 'Gives all its shots a new order.',
    params: IdParams,
    body: closed({ shots: Type.Array(id, { maxItems: 10_000, uniqueItems: true }) }),
    reply: null,
  }),
  copyProduction: route({
    method: 'POST',
    path: '/productions/:id/copy',
    says: 'Copies it with its shots, trials and proofs; the footage is shared.',
    params: IdParams,
    reply: ProductionRow,
    status: 201,
  }),
  deleteProduction: route({
    method: 'DELETE',
    path: '/productions/:id',
    says: 'Deletes it with its shots; the footage stays.',
    params: IdParams,
    query: RevisionQuery,
    reply: null,
  }),
  addShot: route({
    method: 'POST',
    path: '/productions/:id/shots',
    says: 'Adds a shot of footage that is here, at the end.',
    params: IdParams,
    body: closed({ mediumId: id, name: Type.Optional(nameOf('shot')) }),
    reply: Shot,
    status: 201,
  }),
  shot: route({
    method: 'GET',
    path: '/shots/:id',
    says: 'A shot with its footage and trials.',
    params: IdParams,
    reply: Shot,
  }),
  changeShot: route({
    method: 'PATCH',
    path: '/shots/:id',
    says: 'Changes what is a shot’s own, or chooses one of its trials.',
    params: IdParams,
    body: ShotChange,
    reply: Shot,
    mostBytes: MOST_LINES_BODY,
  }),
  splitShot: route({
    method: 'POST',
    path: '/shots/:id/split',
    says: 'Makes a shot several, each with all that it carries: the first keeps its place and its steps of undo.',
    params: IdParams,
    body: closed({
      revision,
      starts: Type.Array(whole, {
        minItems: 1,
        maxItems: 10_000,
        description: 'Frames at which the others begin, each behind the one before.',
      }),
    }),
    reply: closed({ shots: Type.Array(Shot) }),
    status: 201,
  }),
  deleteShot: route({
    method: 'DELETE',
    path: '/shots/:id',
    says: 'Deletes a shot with its trials and proofs.',
    params: IdParams,
    query: RevisionQuery,
    reply: null,
  }),
  createTrial: route({
    method: 'POST',
    path: '/shots/:id/trials',
    says: 'Adds a trial.',
    params: IdParams,
    body: closed({ name: nameOf('trial'), recipe, after: Type.Optional(baths) }),
    reply: Trial,
    status: 201,
  }),
  changeTrial: route({
    method: 'PATCH',
    path: '/trials/:id',
    says: 'Changes a trial’s name, its look or what stands after it.',
    params: IdParams,
    body: closed({
      revision,
      name: Type.Optional(nameOf('trial')),
      recipe: Type.Optional(recipe),
      after: Type.Optional(baths),
    }),
    reply: Trial,
  }),
  changeLines: route({
    method: 'PUT',
    path: '/lines',
    says: 'Changes the looks of several trials, and what stands before all looks of several shots: all of it or nothing.',
    body: closed({
      lines: Type.Array(closed({ trialId: id, revision, recipe: Type.Optional(recipe), after: Type.Optional(baths) }), {
        maxItems: 1000,
      }),
      preparations: Type.Optional(Type.Array(closed({ shotId: id, revision, preparation: baths }), { maxItems: 1000 })),
    }),
    reply: closed({ trials: Type.Array(Trial), shots: Type.Array(Shot) }),
    mostBytes: MOST_LINES_BODY,
  }),
  deleteTrial: route({
    method: 'DELETE',
    path: '/trials/:id',
    says: 'Deletes a trial that is not the chosen one.',
    params: IdParams,
    query: RevisionQuery,
    reply: null,
  }),
  history: route({
    ...history,
    method: 'GET',
    says: 'What undo and redo of a shot bring back, the oldest step first.',
    reply: closed({ past: Type.Array(KeptStepSchema), future: Type.Array(KeptStepSchema) }),
  }),
  changeHistory: route({
    ...history,
    method: 'PATCH',
    says: 'What one window put on the stacks of undo and redo and took off them, by the names of the steps.',
    body: Type.Unsafe<HistoryChange>(HistoryChangeSchema),
    reply: null,
    mostBytes: MOST_LINES_BODY,
  }),
} as const
