import { connect, type Socket } from 'node:net'
import { buffer } from 'node:stream/consumers'
import { ROUTES } from '@fogbath/contract'
import { changeSettings } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { fromBufferPromise } from 'yauzl'
import type { Ledger } from './ledger'
import { HANG_MS, type Target } from './target'

const MOMENT = 'edits while a backup is written'
const UNREAD = 'downloads that nobody reads'
const SHOTS = 8

interface Line {
  readonly trialId: number
  readonly revision: number
}

/** The lines of several shots are changed together, over and over: what comes out has all of them from one change. */
export async function backupOfOneMoment(target: Target, ledger: Ledger, medium: number): Promise<void> {
  const id = await target.production(MOMENT, 'Moment')
  let lines: Line[] = []
  for (let i = 0; i < SHOTS; i++) {
    const added = await target.call(MOMENT, ROUTES.addShot, { params: { id }, body: { mediumId: medium } })
    const [trial] = added.answer().trials
    lines.push({ trialId: trial!.id, revision: trial!.revision })
  }
  let editing = true
  let edits = 0
  const edit = async (): Promise<void> => {
    for (; editing; edits++) {
      const recipe = changeSettings(SHIPPED_RECIPES[1]!, 'bath-1', { bleachPrint: edits % 101 })
      const body = { lines: lines.map((line) => ({ ...line, recipe })) }
      const changed = await target.call(MOMENT, ROUTES.changeLines, { body })
      if (changed.status !== 200) return ledger.failed(MOMENT, `refused: ${changed.text.slice(0, 200)}`)
      lines = changed.answer().trials.map((t) => ({ trialId: t.id, revision: t.revision }))
    }
  }
  const working = edit()
  for (let i = 0; i < 8; i++) {
    const found = await printsIn(await download(target, `/api/productions/${id}/along?media=0`))
    ledger.holds(MOMENT, found.length === SHOTS && new Set(found).size === 1, `of several moments: ${found.join(', ')}`)
  }
  editing = false
  await working
  ledger.note(MOMENT, `${edits} changes of ${SHOTS} lines at once`)
}

const download = async (target: Target, path: string): Promise<Buffer> =>
  Buffer.from(await (await fetch(`${target.url}${path}`, { signal: AbortSignal.timeout(HANG_MS) })).arrayBuffer())

/** A setting of each shot's line. */
async function printsIn(archive: Buffer): Promise<unknown[]> {
  const zip = await fromBufferPromise(archive)
  for await (const entry of zip.eachEntry()) {
    if (entry.fileName !== 'contents.json') continue
    const text = (await buffer(await zip.openReadStreamPromise(entry))).toString('utf8')
    const { productions } = JSON.parse(text) as {
      productions: { shots: { trials: { recipe: { baths: { settings: Record<string, unknown> }[] } }[] }[] }[]
    }
    return productions[0]!.shots.map((s) => s.trials[0]!.recipe.baths[0]!.settings['bleachPrint'])
  }
  return []
}

/** Many begin a backup and read nothing of it: everybody else is answered all the same. */
export async function unreadDownloads(target: Target, ledger: Ledger): Promise<void> {
  const { host, port, hostname } = new URL(target.url)
  const sockets: Socket[] = []
  for (let i = 0; i < 20; i++) {
    const socket = connect(Number(port), hostname, () => {
      socket.write(`GET /api/backup HTTP/1.1\r\nhost: ${host}\r\n\r\n`)
      socket.pause()
    })
    socket.on('error', () => undefined)
    sockets.push(socket)
  }
  await new Promise((done) => setTimeout(done, 1500))
  const begun = Date.now()
  await Promise.all(Array.from({ length: 24 }, () => target.ask(UNREAD, '/api/productions')))
  ledger.note(UNREAD, `24 requests beside 20 of them answered in ${Date.now() - begun} ms`)
  sockets.forEach((socket) => socket.destroy())
}
