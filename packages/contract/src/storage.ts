import Type, { type Static } from 'typebox'
import { FootageState } from './media'
import { bytes, closed, date, flag, id, oneOf, orNull, text, whole } from './parts'
import { route } from './route'

/** Footage that the database knows. */
const ListedFootage = closed({ id, name: text, bytes, state: FootageState, since: date })
export type ListedFootage = Static<typeof ListedFootage>

/** What the database does not know. */
const UnknownThing = closed({
  key: text,
  kind: oneOf('footage', 'render'),
  name: text,
  bytes,
  written: date,
  aside: date,
  single: Type.Boolean({ description: 'One file, which can be fetched.' }),
})
export type UnknownThing = Static<typeof UnknownThing>

/** What is left over and can go. */
const Swept = closed({ kind: oneOf('upload', 'cache', 'render', 'import', 'backup'), count: whole, bytes })
export type Swept = Static<typeof Swept>

const ProxyKey = Type.String({ pattern: '^[0-9a-f]{64}(\\.[A-Za-z0-9_.-]{1,200})?$' })

/** Bytes that lie on the server’s disk, and what of it is to be looked at. */
const StorageUse = closed({
  footage: bytes,
  cache: bytes,
  renders: bytes,
  proofs: bytes,
  undo: bytes,
  canGo: Type.Array(Swept),
  unknown: Type.Array(UnknownThing),
  unused: Type.Array(ListedFootage, { description: 'Footage that no shot and no render uses.' }),
  moreUnused: Type.Integer({ minimum: 0, description: 'How many pieces more than are listed.' }),
  unusedDays: orNull(Type.Number({ description: 'Days after which unused footage is removed; null for never.' })),
  lost: Type.Array(ListedFootage, { description: 'Footage in use whose file is missing or damaged.' }),
  proxies: closed({
    bytes,
    budget: bytes,
    folder: text,
    list: Type.Array(
      closed({
        key: ProxyKey,
        name: text,
        state: oneOf('waiting', 'making', 'made'),
        share: Type.Number({ minimum: 0, maximum: 1 }),
        bytes,
      }),
      { description: 'Small copies of footage that decodes slower than it plays, for looking.' },
    ),
  }),
  backups: closed({ reading: whole, waiting: whole }),
})
export type StorageUse = Static<typeof StorageUse>

const KeyParams = closed({ key: Type.String({ pattern: '^[a-z0-9-]{1,80}$' }) })

/** What lies on the disk, and whether all that work needs is there. */
export const storageRoutes = {
  health: route({
    method: 'GET',
    path: '/health',
    says: 'Whether everything that work needs is there; 503 where it is not.',
    reply: closed({ ok: flag, database: flag, rendering: oneOf('idle', 'rendering', 'waiting for the database') }),
  }),
  storage: route({
    method: 'GET',
    path: '/storage',
    says: 'What lies on the disk, and what of it can go.',
    reply: StorageUse,
  }),
  sweep: route({
    method: 'POST',
    path: '/sweep',
    says: 'Removes what is left over, or only says what it would remove.',
    body: closed({ dryRun: flag }),
    reply: closed({ swept: Type.Array(Swept) }),
  }),
  removeProxy: route({
    method: 'DELETE',
    path: '/proxies/:key',
    says: 'Removes a proxy; it comes back when its footage is looked at.',
    params: closed({ key: ProxyKey }),
    reply: null,
  }),
  unknown: route({
    method: 'GET',
    path: '/unknown',
    says: 'What was set aside because the database does not know it.',
    reply: Type.Array(UnknownThing),
  }),
  unknownPicture: route({
    method: 'GET',
    path: '/unknown/:key/picture',
    says: 'A small picture of it.',
    params: KeyParams,
    reply: { file: ['image/jpeg'] },
  }),
  unknownFile: route({
    method: 'GET',
    path: '/unknown/:key/file',
    says: 'The file itself.',
    params: KeyParams,
    reply: { file: ['application/octet-stream'] },
  }),
  takeUnknown: route({
    method: 'POST',
    path: '/unknown/:key/take',
    says: 'Takes it into a production as a shot.',
    params: KeyParams,
    body: closed({ productionId: id }),
    reply: closed({ shotId: id }),
    status: 201,
  }),
  removeUnknown: route({
    method: 'DELETE',
    path: '/unknown/:key',
    says: 'Removes it for good.',
    params: KeyParams,
    reply: null,
  }),
  signIn: route({
    method: 'POST',
    path: '/sign-in',
    says: 'Opens a server that has a key; only there.',
    body: closed({ key: Type.String({ maxLength: 200 }) }),
    reply: null,
  }),
} as const
