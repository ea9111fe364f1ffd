import {
  ROUTES,
  addressOf,
  type EditList,
  type Given,
  type Import,
  type KeptMask,
  type KeptPreset,
  type KeptRecipe,
  type Production,
  type Proof,
  type Put,
  type Reply,
  type Route,
  type Shot,
  type TakenFile,
  type Trial,
} from '@fogbath/contract'
import type { Delivery } from '@fogbath/core/delivery'
import type { HistoryChange, Recipe } from '@fogbath/core/line'

/** A refusal by the server (or no answer at all: status 0), with its sentence. */
export class ApiError extends Error {
  constructor(
    readonly status: number,
    message: string,
    readonly details: Record<string, unknown> = {},
  ) {
    super(message)
    this.name = 'ApiError'
  }
}

/** Asks a route with what it takes; gives what it answers. */
async function call<R extends Route>(
  route: R,
  ...[given]: NoInfer<unknown extends Given<R> ? [] : [given: Given<R>]>
): Promise<Reply<R>> {
  const { body } = (given ?? {}) as { body?: unknown }
  const init: RequestInit = { method: route.method }
  if (body !== undefined) {
    init.body = JSON.stringify(body)
    init.headers = { 'content-type': 'application/json' }
  }
  const response = await fetch(addressOf(route, ...([given] as never)), init).catch(() => {
    throw new ApiError(0, 'The server does not answer; your work is kept here and saved when it is back.')
  })
  if (response.status === 204) return undefined as Reply<R>
  const answer = (await response.json().catch(() => ({}))) as Record<string, unknown>
  if (!response.ok)
    throw new ApiError(
      response.status,
      String(answer['message'] ?? `The server answered ${response.status}.`),
      (answer['details'] ?? {}) as Record<string, unknown>,
    )
  return answer as Reply<R>
}

/** A body of a route. */
type Body<R extends Route> = Given<R> extends { readonly body: infer B } ? B : never
/** What can be changed of a shot. */
export type ShotValues = Omit<Body<typeof ROUTES.changeShot>, 'revision'>
type Row = Pick<Shot, 'id' | 'revision'>
const seen = ({ id, revision }: Row) => ({ params: { id }, query: { revision } })
const page = (before?: number) => ({ query: before === undefined ? {} : { before } })

/** What is written about a recipe. */
export type KeptTexts = 'name' | 'sentence' | 'maker' | 'notes' | 'tags'

