import { DELIVERY_IDS, type DeliveryId } from '@fogbath/core/delivery'
import { nameOf } from '@fogbath/core/line'
import Type, { type Static } from 'typebox'
import {
  IdParams,
  PageQuery,
  around,
  closed,
  encoding,
  id,
  oneOf,
  orNull,
  pageOf,
  reading,
  recipe,
  stamps,
  text,
  whole,
} from './parts'
import { route } from './route'

const format = oneOf<DeliveryId>(...DELIVERY_IDS)
const RenderState = oneOf('waiting', 'running', 'done', 'failed', 'cancelled')
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

/** A shot as it was when it was asked for, on its way to a file. */
const Render = closed({
  ...progress,
  shotId: orNull(id),
  label: nameOf('file'),
  mediumId: id,
  format,
  first: whole,
  encoding,
  reading,
  recipe,
  ...around,
  ...stamps,
})
export type Render = Static<typeof Render>

/** Renders: made from a shot as it stands now, watched, cancelled, fetched. */
export const renderRoutes = {
  createRender: route({
    method: 'POST',
    path: '/shots/:id/renders',
    says: 'Puts a shot in line to be rendered, as it stands now.',
    params: IdParams,
    body: closed({ format, trialId: Type.Optional(id) }),
    reply: Render,
    status: 201,
  }),
  renders: route({
    method: 'GET',
    path: '/renders',
    says: 'A page of renders, the newest first.',
    query: PageQuery,
    reply: pageOf(Render),
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
    says: 'Cancels a render, or tries again.',
    params: IdParams,
    body: closed({ action: oneOf('cancel', 'retry') }),
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
    reply: { file: ['application/zip', 'video/mp4', 'video/quicktime', 'video/x-matroska'] },
  }),
} as const
