import { EncodingDefinitionSchema, type EncodingDefinition } from '@fogbath/core/encodings'
import Type, { type Static } from 'typebox'
import { closed, whole } from './parts'
import { route } from './route'

const { name, refers, from, ops } = EncodingDefinitionSchema.properties
/** An encoding of one's own, by a digest of what it does. */
const OwnId = Type.String({ pattern: '^own-[0-9a-f]{16}$' })
export const Definition = Type.Unsafe<EncodingDefinition>(closed({ id: OwnId, name, refers, from, ops }))
const OwnEncoding = closed({
  definition: Definition,
  /** Whether pictures can be delivered in it. */
  delivered: Type.Boolean(),
  /** Shots, proofs and renders that are taken for it. */
  uses: whole,
})
export type OwnEncoding = Static<typeof OwnEncoding>

/** Steps with tables of colours are long: one of 65 nodes a side has some 4 MB. */
const MOST_ENCODING_BODY = 12e6

/** Encodings of one's own: those of cameras. What they do never changes; another name is the same encoding. */
export const encodingRoutes = {
  encodings: route({
    method: 'GET',
    path: '/encodings',
    says: 'Encodings of one’s own, by their names.',
    reply: Type.Array(OwnEncoding),
  }),
  keepEncoding: route({
    method: 'POST',
    path: '/encodings',
    says: 'Keeps an encoding; one that does the same is there once, under the new name.',
    body: closed({ name, refers, from, ops }),
    reply: OwnEncoding,
    status: 201,
    mostBytes: MOST_ENCODING_BODY,
  }),
  deleteEncoding: route({
    method: 'DELETE',
    path: '/encodings/:id',
    says: 'Deletes an encoding that nothing is taken for.',
    params: closed({ id: OwnId }),
    reply: null,
  }),
} as const
