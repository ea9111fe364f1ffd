import { createWriteStream, existsSync, openAsBlob, readFileSync } from 'node:fs'
import { rename, rm } from 'node:fs/promises'
import { basename, join } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Preview } from '../backup/apply'
import type { Import } from '../backup/imports'
import type { Swept } from '../storage/storage'
import { Fault } from '../errors'
import { checkOutputs } from './outputs'

/** The running application: backups go through it, so that nothing is read or written past it. */
class Running {
  private constructor(
    private readonly address: string,
    private readonly key: string | null,
  ) {}

  static find(data: string): Running {
    const note = join(data, 'running.json')
    let address: unknown
    try {
      address = (JSON.parse(readFileSync(note, 'utf8')) as { address?: unknown }).address
    } catch {
      address = undefined
    }
    if (typeof address !== 'string')
      throw new Fault('usage', `Fog Bath is not running with the data folder ${data}; start it first (npm start).`)
    const key = join(data, 'key')
    return new Running(address, existsSync(key) ? readFileSync(key, 'utf8').trim() : null)
  }

  async ask(path: string, init: RequestInit = {}, more: Record<string, string> = {}): Promise<Response> {
    const headers = { ...more, ...(this.key ? { authorization: `Bearer ${this.key}` } : {}) }
    const reply = await fetch(new URL(path, this.address), { ...init, headers }).catch(() => {
      throw new Fault('program', `Fog Bath does not answer at ${this.address}; start it again (npm start).`)
    })
    if (reply.ok) return reply
    const { message } = (await reply.json().catch(() => ({}))) as { message?: string }
    throw new Fault('program', message ?? `Fog Bath answered ${reply.status}.`)
  }
}

export interface BackupFileOptions {
  readonly data: string
  readonly output: string
  readonly production?: number
  readonly media: boolean
  readonly force: boolean
  readonly signal: AbortSignal
}

/** Writes a backup; the file has its name only when it is whole. */
export async function backUp({ data, output, production, media, force, signal }: BackupFileOptions): Promise<void> {
  await checkOutputs([output], [], force)
  const what = production === undefined ? '/api/backup' : `/api/productions/${production}/along`
  const reply = await Running.find(data).ask(`${what}?media=${media ? 1 : 0}`, { signal })
  const half = `${output}.part`
  try {
    await pipeline(Readable.fromWeb(reply.body as never), createWriteStream(half), { signal })
    await rename(half, output)
  } catch (error) {
    await rm(half, { force: true })
    throw error
  }
}

/** Brings a backup in for a look. */
async function bringIn(running: Running, file: string): Promise<Import> {
  if (!existsSync(file)) throw new Fault('usage', `${file} does not exist.`)
  const form = new FormData()
  form.append('file', await openAsBlob(file), basename(file))
  return (await (await running.ask('/api/imports', { method: 'POST', body: form })).json()) as Import
}

/** Takes a backup in, or only says what that would do. */
export async function restore(data: string, file: string, onlyLook: boolean): Promise<Preview> {
  const running = Running.find(data)
  const { key, preview } = await bringIn(running, file)
  if (onlyLook) await running.ask(`/api/imports/${key}`, { method: 'DELETE' })
  else await running.ask(`/api/imports/${key}/accept`, { method: 'POST' })
  return preview
}

/** What a backup brings, a line each. */
export function linesOf({ productions, media, missing }: Preview): string[] {
  const of = (n: number, one: string): string => `${n} ${one}${n === 1 ? '' : 's'}`
  return [
    ...productions.map(
      (p) =>
        `${p.name}: ${of(p.shots, 'shot')}, ${of(p.proofs, 'proof')}${p.there ? ' (one of this name is here already)' : ''}`,
    ),
    `footage: ${media.brought} brought (${(media.bytes / 1e6).toFixed(1)} MB), ${media.here} here already`,
    ...missing.map((name) => `missing: ${name}`),
  ]
}

/** Removes what is left over in the data folder, or only tells it; a line each. */
export async function sweep(data: string, dryRun: boolean): Promise<string[]> {
  const init = { method: 'POST', body: JSON.stringify({ dryRun }) }
  const reply = await Running.find(data).ask('/api/sweep', init, { 'content-type': 'application/json' })
  const { swept } = (await reply.json()) as { swept: readonly Swept[] }
  const lines = swept.map(({ kind, count, bytes }) => `${kind}: ${count}, ${(bytes / 1e6).toFixed(1)} MB`)
  return lines.length > 0 ? lines : ['nothing is left over']
}
