import { MaskPartSchema, type MaskPart } from '@fogbath/core/masks'
import { ALL_MOTIONS, TRACK_ID, TrackSchema, type Motion } from '@fogbath/core/tracking'
import Type, { type Static } from 'typebox'
import { IdParams, closed, oneOf, orNull, text, whole } from './parts'
import { route } from './route'

const KeyParams = closed({ key: Type.String({ pattern: TRACK_ID, description: 'Of the tracking.' }) })

export const Tracking = closed({
  key: KeyParams.properties.key,
  state: oneOf('waiting', 'tracking', 'done', 'failed'),
  done: Type.Integer({ minimum: 0, description: 'Frames that were looked at.' }),
  of: whole,
  track: orNull(TrackSchema),
  message: orNull(text),
})
export type Tracking = Static<typeof Tracking>

/** Following shapes through footage: worked on in the background, one after the other; whoever asked keeps what was found. */
export const trackingRoutes = {
  beginTracking: route({
    method: 'POST',
    path: '/shots/:id/tracking',
    says: 'Begins to follow a part of a mask through the frames of a shot.',
    params: IdParams,
    body: closed({
      id: Type.String({ pattern: TRACK_ID, description: 'Of the track that is made.' }),
      part: Type.Unsafe<MaskPart>(MaskPartSchema),
      frame: Type.Integer({
        minimum: 0,
        description: 'Of the footage: the one in which the part stands as it is drawn.',
      }),
      motions: Type.Array(Type.Unsafe<Motion>({ type: 'string', enum: [...ALL_MOTIONS] }), {
        minItems: 1,
        uniqueItems: true,
      }),
      way: oneOf('both', 'forward', 'back'),
    }),
    reply: Tracking,
    status: 201,
  }),
  tracking: route({
    method: 'GET',
    path: '/tracking/:key',
    says: 'How far it is, and the track as far as it goes.',
    params: KeyParams,
    reply: Tracking,
  }),
  endTracking: route({
    method: 'DELETE',
    path: '/tracking/:key',
    says: 'Stops it where it is, and answers with what was found.',
    params: KeyParams,
    reply: Tracking,
  }),
} as const
