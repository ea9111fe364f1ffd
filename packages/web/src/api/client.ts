import type { HistoryChange, KeptStep, Recipe, SharedRecipe } from '@fogbath/core'
import type { RecipeFile } from '../shelf/files'
import type {
  BackupPreview,
  ListedProduction,
  Medium,
  Page,
  KeptMask,
  KeptRecipe,
  LookedFile,
  RecipeUse,
  SharedFiles,
  Production,
  Proof,
  Render,
  RenderFormat,
  Shot,
  StorageUse,
  TakenFile,
  Trial,
} from './types'

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

async function call<T>(method: string, path: string, body?: unknown): Promise<T> {
  const init: RequestInit = { method }
  if (body !== undefined) {
    init.body = JSON.stringify(body)
    init.headers = { 'content-type': 'application/json' }
  }
  const response = await fetch(`/api${path}`, init).catch(() => {
    throw new ApiError(0, 'The server does not answer; your work is kept here and saved when it is back.')
  })
  if (response.status === 204) return undefined as T
  const answer = (await response.json().catch(() => ({}))) as Record<string, unknown>
  if (!response.ok)
    throw new ApiError(
      response.status,
      String(answer['message'] ?? `The server answered ${response.status}.`),
      (answer['details'] ?? {}) as Record<string, unknown>,
    )
  return answer as T
}

const behind = (id?: number): string => (id === undefined ? '' : `?before=${id}`)

/** What is written about a recipe. */
export type KeptTexts = 'name' | 'sentence' | 'maker' | 'notes' | 'tags'

type Change<T> = Partial<Omit<T, 'id' | 'revision'>> & { revision: number }

export const api = {
  productions: (before?: number) => call<Page<ListedProduction>>('GET', `/productions${behind(before)}`),
  production: (id: number) => call<Production>('GET', `/productions/${id}`),
  createProduction: (name: string) => call<Production>('POST', '/productions', { name }),
  changeProduction: (id: number, change: Change<Production>) => call<Production>('PATCH', `/productions/${id}`, change),
  copyProduction: (id: number) => call<Production>('POST', `/productions/${id}/copy`),
  deleteProduction: (p: Production) => call<void>('DELETE', `/productions/${p.id}?revision=${p.revision}`),
  orderShots: (id: number, shots: readonly number[]) => call<void>('PUT', `/productions/${id}/order`, { shots }),
  shot: (id: number) => call<Shot>('GET', `/shots/${id}`),
  changeShot: (id: number, change: Change<Shot>) => call<Shot>('PATCH', `/shots/${id}`, change),
  deleteShot: (s: Shot) => call<void>('DELETE', `/shots/${s.id}?revision=${s.revision}`),
  history: (shotId: number) => call<{ past: KeptStep[]; future: KeptStep[] }>('GET', `/shots/${shotId}/history`),
  changeHistory: (shotId: number, change: HistoryChange) => call<void>('PATCH', `/shots/${shotId}/history`, change),
  createTrial: (shotId: number, trial: Pick<Trial, 'name' | 'recipe'>) =>
    call<Trial>('POST', `/shots/${shotId}/trials`, trial),
  changeTrial: (id: number, change: Change<Trial>) => call<Trial>('PATCH', `/trials/${id}`, change),
  /** All of the lines are changed, or none. */
  changeLines: (lines: readonly { trialId: number; revision: number; recipe: Recipe }[]) =>
    call<Trial[]>('PUT', '/lines', { lines }),
  deleteTrial: (t: Trial) => call<void>('DELETE', `/trials/${t.id}?revision=${t.revision}`),
  shelf: () => call<KeptRecipe[]>('GET', '/shelf'),
  favourites: () => call<string[]>('GET', '/favourites'),
  markFavourite: (key: string, on: boolean) => call<void>(on ? 'PUT' : 'DELETE', `/favourites/${key}`),
  shelfUses: () => call<RecipeUse[]>('GET', '/shelf/uses'),
  recipeFile: (id: number) => call<SharedRecipe>('GET', `/shelf/${id}/file`),
  previewFiles: (files: readonly RecipeFile[]) => call<LookedFile[]>('POST', '/shelf/preview', { files }),
  importFiles: (files: readonly (RecipeFile & { beside: boolean })[]) =>
    call<{ taken: number }>('POST', '/shelf/import', { files }),
  sharedFiles: () => call<SharedFiles>('GET', '/shared'),
  share: (id: number, picture: string | null) => call<{ file: string }>('POST', `/shelf/${id}/share`, { picture }),
  masks: () => call<KeptMask[]>('GET', '/masks'),
  keepMask: (mask: Pick<KeptMask, 'name' | 'mask'>) => call<KeptMask>('POST', '/masks', mask),
  changeMask: (id: number, change: Change<Pick<KeptMask, 'id' | 'revision' | 'name' | 'archived'>>) =>
    call<KeptMask>('PATCH', `/masks/${id}`, change),
  keepRecipe: (kept: Pick<KeptRecipe, KeptTexts | 'recipe'>) => call<KeptRecipe>('POST', '/shelf', kept),
  changeKept: (id: number, change: Change<Pick<KeptRecipe, 'id' | 'revision' | KeptTexts | 'archived'>>) =>
    call<KeptRecipe>('PATCH', `/shelf/${id}`, change),
  addVersion: (id: number, revision: number, recipe: Recipe) =>
    call<KeptRecipe>('POST', `/shelf/${id}/versions`, { revision, recipe }),
  versionOf: (id: number, number: number) => call<{ recipe: Recipe }>('GET', `/shelf/${id}/versions/${number}`),
  proofs: (shotId: number) => call<Proof[]>('GET', `/shots/${shotId}/proofs`),
  createProof: (shotId: number, proof: Pick<Proof, 'name' | 'frame' | 'recipe' | 'trims'> & { picture: string }) =>
    call<Proof>('POST', `/shots/${shotId}/proofs`, proof),
  changeProof: (id: number, change: { revision: number; name: string }) =>
    call<Proof>('PATCH', `/proofs/${id}`, change),
  deleteProof: (p: Proof) => call<void>('DELETE', `/proofs/${p.id}?revision=${p.revision}`),
  watched: () =>
    call<{ folder: string | null; files: { path: string; size: number }[]; left: number }>('GET', '/watched'),
  pick: (id: number, paths: string[], asSequence: boolean, fps: string) =>
    call<{ shots: Shot[] }>('POST', `/productions/${id}/pick`, { paths, asSequence, fps }),
  medium: (id: number) => call<Medium>('GET', `/media/${id}`),
  renders: (before?: number) => call<Page<Render>>('GET', `/renders${behind(before)}`),
  createRender: (shotId: number, format: RenderFormat) => call<Render>('POST', `/shots/${shotId}/renders`, { format }),
  renderAction: (id: number, action: 'cancel' | 'retry') => call<Render>('POST', `/renders/${id}/action`, { action }),
  storage: () => call<StorageUse>('GET', '/storage'),
  sweep: () => call<{ swept: StorageUse['canGo'] }>('POST', '/sweep', { dryRun: false }),
  acceptImport: (key: string) => call<{ productions: number[] }>('POST', `/imports/${key}/accept`),
  dropImport: (key: string) => call<void>('DELETE', `/imports/${key}`),
  deleteRender: (id: number) => call<void>('DELETE', `/renders/${id}`),
}

