import { readdirSync } from 'node:fs'
import { join } from 'node:path'
import { buffer } from 'node:stream/consumers'
import { setTimeout as sleep } from 'node:timers/promises'
import { ROUTES, type Import } from '@fogbath/contract'
import yazl from 'yazl'
import { mutated } from './media'
import type { Chance, Ledger } from './ledger'
import type { Target } from './target'

const ARCHIVES = 'hostile archives'
/** What the server may hold more after all of them, MB. */
const MOST_GROWTH = 300

async function zipOf(entries: Readonly<Record<string, Buffer>>): Promise<Buffer> {
  const zip = new yazl.ZipFile()
  for (const [name, bytes] of Object.entries(entries)) zip.addBuffer(bytes, name)
  zip.end()
  return buffer(zip.outputStream as NodeJS.ReadableStream)
}
const text = (value: unknown): Buffer => Buffer.from(typeof value === 'string' ? value : JSON.stringify(value))

/** Small files that would be large, deep or wrong. */
async function crafted(): Promise<Record<string, Buffer>> {
  const manifest = { format: 'fogbath-backup', version: 1, madeAt: '', entries: [] }
  const deep = '['.repeat(1_000_000)
  return {
    'a manifest of 200 MB': await zipOf({ 'contents.json': text('{}'), 'manifest.json': Buffer.alloc(200e6, ' ') }),
    'contents of 200 MB': await zipOf({ 'contents.json': Buffer.alloc(200e6, '['), 'manifest.json': text(manifest) }),
    'a million levels': await zipOf({ 'contents.json': text(deep), 'manifest.json': text(deep) }),
    'footage that nothing names': await zipOf({
      'contents.json': text('{}'),
      'manifest.json': text(manifest),
      [`media/${'a'.repeat(64)}`]: Buffer.alloc(100e6),
    }),
    'a way out': await zipOf({ 'media/aa': text('x'), 'contents.json': text('{}'), 'manifest.json': text(manifest) }),
    'many entries': await zipOf(
      Object.fromEntries(Array.from({ length: 20_000 }, (_, i) => [`proofs/${i}.png`, text('')])),
    ),
  }
}

interface Brought {
  readonly refused: boolean
  readonly said: string
  /** Of one that waits. */
  readonly key?: string
}
/** Brings one and looks until it is proved, which a busy machine does not do while it is asked. */
async function bringTo(target: Target, bytes: Buffer): Promise<Brought> {
  const form = new FormData()
  form.append('file', new Blob([new Uint8Array(bytes)]), 'crafted.zip')
  const { status, text: said } = await target.ask(ARCHIVES, '/api/imports', { method: 'POST', body: form })
  if (status >= 400 || status === 0) return { refused: status !== 0 && status < 500, said: `${status}` }
  let found = JSON.parse(said) as Import
  for (; found.state === 'proving'; await sleep(200))
    found = (await target.call(ARCHIVES, ROUTES.import, { params: { key: found.key } })).answer()
  return { refused: found.state === 'failed', said: `${status}, ${found.state}`, key: found.key }
}

/** Backups that are spoiled, cut and crafted: each is refused in words or is still whole, and nothing of it stays. */
export async function hostileArchives(target: Target, ledger: Ledger, chance: Chance, until: number): Promise<void> {
  const whole = Buffer.from(
    await (await fetch(`${target.url}/api/backup?media=0`, { signal: AbortSignal.timeout(20_000) })).arrayBuffer(),
  )
  const before = target.memory()
  const bring = (bytes: Buffer): Promise<Brought> => bringTo(target, bytes)
  for (const [name, bytes] of Object.entries(await crafted())) {
    const { refused, said } = await bring(bytes)
    ledger.holds(ARCHIVES, refused, `${name} was answered with ${said}`)
  }
  let still = 0
  for (let i = 0; i < 6 || Date.now() < until; i++) {
    const { refused, key } = await bring(mutated(whole, chance))
    if (refused || !key) continue
    // Some bytes of an archive mean nothing.
    still++
    await target.ask(ARCHIVES, `/api/imports/${key}`, { method: 'DELETE' })
  }
  const left = readdirSync(join(target.data, 'imports'))
  ledger.holds(ARCHIVES, left.length === 0, `left in imports: ${left.join(', ')}`)
  const growth = target.memory() - before
  ledger.holds(ARCHIVES, growth < MOST_GROWTH, `the server holds ${growth.toFixed(0)} MB more`)
  ledger.note(ARCHIVES, `${still} spoiled ones still whole; ${growth.toFixed(0)} MB more held after them`)
}
