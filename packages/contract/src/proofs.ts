import { nameOf } from '@fogbath/core/line'
import Type, { type Static } from 'typebox'
import { IdParams, RevisionQuery, around, closed, encoding, id, recipe, revision, stamps, whole } from './parts'
import { route } from './route'

/** A kept still with the line that made it. */
const Proof = closed({
  id,
  revision,
  shotId: id,
  name: nameOf('proof'),
  frame: whole,
  width: whole,
  height: whole,
  encoding,
  recipe,
  ...around,
  ...stamps,
})
export type Proof = Static<typeof Proof>

/** A kept still at preview size, as PNG; base64 adds a third. */
const MOST_PICTURE = 24e6

/** Proofs are never changed, only named. */
export const proofRoutes = {
  proofs: route({
    method: 'GET',
    path: '/shots/:id/proofs',
    says: 'The proofs of a shot, the oldest first.',
    params: IdParams,
    reply: Type.Array(Proof),
  }),
  createProof: route({
    method: 'POST',
    path: '/shots/:id/proofs',
    says: 'Keeps a still with what made it.',
    params: IdParams,
    body: closed({
      name: nameOf('proof'),
      frame: whole,
      recipe,
      ...around,
      picture: Type.String({ minLength: 40, description: 'PNG, as base64.' }),
    }),
    reply: Proof,
    status: 201,
    mostBytes: MOST_PICTURE,
  }),
  proofPicture: route({
    method: 'GET',
    path: '/proofs/:id/picture',
    says: 'The picture of a proof.',
    params: IdParams,
    reply: { file: ['image/png'] },
  }),
  changeProof: route({
    method: 'PATCH',
    path: '/proofs/:id',
    says: 'Names a proof.',
    params: IdParams,
    body: closed({ revision, name: nameOf('proof') }),
    reply: Proof,
  }),
  deleteProof: route({
    method: 'DELETE',
    path: '/proofs/:id',
    says: 'Deletes a proof.',
    params: IdParams,
    query: RevisionQuery,
    reply: null,
  }),
} as const