/** Sends files as a form, with progress 0..1. @param broken what is said when the way breaks off */
function sendForm<T>(
  path: string,
  files: readonly File[],
  broken: string,
  onProgress: (share: number) => void,
): Promise<T> {
  return new Promise((resolve, reject) => {
    const form = new FormData()
    for (const file of files) form.append('file', file, file.name)
    const request = new XMLHttpRequest()
    request.open('POST', `/api${path}`)
    request.upload.onprogress = (e) => onProgress(e.lengthComputable ? e.loaded / e.total : 0)
    request.onerror = () => reject(new ApiError(0, broken))
    request.onload = () => {
      const answer = JSON.parse(request.responseText || '{}') as { files?: unknown; message?: string }
      // Where each file answers for itself, a refusal is told beside it.
      if (request.status < 300 || answer.files) resolve(answer as T)
      else reject(new ApiError(request.status, answer.message ?? 'The upload failed.'))
    }
    request.send(form)
  })
}

/** Uploads files in one stream. Each file answers for itself. */
export const uploadFiles = (productionId: number, files: readonly File[], onProgress: (share: number) => void) =>
  sendForm<{ files: TakenFile[] }>(
    `/productions/${productionId}/media`,
    files,
    'The upload was interrupted; nothing was taken in.',
    onProgress,
  )

/** Brings a backup to the server, which proves it and tells what it holds; nothing is taken in yet. */
export const uploadBackup = (file: File, onProgress: (share: number) => void) =>
  sendForm<{ key: string; preview: BackupPreview }>(
    '/imports',
    [file],
    'The upload was interrupted; nothing was taken in.',
    onProgress,
  )
