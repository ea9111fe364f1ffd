import { ReadingSchema } from '@fogbath/core/footage'
import { nameOf } from '@fogbath/core/line'
import Type, { type Static } from 'typebox'
import { IdParams, MOST_WHOLE, bytes, closed, encoding, hash, id, oneOf, stamps, whole } from './parts'
import { Definition } from './encodings'
import { route } from './route'

/** Largest side of a picture that is accepted. */
export const MOST_SIDE = 16384
const side = (most: number) => Type.Integer({ minimum: 1, maximum: most })
const word = Type.String({ maxLength: 60 })

/** What probing said of footage. */
export const MediaInfo = closed({
  kind: oneOf('clip', 'still', 'sequence'),
  width: side(MOST_SIDE),
  height: side(MOST_SIDE),
  frames: side(MOST_WHOLE),
  fps: Type.String({
    pattern: '^[0-9]{1,9}/[0-9]{1,9}$',
    description: 'Frames a second as a fraction, e.g. 24000/1001; 0/1 for a still.',
  }),
  codec: word,
  pixelFormat: word,
  bits: side(64),
  float: Type.Boolean(),
  matrix: Type.String({ maxLength: 60, description: 'Y’CbCr matrix in zscale’s words, or gbr.' }),
  range: oneOf('limited', 'full'),
  chromaAt: Type.Optional(
    Type.String({
      maxLength: 60,
      description: 'Where chroma samples lie against luma, in ffmpeg’s words; footage taken in long ago does not say.',
    }),
  ),
  encoding,
  pixels: Type.Optional(
    Type.String({
      pattern: '^[0-9]{1,9}:[0-9]{1,9}$',
      description: 'Width to height of its pixels where they are not square.',
    }),
  ),
  fields: Type.Optional(
    Type.Unsafe<'top' | 'bottom'>({
      ...oneOf('top', 'bottom'),
      description: 'The older field of each frame where there are two.',
    }),
  ),
  timecode: Type.Optional(
    Type.String({
      pattern: '^[0-9]{2}(:[0-9]{2}){2}[:;][0-9]{2}$',
      description: 'Of its first frame, as the file says; a semicolon where numbers are dropped.',
    }),
  ),
  speed: Type.Optional(
    Type.Number({
      minimum: 0,
      description: 'Frames a second that were decoded at the working size when it was taken in.',
    }),
  ),
  sound: Type.Optional(
    Type.Integer({ minimum: 1, maximum: 64, description: 'Channels of the sound that is heard and kept.' }),
  ),
  varies: Type.Optional(
    Type.Number({ minimum: 0, description: 'Seconds of a clip whose rate is not steady; it is conformed to fps.' }),
  ),
  guessed: Type.Optional(
    Type.Record(Type.String({ maxLength: 20 }), Type.String({ maxLength: 200 }), {
      description: 'From what was guessed that the file does not say: matrix, range, encoding.',
    }),
  ),
  profile: Type.Optional(Definition),
  stored: Type.Optional(closed({ width: side(MOST_SIDE), height: side(MOST_SIDE) })),
  reading: Type.Optional(ReadingSchema),
  head: Type.Optional(Type.String({ pattern: '^[0-9a-f]{64}$', description: 'SHA-256 of its first million bytes.' })),
  reach: Type.Optional(
    closed({
      low: Type.Number({ minimum: 0, maximum: 1 }),
      high: Type.Number({
        minimum: 0,
        maximum: 1,
        description: 'Codes from which to which it goes, 0..1, without the last thousandths.',
      }),
      middle: Type.Optional(
        Type.Number({ minimum: 0, maximum: 1, description: 'The code that half of all lie below.' }),
      ),
    }),
  ),
  warnings: Type.Array(Type.String({ maxLength: 500 })),
})
export type MediaInfo = Static<typeof MediaInfo>

/** Whether the file of footage is on the server, all of it and the right one. */
export const FootageState = oneOf('here', 'missing', 'damaged')
export type FootageState = Static<typeof FootageState>

const row = {
  id,
  sha256: hash,
  name: nameOf('file'),
  size: bytes,
  info: MediaInfo,
  sequence: Type.String({
    maxLength: 8,
    pattern: '^(\\.[a-z0-9]+)?$',
    description: 'Ending of the numbered files of a sequence, or empty for one file.',
  }),
  ...stamps,
}
/** A file or sequence, known by its contents. */
const MediumRow = closed(row)
export const Medium = closed({ ...row, state: FootageState })
export type Medium = Static<typeof Medium>

/** Footage: looked at frame by frame, removed. */
export const mediaRoutes = {
  medium: route({
    method: 'GET',
    path: '/media/:id',
    says: 'What is known of footage.',
    params: IdParams,
    reply: MediumRow,
  }),
  removeMedium: route({
    method: 'DELETE',
    path: '/media/:id',
    says: 'Removes footage that no shot and no render uses.',
    params: IdParams,
    reply: null,
  }),
  mediumFile: route({
    method: 'GET',
    path: '/media/:id/file',
    says: 'The file as it was taken in, whole or in parts (ranges).',
    params: IdParams,
    reply: { file: ['application/octet-stream'] },
  }),
  mediumPicture: route({
    method: 'GET',
    path: '/media/:id/picture',
    says: 'A small picture of it.',
    params: IdParams,
    reply: { file: ['image/jpeg'] },
  }),
  sound: route({
    method: 'GET',
    path: '/media/:id/sound',
    says: 'A piece of its sound for listening: two channels of 48 000 samples a second, 16 bits, interleaved, little-endian.',
    params: IdParams,
    query: closed({
      from: Type.Number({ minimum: 0, maximum: 1e6, description: 'Seconds from its beginning.' }),
      length: Type.Number({
        exclusiveMinimum: 0,
        maximum: 30,
        description: 'Seconds; where it ends before, less comes.',
      }),
    }),
    reply: { file: ['application/octet-stream'] },
  }),
  frame: route({
    method: 'GET',
    path: '/media/:id/frames/:frame',
    says: 'Code values of a frame, interleaved R’G’B’; x-frame-width, -height and -format (u16 or f16) say how they lie.',
    params: closed({ id, frame: whole }),
    query: closed({
      width: Type.Optional(Type.Integer({ minimum: 0, maximum: 99_999 })),
      ...ReadingSchema.properties,
    }),
    reply: { file: ['application/octet-stream'] },
  }),
} as const
