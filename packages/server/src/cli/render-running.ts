import { createWriteStream } from 'node:fs'
import { join, resolve } from 'node:path'
import { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { setTimeout as sleep } from 'node:timers/promises'
import { ROUTES, addressOf, type Production, type Render, type Reply } from '@fogbath/contract'
import { deliveryFormat, type Delivery } from '@fogbath/core/delivery'
import { rename, rm } from 'node:fs/promises'
import { Fault } from '../errors'
import { exists } from './inputs'
import { besideOutput, checkOutputs } from './outputs'
import { Running } from './running'
import type { planInWords } from './work'

interface Options {
  readonly delivery: Delivery
  readonly out: string
  readonly shots?: readonly string[]
  readonly force: boolean
  readonly dryRun: boolean
  readonly signal: AbortSignal
  readonly onProgress: (done: number, of: number) => void
}
type Done = ReturnType<typeof planInWords>
type Plan = Reply<typeof ROUTES.planRenders>

/** Has the running application render shots of a production, and fetches what was made. */
export async function renderRunning(id: number, options: Options): Promise<Done[]> {
  const { delivery, out, force, dryRun } = options
  const app = await Running.find(process.env['FOGBATH_DATA'] ?? '.fogbath')
  if (!(await exists(out))) throw new Fault('usage', `The folder ${out} does not exist.`)
  const production = await app.json<Production>(addressOf(ROUTES.production, { params: { id } }))
  const shots = chosen(production, options.shots)
  const plan = await app.json<Plan>(addressOf(ROUTES.planRenders), posted({ shots: shots.map((s) => s.id), delivery }))
  const wrong = plan.shots.find((s) => s.problem !== null)
  if (wrong) throw new Fault('invalid', `${wrong.name}: ${wrong.problem}`)
  const { moving, ending } = deliveryFormat(delivery.format)
  const paths = plan.shots.map(({ name }) => join(resolve(out), `${name}.${moving ? ending : 'zip'}`))
  await checkOutputs(paths, [], force)
  const done: Done[] = []
  for (const [i, { shotId, name, first, count, width, height }] of plan.shots.entries()) {
    if (!dryRun) await fetched(app, shotId, paths[i]!, options)
    const encoding = plan.remarks[0] ?? ''
    done.push({ input: name, output: paths[i]!, format: delivery.format, first, count, width, height, encoding })
  }
  return done
}

const posted = (body: unknown): RequestInit => ({
  method: 'POST',
  headers: { 'content-type': 'application/json' },
  body: JSON.stringify(body),
})

function chosen({ name, shots }: Production, asked: readonly string[] | undefined) {
  if (shots.length === 0) throw new Fault('usage', `${name} has no shots.`)
  return (
    asked?.map((text) => {
      const found = shots.find((s, i) => s.name === text || String(i + 1) === text)
      if (!found)
        throw new Fault('usage', `There is no shot '${text}'; there are ${shots.map((s) => s.name).join(', ')}.`)
      return found
    }) ?? shots
  )
}

async function fetched(
  app: Running,
  shotId: number,
  path: string,
  { delivery, signal, onProgress }: Options,
): Promise<void> {
  const asked = await app.json<Render>(addressOf(ROUTES.createRender, { params: { id: shotId } }), posted(delivery))
  const params = { id: asked.id }
  for (;;) {
    if (signal.aborted) {
      await app.ask(addressOf(ROUTES.renderAction, { params }), posted({ action: 'cancel' })).catch(() => undefined)
      signal.throwIfAborted()
    }
    const render = await app.json<Render>(addressOf(ROUTES.render, { params }))
    if (render.state === 'failed' || render.state === 'cancelled')
      throw new Fault('program', render.message || `Render ${render.id} was cancelled.`)
    if (render.done > 0) onProgress(render.done, render.count)
    if (render.state === 'done') break
    await sleep(300)
  }
  const part = besideOutput(path)
  try {
    const { body } = await app.ask(addressOf(ROUTES.renderFile, { params }))
    await pipeline(Readable.fromWeb(body as never), createWriteStream(part))
    await rename(part, path)
  } finally {
    await rm(part, { force: true })
  }
}
