import { execFileSync } from 'node:child_process'
import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import type { Ledger } from './ledger'
import type { Target } from './target'

const CLASS = 'a long render'
/** What the server may come to hold more in the last quarter of a render than in its second, MB; each has its own peaks. */
const MOST_GROWTH = 120

export interface Render {
  readonly id: number
  readonly state: string
  readonly done: number
  readonly count: number
  readonly message: string
}

/** A clip of many frames, brought in as a shot; gives the shot's and the medium's number. */
export async function bringClip(
  target: Target,
  folder: string,
  frames: number,
): Promise<{ shot: number; medium: number }> {
  const path = join(folder, 'long.mp4')
  const input = ['-f', 'lavfi', '-i', `testsrc2=s=160x90:r=24:d=${frames / 24}`]
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...input, '-frames:v', String(frames), '-pix_fmt', 'yuv420p', path])
  const made = await target.ask(CLASS, '/api/productions', target.json('POST', { name: 'Long' }))
  const form = new FormData()
  form.append('file', new Blob([new Uint8Array(readFileSync(path))]), 'long.mp4')
  const { id } = JSON.parse(made.text) as { id: number }
  const reply = await target.ask(CLASS, `/api/productions/${id}/media`, { method: 'POST', body: form })
  const [shot] = (JSON.parse(reply.text) as { shots: { id: number; mediumId: number }[] }).shots
  return { shot: shot!.id, medium: shot!.mediumId }
}

async function begin(target: Target, shot: number, format: string): Promise<number> {
  const reply = await target.ask(CLASS, `/api/shots/${shot}/renders`, target.json('POST', { format }))
  return (JSON.parse(reply.text) as Render).id
}

/** Watches a render to its end. */
export async function renderLong(target: Target, ledger: Ledger, shot: number): Promise<void> {
  const id = await begin(target, shot, 'mp4')
  /** The most that was held in each quarter. */
  const held = [0, 0, 0, 0]
  for (let before = -1, stood = Date.now(); ; await sleep(200)) {
    const { status, text } = await target.ask(CLASS, `/api/renders/${id}`)
    if (status !== 200) continue
    const { state, done, count, message } = JSON.parse(text) as Render
    if (done !== before) [before, stood] = [done, Date.now()]
    const quarter = Math.min(3, Math.floor((4 * done) / count))
    held[quarter] = Math.max(held[quarter]!, target.memory())
    if (state === 'done') {
      const told = held.map((mb) => mb.toFixed(0)).join(', ')
      ledger.holds(CLASS, held[3]! - held[1]! < MOST_GROWTH, `memory in its four quarters: ${told} MB`)
      ledger.note(CLASS, `${count} frames; at most ${told} MB in its four quarters`)
      return
    }
    if (state !== 'waiting' && state !== 'running') return ledger.failed(CLASS, `ended ${state}: ${message}`)
    if (Date.now() - stood > 60_000) return ledger.failed(CLASS, `stands still at frame ${done} of ${count}`)
  }
}

/** No upload, cached frame or part that is half made is left, and no folder of a render that is not there. */
export async function checkLeftOver(target: Target, ledger: Ledger): Promise<void> {
  const name = 'nothing left over'
  const all = readdirSync(target.data, { recursive: true }).map(String)
  const renders = new Map<string, string>()
  for (let query = ''; ;) {
    const { items, more } = JSON.parse((await target.ask(name, `/api/renders${query}`)).text) as {
      items: Render[]
      more: boolean
    }
    for (const r of items) renders.set(String(r.id), r.state)
    if (!more) break
    query = `?before=${items.at(-1)!.id}`
  }
  const half = all.filter((p) => /^media\/incoming-|^cache\/.*\.part$|\.half$/.test(p))
  ledger.holds(name, half.length === 0, `half-made files: ${half.slice(0, 4).join(', ')}`)
  for (const path of all.filter((p) => p.startsWith('renders/'))) {
    const [, id, file] = path.split('/')
    ledger.holds(name, renders.has(id!), `${path} belongs to no render`)
    if (file?.startsWith('part'))
      ledger.holds(name, renders.get(id!) !== 'done', `${path} is a part of a render that is done`)
  }
}
