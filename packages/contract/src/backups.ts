import { nameOf } from '@fogbath/core/line'
import Type, { type Static } from 'typebox'
import { IdParams, bytes, closed, flag, id, oneOf, orNull, switchText, text, whole } from './parts'
import { route } from './route'
import { sharedState } from './shelf'

/** What a recipe or mask of a backup is to the shelf. */
const ShelfPreview = closed({ name: text, state: sharedState })
export type ShelfPreview = Static<typeof ShelfPreview>

/** What a backup holds, beside what is here. */
const BackupPreview = closed({
  productions: Type.Array(closed({ name: text, shots: whole, proofs: whole, there: flag })),
  media: closed({ here: whole, brought: whole, bytes }),
  missing: Type.Array(text, {
    description: 'Footage that neither goes along nor is here; its shots would wait for it.',
  }),
  left: Type.Array(text, { description: 'Footage that was missing already where the backup was made.' }),
  shelf: Type.Array(ShelfPreview),
  masks: Type.Array(ShelfPreview),
  taken: orNull(Type.String({ description: 'When it was taken in before.' })),
})
export type BackupPreview = Static<typeof BackupPreview>

/** A backup that was brought in; the server goes on with it whether or not anybody looks. */
const Import = closed({
  key: text,
  name: nameOf('file'),
  state: oneOf('proving', 'waiting', 'taking', 'taken', 'failed'),
  done: Type.Integer({ minimum: 0, description: 'Bytes that have been proved.' }),
  of: bytes,
  preview: orNull(BackupPreview),
  productions: orNull(Type.Array(id, { description: 'Those that were made.' })),
  message: orNull(Type.String({ description: 'What went wrong.' })),
})
export type Import = Static<typeof Import>

const KeyParams = closed({ key: Type.String({ pattern: '^[0-9a-f-]{36}$' }) })
const BackupQuery = closed({ media: Type.Optional(switchText) })

/** Backups out and in: what comes in is looked at before it is taken in. */
export const backupRoutes = {
  backup: route({
    method: 'GET',
    path: '/backup',
    says: 'All productions and the shelf as an archive; `media=0` leaves the footage out.',
    query: BackupQuery,
    reply: { file: ['application/zip'] },
  }),
  takeAlong: route({
    method: 'GET',
    path: '/productions/:id/along',
    says: 'One production as an archive.',
    params: IdParams,
    query: BackupQuery,
    reply: { file: ['application/zip'] },
  }),
  bringBackup: route({
    method: 'POST',
    path: '/imports',
    says: 'Brings an archive, which is proved; nothing is taken in yet. What takes long goes on behind the answer.',
    form: true,
    reply: Import,
    status: [201, 202],
  }),
  imports: route({
    method: 'GET',
    path: '/imports',
    says: 'Backups that were brought in.',
    reply: Type.Array(Import),
  }),
  import: route({
    method: 'GET',
    path: '/imports/:key',
    says: 'How far one is.',
    params: KeyParams,
    reply: Import,
  }),
  acceptImport: route({
    method: 'POST',
    path: '/imports/:key/accept',
    says: 'Takes it in; `again` although it was before, `missing` although its shots will wait for footage.',
    params: KeyParams,
    query: closed({ again: Type.Optional(switchText), missing: Type.Optional(switchText) }),
    reply: Import,
    status: [200, 202],
  }),
  dropImport: route({
    method: 'DELETE',
    path: '/imports/:key',
    says: 'Puts it away.',
    params: KeyParams,
    reply: null,
  }),
} as const
