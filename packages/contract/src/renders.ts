import { DELIVERY_IDS, DeliverySchema, MOST_PRESET_NAME, deliveryFormat, type DeliveryId } from '@fogbath/core/delivery'
import { nameOf } from '@fogbath/core/line'
import Type, { type Static } from 'typebox'
import {
  IdParams,
  PageQuery,
  RevisionQuery,
  around,
  closed,
  encoding,
  flag,
  id,
  oneOf,
  orNull,
  pageOf,
  reading,
  recipe,
  revision,
  stamps,
  text,
  time,
  whole,
} from './parts'
import { route } from './route'

const typeOf = (id: DeliveryId): string => {
  const format = deliveryFormat(id)
  return format.moving ? format.container.type : 'application/zip'
}
const format = oneOf<DeliveryId>(...DELIVERY_IDS)
const RenderState = oneOf('waiting', 'running', 'paused', 'done', 'failed', 'cancelled')
export type RenderState = Static<typeof RenderState>
const progress = {
  id,
  state: RenderState,
  done: whole,
  count: whole,
  message: text,
  left: orNull(Type.Number({ minimum: 0, description: 'Seconds; null while it cannot be told.' })),
  rate: orNull(Type.Number({ minimum: 0, description: 'Frames a second since it was begun or taken up again.' })),
}
/** How far a render is; sent of every step as well. */
export const RenderProgress = closed(progress)
export type RenderProgress = Static<typeof RenderProgress>

/** Whether a finished render is put into the folder of deliveries too: only where nothing has its name, or over that. */
const Put = oneOf('new', 'over')
export type Put = Static<typeof Put>

/** What a file of several shots has of one. */
const Piece = closed({
  label: text,
  mediumId: id,
  reading,
  first: whole,
  count: whole,
  encoding,
  recipe,
  ...around,
  time: Type.Optional(time),
})
export type Piece = Static<typeof Piece>

/** A shot as it was when it was asked for, on its way to a file. */
const Render = closed({
  ...progress,
  shotId: orNull(id),
  label: nameOf('file'),
  mediumId: id,
  format,
  delivery: Type.Omit(DeliverySchema, ['format']),
  edition: Type.String({ description: 'What core computed with when it was asked for.' }),
  first: whole,
  encoding,
  reading,
  recipe,
  ...around,
  time,
  pieces: orNull(
    Type.Array(Piece, { description: 'Of one file of several shots, in order; null for a shot of its own.' }),
  ),
  place: Type.Number({ description: 'Where it stands in line: the lowest is next.' }),
  put: orNull(Put),
  ...stamps,
})
export type Render = Static<typeof Render>

const presetName = Type.String({ minLength: 1, maxLength: MOST_PRESET_NAME, pattern: '\\S' })
const Preset = closed({ id, revision, name: presetName, delivery: DeliverySchema, ...stamps })
export type KeptPreset = Static<typeof Preset>

const shots = Type.Array(id, { minItems: 1, maxItems: 1000 })
/** Renders that one archive holds. */
const MOST_ARCHIVED = 500

