import { backupRoutes } from './backups'
import { editRoutes } from './edits'
import { encodingRoutes } from './encodings'
import { intakeRoutes } from './intake'
import { mediaRoutes } from './media'
import { productionRoutes } from './productions'
import { proofRoutes } from './proofs'
import { renderRoutes } from './renders'
import { shelfRoutes } from './shelf'
import { storageRoutes } from './storage'
import { trackingRoutes } from './tracking'

export type { BackupPreview, Import, ShelfPreview } from './backups'
export { EditList, MOST_LIST_LETTERS } from './edits'
export type { EditPlan, PlannedEvent } from './edits'
export type { OwnEncoding } from './encodings'
export { FootageState, MOST_SIDE, MediaInfo } from './media'
export type { TakenFile } from './intake'
export type { Medium } from './media'
export { MOST_WHOLE, Refusal, closed } from './parts'
export type { Page } from './parts'
export type { ListedProduction, Production, Shot, Trial } from './productions'
export type { Proof } from './proofs'
export type { KeptPreset, Piece, Put, Render, RenderProgress, RenderState } from './renders'
export { addressOf } from './route'
export type { Asked, FileReply, Given, Reply, Route } from './route'
export type { KeptMask, KeptRecipe, LookedFile, RecipeUse, SharedFiles } from './shelf'
export type { Tracking } from './tracking'
export type { ListedFootage, StorageUse, Swept, UnknownThing } from './storage'

/** Every route of the API, by what it does, under the heading that it is described under. */
export const HEADINGS = {
  Productions: productionRoutes,
  Proofs: proofRoutes,
  Intake: intakeRoutes,
  Edits: editRoutes,
  Tracking: trackingRoutes,
  Encodings: encodingRoutes,
  Footage: mediaRoutes,
  Renders: renderRoutes,
  Shelf: shelfRoutes,
  Backups: backupRoutes,
  Storage: storageRoutes,
} as const

export const ROUTES = {
  ...productionRoutes,
  ...proofRoutes,
  ...intakeRoutes,
  ...editRoutes,
  ...trackingRoutes,
  ...encodingRoutes,
  ...mediaRoutes,
  ...renderRoutes,
  ...shelfRoutes,
  ...backupRoutes,
  ...storageRoutes,
} as const
