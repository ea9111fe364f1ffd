import { createWriteStream } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { setTimeout as sleep } from 'node:timers/promises'
import { ROUTES, addressOf, type BackupPreview, type Import, type Swept } from '@fogbath/contract'
import { Directory } from '../backup/directory'
import type { Manifest } from '../backup/contents'
import { Fault } from '../errors'
import { withFile } from '../files/inside'
import { fullDisk } from '../files/writing'
import { besideOutput, checkOutputs } from './outputs'
import { Running } from './running'

export interface BackupFileOptions {
  readonly data: string
  readonly output: string
  readonly production?: number
  readonly media: boolean
  readonly force: boolean
  readonly signal: AbortSignal
  readonly onProgress: (words: string) => void
}

/** After so long it is said that there is a wait, ms. */
const LONG_MS = 2000

/** Writes a backup; the file has its name only when it is whole. @returns names of footage that could not go along */
export async function backUp(options: BackupFileOptions): Promise<readonly string[]> {
  const { data, output, production, media, force, signal, onProgress } = options
  await checkOutputs([output], [join(data, 'running.json'), join(data, 'key')], force)
  const query = { media: media ? '1' : '0' } as const
  const address =
    production === undefined
      ? addressOf(ROUTES.backup, { query })
      : addressOf(ROUTES.takeAlong, { params: { id: production }, query })
  const running = await Running.find(data)
  // The application reads two at once; others wait for their turn.
  const waiting = setTimeout(() => onProgress('waits for the application to read it'), LONG_MS)
  const reply = await running.ask(address, { signal }).finally(() => clearTimeout(waiting))
  onProgress('')
  const half = besideOutput(output)
  try {
    await pipeline(Readable.fromWeb(reply.body as never), createWriteStream(half, { flags: 'wx' }), { signal })
    const missing = await missingIn(half, output)
    await rename(half, output)
    return missing
  } catch (error) {
    await rm(half, { force: true })
    throw fullDisk(error, output) ?? error
  }
}

/** What the archive itself says was missing: some of it may have gone while it was written. */
async function missingIn(file: string, label: string): Promise<readonly string[]> {
  const directory = await Directory.open(file, '.', label)
  try {
    return (JSON.parse((await directory.text('manifest.json')).toString('utf8')) as Manifest).missing ?? []
  } finally {
    directory.close()
  }
}

export interface RestoreOptions {
  /** Only says what the file holds. */
  readonly onlyLook: boolean
  /** Takes it in although it was taken in before. */
  readonly again: boolean
  /** Takes it in although footage is missing; its shots wait for it. */
  readonly missing: boolean
  readonly onProgress: (words: string) => void
}

const EVERY_MS = 500

/** Takes a backup in, or only says what that would do. What the server has begun goes on when this is stopped. */
export async function restore(data: string, file: string, options: RestoreOptions): Promise<readonly string[]> {
  const running = await Running.find(data)
  const sent = await withFile(file, (stream) => running.send<Import>(addressOf(ROUTES.bringBackup), stream, file))
  const proved = await until(running, sent, 'proving', options)
  const preview = proved.preview!
  const params = { key: proved.key }
  const putAway = () => running.ask(addressOf(ROUTES.dropImport, { params }), { method: 'DELETE' })
  if (options.onlyLook) {
    await putAway()
    return linesOf(preview)
  }
  if (preview.taken !== null && !options.again) {
    await putAway()
    throw new Fault(
      'usage',
      `This backup was taken in already, at ${preview.taken}; add --again to take it in once more.`,
    )
  }
  const query = { again: options.again ? '1' : '0', missing: options.missing ? '1' : '0' } as const
  const begun = await running.json<Import>(addressOf(ROUTES.acceptImport, { params, query }), { method: 'POST' })
  await until(running, begun, 'taking', options)
  return linesOf(preview)
}

/** Asks until a state is over. */
async function until(
  running: Running,
  found: Import,
  state: Import['state'],
  { onProgress }: RestoreOptions,
): Promise<Import> {
  let now = found
  while (now.state === state) {
    onProgress(state === 'proving' && now.of > 0 ? `proved ${Math.floor((100 * now.done) / now.of)} %` : state)
    await sleep(EVERY_MS)
    now = await running.json<Import>(addressOf(ROUTES.import, { params: { key: found.key } }))
  }
  onProgress('')
  if (now.message !== null) throw new Fault('program', now.message)
  return now
}

const WORDS = {
  new: 'new',
  same: 'here already',
  newer: 'versions are added',
  older: 'here in a later version',
  conflict: 'another one of this origin is here; comes beside it',
} as const

/** What a backup brings, a line each. */
function linesOf({ productions, media, missing, left, shelf, masks, taken }: BackupPreview): string[] {
  const of = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`
  return [
    ...productions.map(
      (p) =>
        `${p.name}: ${of(p.shots, 'shot')}, ${of(p.proofs, 'proof')}${p.there ? ' (one of this name is here already)' : ''}`,
    ),
    `footage: ${media.brought} brought (${(media.bytes / 1e6).toFixed(1)} MB), ${media.here} here already`,
    ...shelf.map(({ name, state }) => `shelf: ${name} (${WORDS[state]})`),
    ...masks.map(({ name, state }) => `mask: ${name} (${WORDS[state]})`),
    ...missing.map((name) => `missing: ${name}`),
    ...left.map((name) => `missing where the backup was made: ${name}`),
    ...(taken === null ? [] : [`taken in already, at ${taken}`]),
  ]
}

/** Removes what is left over in the data folder, or only tells it; a line each. */
export async function sweep(data: string, dryRun: boolean): Promise<string[]> {
  const headers = { 'content-type': 'application/json' }
  const running = await Running.find(data)
  const init = { method: 'POST', body: JSON.stringify({ dryRun }), headers }
  const { swept } = await running.json<{ swept: readonly Swept[] }>(addressOf(ROUTES.sweep), init)
  const lines = swept.map(({ kind, count, bytes }) => `${kind}: ${count}, ${(bytes / 1e6).toFixed(1)} MB`)
  return lines.length > 0 ? lines : ['nothing is left over']
}
