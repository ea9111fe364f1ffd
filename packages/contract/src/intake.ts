import { nameOf } from '@fogbath/core/line'
import Type, { type Static } from 'typebox'
import { IdParams, bytes, closed, hash, id, oneOf, orNull, text } from './parts'
import { Shot } from './productions'
import { route } from './route'

/** What became of a file that was uploaded: a shot, or a sentence that says why not. */
const TakenFile = closed({
  name: nameOf('file'),
  shotId: Type.Optional(id),
  mediumId: Type.Optional(id),
  back: Type.Optional(Type.Boolean({ description: 'Whether it was missing, and its shots have it again.' })),
  message: Type.Optional(text),
})
export type TakenFile = Static<typeof TakenFile>

const fps = Type.String({ pattern: '^[1-9][0-9]{0,4}(/100[01]|/1)?$', description: 'Such as 24 or 24000/1001.' })

const Watched = closed({
  folder: orNull(text),
  files: Type.Array(closed({ path: text, size: bytes })),
  left: Type.Integer({ minimum: 0, description: 'Entries that are not listed because there are too many.' }),
})

const asShots = Type.Optional(
  Type.Unsafe<'0' | '1'>({
    ...oneOf('0', '1'),
    description: '0 where only the footage is wanted, without shots of it.',
  }),
)

/** All shots of the production, in order. */
const shots = Type.Array(Shot)

/** Footage that comes in, by upload or from the watched folder. */
export const intakeRoutes = {
  takeFiles: route({
    method: 'POST',
    path: '/productions/:id/media',
    says: 'Takes files in as shots; each answers for itself, and where none could be taken the answer is a refusal.',
    params: IdParams,
    query: closed({ shots: asShots }),
    form: true,
    reply: closed({ message: Type.Optional(text), files: Type.Array(TakenFile), shots }),
    status: 201,
  }),
  takeSequence: route({
    method: 'POST',
    path: '/productions/:id/sequence',
    says: 'Takes numbered stills in as one sequence, in the order in which they come; numbers that are missing are told.',
    params: IdParams,
    query: closed({ fps: Type.Optional(fps), shots: asShots }),
    form: true,
    reply: TakenFile,
    status: 201,
  }),
  known: route({
    method: 'POST',
    path: '/media/known',
    says: 'Which footage is here already, by the SHA-256 of a file or of the stills of a sequence; for each its number or null.',
    body: closed({
      footage: Type.Array(
        closed({
          hashes: Type.Array(hash, { minItems: 1, maxItems: 100_000 }),
          ending: Type.String({
            pattern: '^(\\.[a-z0-9]{1,7})?$',
            description: 'Ending of numbered stills, or empty for one file.',
          }),
        }),
        { maxItems: 1000 },
      ),
    }),
    reply: Type.Array(orNull(id)),
    mostBytes: 20e6,
  }),
  missing: route({
    method: 'GET',
    path: '/productions/:id/missing',
    says: 'Footage of a production whose file is missing or damaged, with what it can be known by.',
    params: IdParams,
    reply: Type.Array(
      closed({
        id,
        name: nameOf('file'),
        size: bytes,
        sequence: Type.String({ description: 'Of numbered stills their ending; else empty.' }),
        head: Type.Optional(hash),
      }),
    ),
  }),
  findWatched: route({
    method: 'POST',
    path: '/productions/:id/find',
    says: 'Looks for missing footage of a production in the watched folder, by length and contents.',
    params: IdParams,
    body: closed({}),
    reply: closed({ found: Type.Array(nameOf('file')), missing: Type.Array(nameOf('file')) }),
  }),
  watched: route({
    method: 'GET',
    path: '/watched',
    says: 'Files of the watched folder.',
    reply: Watched,
  }),
  pick: route({
    method: 'POST',
    path: '/productions/:id/pick',
    says: 'Takes files of the watched folder in, each as a shot or all as one sequence.',
    params: IdParams,
    body: closed({
      paths: Type.Array(Type.String({ minLength: 1, maxLength: 1000 }), { minItems: 1, maxItems: 100_000 }),
      asSequence: Type.Boolean(),
      fps: Type.Optional(fps),
      shots: asShots,
    }),
    reply: closed({ shots }),
    status: 201,
  }),
} as const