const R = ROUTES
export const api = {
  productions: (before?: number) => call(R.productions, page(before)),
  production: (id: number) => call(R.production, { params: { id } }),
  createProduction: (name: string) => call(R.createProduction, { body: { name } }),
  changeProduction: (id: number, body: Body<typeof R.changeProduction>) =>
    call(R.changeProduction, { params: { id }, body }),
  copyProduction: (id: number) => call(R.copyProduction, { params: { id } }),
  deleteProduction: (p: Production) => call(R.deleteProduction, seen(p)),
  orderShots: (id: number, shots: readonly number[]) => call(R.orderShots, { params: { id }, body: { shots } }),
  shot: (id: number) => call(R.shot, { params: { id } }),
  changeShot: (id: number, body: Body<typeof R.changeShot>) => call(R.changeShot, { params: { id }, body }),
  beginTracking: (id: number, body: Body<typeof R.beginTracking>) => call(R.beginTracking, { params: { id }, body }),
  tracking: (key: string) => call(R.tracking, { params: { key } }),
  endTracking: (key: string) => call(R.endTracking, { params: { key } }),
  deleteShot: (s: Shot) => call(R.deleteShot, seen(s)),
  history: (id: number) => call(R.history, { params: { id } }),
  changeHistory: (id: number, body: HistoryChange) => call(R.changeHistory, { params: { id }, body }),
  createTrial: (id: number, body: Body<typeof R.createTrial>) => call(R.createTrial, { params: { id }, body }),
  changeTrial: (id: number, body: Body<typeof R.changeTrial>) => call(R.changeTrial, { params: { id }, body }),
  /** All of it is changed, or nothing. */
  changeLines: (body: Body<typeof R.changeLines>) => call(R.changeLines, { body }),
  deleteTrial: (t: Trial) => call(R.deleteTrial, seen(t)),
  shelf: () => call(R.shelf),
  favourites: () => call(R.favourites),
  markFavourite: (key: string, on: boolean) => call(on ? R.markFavourite : R.unmarkFavourite, { params: { key } }),
  shelfUses: () => call(R.shelfUses),
  recipeFile: (id: number) => call(R.recipeFile, { params: { id } }),
  previewFiles: (files: Body<typeof R.previewFiles>['files']) => call(R.previewFiles, { body: { files } }),
  importFiles: (files: Body<typeof R.importFiles>['files']) => call(R.importFiles, { body: { files } }),
  sharedFiles: () => call(R.sharedFiles),
  sharedFile: (file: string) => call(R.sharedFile, { params: { file } }),
  share: (id: number, picture: string | null) => call(R.share, { params: { id }, body: { picture } }),
  masks: () => call(R.masks),
  keepMask: (body: Pick<KeptMask, 'name' | 'mask'>) => call(R.keepMask, { body }),
  changeMask: (id: number, body: Body<typeof R.changeMask>) => call(R.changeMask, { params: { id }, body }),
  keepRecipe: (body: Pick<KeptRecipe, KeptTexts | 'recipe'>) => call(R.keepRecipe, { body }),
  changeKept: (id: number, body: Body<typeof R.changeKept>) => call(R.changeKept, { params: { id }, body }),
  addVersion: (id: number, revision: number, recipe: Recipe) =>
    call(R.addVersion, { params: { id }, body: { revision, recipe } }),
  versionOf: (id: number, number: number) => call(R.versionOf, { params: { id, number } }),
  proofs: (id: number) => call(R.proofs, { params: { id } }),
  createProof: (id: number, body: Body<typeof R.createProof>) => call(R.createProof, { params: { id }, body }),
  changeProof: (id: number, body: Body<typeof R.changeProof>) => call(R.changeProof, { params: { id }, body }),
  deleteProof: (p: Proof) => call(R.deleteProof, seen(p)),
  encodings: () => call(R.encodings),
  keepEncoding: (body: Body<typeof R.keepEncoding>) => call(R.keepEncoding, { body }),
  deleteEncoding: (id: string) => call(R.deleteEncoding, { params: { id } }),
  known: (footage: Body<typeof R.known>['footage']) => call(R.known, { body: { footage } }),
  missing: (id: number) => call(R.missing, { params: { id } }),
  findWatched: (id: number) => call(R.findWatched, { params: { id }, body: {} }),
  watched: () => call(R.watched),
  /** @param asShots each becomes a shot of the production; else it is only footage */
  pick: (id: number, paths: readonly string[], asSequence: boolean, fps: string, asShots = true) =>
    call(R.pick, { params: { id }, body: { paths, asSequence, fps, shots: asShots ? '1' : '0' } }),
  editList: (id: number) => call(R.editList, { params: { id } }),
  planEdit: (id: number, list: EditList) => call(R.planEdit, { params: { id }, body: list }),
  takeEdit: (id: number, list: EditList, key: string, remove: readonly number[]) =>
    call(R.takeEdit, { params: { id }, body: { ...list, key, remove } }),
  splitShot: ({ id, revision }: Row, starts: readonly number[]) =>
    call(R.splitShot, { params: { id }, body: { revision, starts } }),
  cuts: ({ mediumId, reading }: Pick<Shot, 'mediumId' | 'reading'>, options: { threshold: number; least: number }) =>
    call(R.cuts, { params: { id: mediumId }, query: { ...options, ...reading } }),
  stopCuts: (mediumId: number) => call(R.stopCuts, { params: { id: mediumId } }),
  medium: (id: number) => call(R.medium, { params: { id } }),
  renders: (before?: number) => call(R.renders, page(before)),
  createRender: (id: number, delivery: Delivery, put?: Put) =>
    call(R.createRender, { params: { id }, body: { ...delivery, ...(put && { put }) } }),
  /** One clip of all. */
  createJoined: (id: number, shots: readonly number[], delivery: Delivery, put?: Put) =>
    call(R.createJoined, { params: { id }, body: { shots: [...shots], delivery, ...(put && { put }) } }),
  planRenders: (shots: readonly number[], delivery: Delivery, joined: boolean) =>
    call(R.planRenders, { body: { shots: [...shots], delivery, joined } }),
  renderLine: () => call(R.renderLine),
  reorderRenders: (ids: readonly number[]) => call(R.reorderRenders, { body: { ids: [...ids] } }),
  presets: () => call(R.presets),
  keepPreset: (name: string, delivery: Delivery) => call(R.keepPreset, { body: { name, delivery } }),
  changePreset: (p: KeptPreset, delivery: Delivery) =>
    call(R.changePreset, { params: { id: p.id }, body: { revision: p.revision, delivery } }),
  deletePreset: (p: KeptPreset) => call(R.deletePreset, seen(p)),
  renderAction: (id: number, action: Body<typeof R.renderAction>['action']) =>
    call(R.renderAction, { params: { id }, body: { action } }),
  storage: () => call(R.storage),
  takeUnknown: (key: string, productionId: number) => call(R.takeUnknown, { params: { key }, body: { productionId } }),
  removeUnknown: (key: string) => call(R.removeUnknown, { params: { key } }),
  addShot: (id: number, mediumId: number) => call(R.addShot, { params: { id }, body: { mediumId } }),
  removeMedium: (id: number) => call(R.removeMedium, { params: { id } }),
  removeProxy: (key: string) => call(R.removeProxy, { params: { key } }),
  sweep: () => call(R.sweep, { body: { dryRun: false } }),
  imports: () => call(R.imports),
  import: (key: string) => call(R.import, { params: { key } }),
  /** @param again takes it in although it was before @param missing lets shots wait for footage */
  acceptImport: (key: string, again: boolean, missing: boolean) =>
    call(R.acceptImport, { params: { key }, query: { again: again ? '1' : '0', missing: missing ? '1' : '0' } }),
  dropImport: (key: string) => call(R.dropImport, { params: { key } }),
  deleteRender: (id: number) => call(R.deleteRender, { params: { id } }),
}

