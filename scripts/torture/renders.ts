import { execFileSync } from 'node:child_process'
import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { ROUTES } from '@fogbath/contract'
import type { DeliveryId } from '@fogbath/core/delivery'
import type { Ledger } from './ledger'
import type { Target } from './target'

const CLASS = 'a long render'
/** What the server may come to hold more in the last quarter of a render than in its second, MB; each has its own peaks. */
const MOST_GROWTH = 120

/** A clip of many frames, brought in as a shot; gives the shot's and the medium's number. */
export async function bringClip(
  target: Target,
  folder: string,
  frames: number,
): Promise<{ shot: number; medium: number }> {
  const path = join(folder, 'long.mp4')
  const input = ['-f', 'lavfi', '-i', `testsrc2=s=160x90:r=24:d=${frames / 24}`]
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...input, '-frames:v', String(frames), '-pix_fmt', 'yuv420p', path])
  const id = await target.production(CLASS, 'Long')
  const [shot] = (await target.upload(CLASS, id, [['long.mp4', readFileSync(path)]])).answer().shots
  return { shot: shot!.id, medium: shot!.mediumId }
}

async function begin(target: Target, shot: number, format: DeliveryId): Promise<number> {
  const begun = await target.call(CLASS, ROUTES.createRender, { params: { id: shot }, body: { format } })
  return begun.answer().id
}

/** Watches a render to its end. */
export async function renderLong(target: Target, ledger: Ledger, shot: number): Promise<void> {
  const id = await begin(target, shot, 'mp4')
  /** The most that was held in each quarter. */
  const held = [0, 0, 0, 0]
  for (let before = -1, stood = Date.now(); ; await sleep(200)) {
    const asked = await target.call(CLASS, ROUTES.render, { params: { id } })
    if (asked.status !== 200) continue
    const { state, done, count, message } = asked.answer()
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
  for (let query = {}; ;) {
    const { items, more } = (await target.call(name, ROUTES.renders, { query })).answer()
    for (const r of items) renders.set(String(r.id), r.state)
    if (!more) break
    query = { before: items.at(-1)!.id }
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
