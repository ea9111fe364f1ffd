import type { FastifyInstance, FastifyBaseLogger, RawServerDefault } from 'fastify'
import type { IncomingMessage, ServerResponse } from 'node:http'
import type { TypeBoxTypeProvider } from '@fastify/type-provider-typebox'
import type { Sequelize } from 'sequelize'
import type { Imports } from '../backup/imports'
import type { Backups } from '../backup/write'
import type { CutSearches } from '../media/cut-search'
import type { FrameCache } from '../media/frames'
import type { Proxies } from '../media/proxies'
import type { Trackings } from '../media/trackings'
import type { MediaStore } from '../media/store'
import type { SharedFolder } from '../shared/files'
import type { Storage } from '../storage/storage'
import type { RenderQueue } from '../render/queue'

/** What the routes work with; made once by buildApp. */
export interface Context {
  readonly db: Sequelize
  readonly store: MediaStore
  readonly frames: FrameCache
  readonly proxies: Proxies
  readonly cuts: CutSearches
  readonly trackings: Trackings
  readonly queue: RenderQueue
  readonly imports: Imports
  readonly backups: Backups
  readonly storage: Storage
  /** Folder whose files can be picked without uploading, or null. */
  readonly watched: string | null
  /** Folder in which a team shares recipes, or null. */
  readonly shared: SharedFolder | null
}

/** Fastify whose handlers are typed by the TypeBox schemas of their routes. */
export type App = FastifyInstance<
  RawServerDefault,
  IncomingMessage,
  ServerResponse,
  FastifyBaseLogger,
  TypeBoxTypeProvider
>