/** Renders: made from a shot as it stands now, watched, cancelled, fetched. */
export const renderRoutes = {
  createRender: route({
    method: 'POST',
    path: '/shots/:id/renders',
    says: 'Puts a shot in line to be rendered, as it stands now.',
    params: IdParams,
    body: closed({ ...DeliverySchema.properties, trialId: Type.Optional(id), put: Type.Optional(Put) }),
    reply: Render,
    status: 201,
  }),
  createJoined: route({
    method: 'POST',
    path: '/productions/:id/renders',
    says: 'Puts shots of a production in line to be rendered as one clip, in the order that they are named in.',
    params: IdParams,
    body: closed({ shots, delivery: DeliverySchema, put: Type.Optional(Put) }),
    reply: Render,
    status: 201,
  }),
  planRenders: route({
    method: 'POST',
    path: '/renders/plan',
    says: 'What rendering shots would make, with the room that it takes and what is lost; nothing is begun.',
    body: closed({ shots, delivery: DeliverySchema, joined: Type.Optional(flag) }),
    reply: closed({
      name: orNull(Type.String({ description: 'Of one file of all; null where each shot has its own.' })),
      folder: Type.String({ description: 'The folder of deliveries, on the machine of the server.' }),
      there: Type.Array(text, { description: 'Names that something has in the folder of deliveries.' }),
      shots: Type.Array(
        closed({
          shotId: id,
          name: Type.String({ description: 'Of its file, without an ending.' }),
          first: whole,
          count: whole,
          width: whole,
          height: whole,
          bytes: Type.Integer({ minimum: 0, description: 'About as large as it will be.' }),
          problem: orNull(Type.String({ description: 'Why it cannot be rendered so.' })),
        }),
      ),
      remarks: Type.Array(Type.String({ description: 'What is lost, and what there is no room for.' })),
      bytes: Type.Integer({ minimum: 0 }),
      free: Type.Integer({ minimum: 0, description: 'Bytes that are free where renders lie.' }),
      seconds: orNull(
        Type.Number({ minimum: 0, description: 'From the speed of the last renders; null while none has been made.' }),
      ),
    }),
  }),
  presets: route({
    method: 'GET',
    path: '/presets',
    says: 'Deliveries that are kept under a name.',
    reply: Type.Array(Preset),
  }),
  keepPreset: route({
    method: 'POST',
    path: '/presets',
    says: 'Keeps a delivery under a name.',
    body: closed({ name: presetName, delivery: DeliverySchema }),
    reply: Preset,
    status: 201,
  }),
  changePreset: route({
    method: 'PATCH',
    path: '/presets/:id',
    says: 'Changes the name of a kept delivery, or what it is.',
    params: IdParams,
    body: closed({ revision, name: Type.Optional(presetName), delivery: Type.Optional(DeliverySchema) }),
    reply: Preset,
  }),
  deletePreset: route({
    method: 'DELETE',
    path: '/presets/:id',
    says: 'Deletes a kept delivery.',
    params: IdParams,
    query: RevisionQuery,
    reply: null,
  }),
  renders: route({
    method: 'GET',
    path: '/renders',
    says: 'A page of renders, the newest first.',
    query: PageQuery,
    reply: pageOf(Render),
  }),
  renderLine: route({
    method: 'GET',
    path: '/renders/line',
    says: 'Renders that are not done, the next one first.',
    reply: Type.Array(Render),
  }),
  reorderRenders: route({
    method: 'PUT',
    path: '/renders/line',
    says: 'Puts renders that are in line in the order that they are named in; others stay where they are.',
    body: closed({ ids: Type.Array(id, { minItems: 1, maxItems: 10_000 }) }),
    reply: Type.Array(Render),
  }),
  renderArchive: route({
    method: 'GET',
    path: '/renders/archive',
    says: 'Finished renders as one ZIP archive, stills in a folder each.',
    query: closed({
      ids: Type.String({
        pattern: `^[0-9]{1,10}(,[0-9]{1,10}){0,${MOST_ARCHIVED - 1}}$`,
        description: 'Numbers of renders, commas between them.',
      }),
    }),
    reply: { file: ['application/zip'] },
  }),
  renderFrame: route({
    method: 'GET',
    path: '/renders/:id/frames/:frame',
    says: 'A frame of a finished render, read from its file: see the frames of footage. Numbered as in the render, from 0.',
    params: closed({ id, frame: whole }),
    query: closed({ width: Type.Optional(whole) }),
    reply: { file: ['application/octet-stream'] },
  }),
  renderEvents: route({
    method: 'GET',
    path: '/renders/events',
    says: 'Server-sent events: the progress of any render, a message a step.',
    reply: { file: ['text/event-stream'] },
  }),
  render: route({
    method: 'GET',
    path: '/renders/:id',
    says: 'A render.',
    params: IdParams,
    reply: Render,
  }),
  renderAction: route({
    method: 'POST',
    path: '/renders/:id/action',
    says: 'Cancels a render, has it stand aside or go on, tries one again that failed, or makes the same once more, which is the one that is answered.',
    params: IdParams,
    body: closed({ action: oneOf('cancel', 'pause', 'resume', 'retry', 'again') }),
    reply: Render,
  }),
  deleteRender: route({
    method: 'DELETE',
    path: '/renders/:id',
    says: 'Removes a render with its files.',
    params: IdParams,
    reply: null,
  }),
  renderFile: route({
    method: 'GET',
    path: '/renders/:id/file',
    says: 'What was rendered: a clip, or numbered pictures as a ZIP archive.',
    params: IdParams,
    reply: {
      file: ['application/zip', ...new Set(DELIVERY_IDS.map(typeOf).filter((type) => type !== 'application/zip'))],
    },
  }),
} as const