/** Sends files as a form. @param onSent bytes that have gone, of how many @param signal gives it up */
function sendForm<T>(
  address: string,
  files: readonly File[],
  onSent: (sent: number, of: number) => void,
  signal?: AbortSignal,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const form = new FormData()
    for (const file of files) form.append('file', file, file.name)
    const request = new XMLHttpRequest()
    request.open('POST', address)
    request.upload.onprogress = (e) => onSent(e.loaded, e.total)
    request.onabort = () => reject(new ApiError(0, 'The upload was stopped.'))
    signal?.addEventListener('abort', () => request.abort(), { once: true })
    request.onerror = () => reject(new ApiError(0, 'The upload was interrupted; nothing was taken in.'))
    request.onload = () => {
      const answer = JSON.parse(request.responseText || '{}') as { files?: unknown; message?: string }
      // Where each file answers for itself, a refusal is told beside it.
      if (request.status < 300 || answer.files) resolve(answer as T)
      else reject(new ApiError(request.status, answer.message ?? 'The upload failed.'))
    }
    request.send(form)
  })
}

type Sending = [onSent: (sent: number, of: number) => void, signal: AbortSignal]
/** Where uploads go. */
export interface Destination {
  readonly production: number
  /** Each becomes a shot; else it is only footage. */
  readonly asShots: boolean
}
const shotsOf = ({ asShots }: Destination): '0' | '1' => (asShots ? '1' : '0')
/** Uploads a file. Throws the sentence why it is not taken in. */
export async function uploadFile(to: Destination, file: File, ...sending: Sending): Promise<TakenFile> {
  const address = addressOf(R.takeFiles, { params: { id: to.production }, query: { shots: shotsOf(to) } })
  const [taken] = (await sendForm<{ files: TakenFile[] }>(address, [file], ...sending)).files
  if (taken?.message) throw new ApiError(422, taken.message)
  return taken!
}
/** Uploads numbered stills as one sequence. */
export const uploadSequence = (to: Destination, files: readonly File[], fps: string, ...sending: Sending) =>
  sendForm<TakenFile>(
    addressOf(R.takeSequence, { params: { id: to.production }, query: { fps, shots: shotsOf(to) } }),
    files,
    ...sending,
  )

/** Brings a backup to the server, which proves it; nothing is taken in yet. */
export const uploadBackup = (file: File, onProgress: (share: number) => void) =>
  sendForm<Import>(addressOf(R.bringBackup), [file], (sent, of) => onProgress(of ? sent / of : 0))
