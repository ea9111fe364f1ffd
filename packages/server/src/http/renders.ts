import { stat } from 'node:fs/promises'
import type { ServerResponse } from 'node:http'
import { join } from 'node:path'
import { PassThrough, type Readable } from 'node:stream'
import { ROUTES } from '@fogbath/contract'
import { deliveryFormat } from '@fogbath/core/delivery'
import { MOST_LETTERS } from '@fogbath/core/line'
import { EDITION } from '@fogbath/core/treat'
import yazl from 'yazl'
import { Render } from '../db/models'
import { findRow, newestFirst } from '../db/rows'
import { Fault } from '../errors'
import { namesIn, streamOwn } from '../files/own'
import { checkOrder, orderOf, planRenders } from '../render/plan'
import type { App, Context } from './context'
import { downloadName } from './download'
import { serverOf } from './serve-route'

/** Renders on one page of the list. */
const PAGE = 50

/** Renders: made from a shot as it stands now, watched, cancelled, fetched. */
export function renderRoutes(app: App, { queue, storage }: Context): void {
  const shape = (render: Render) => {
    const { left, rate } = queue.progressOf(render)
    return { ...render.toJSON(), left, rate }
  }

  const serve = serverOf(app)
  serve(ROUTES.createRender, async ({ params, body: { trialId, ...delivery } }) => {
    const ordered = await orderOf(params.id, delivery, trialId)
    await checkOrder(ordered, delivery)
    const { shot, trial, name, first, count } = ordered
    const { format, ...rest } = delivery
    const render = await Render.create({
      shotId: shot.id,
      mediumId: shot.mediumId,
      label: name.slice(0, MOST_LETTERS.file),
      format,
      delivery: rest,
      edition: EDITION,
      state: 'waiting',
      first,
      count,
      done: 0,
      encoding: shot.encoding,
      reading: shot.reading,
      recipe: trial.recipe,
      preparation: shot.preparation,
      after: trial.after,
    })
    await storage.freeRender(render.id)
    queue.wake()
    return shape(render)
  })

  serve(ROUTES.planRenders, ({ body: { shots, delivery } }) =>
    planRenders(shots, delivery, queue.files.folder, queue.speed()),
  )

  serve(ROUTES.renders, async ({ query }) => {
    const { items, more } = await newestFirst(Render, query.before, PAGE)
    return { items: items.map(shape), more }
  })
  serve(ROUTES.render, async ({ params }) => shape(await findRow(Render, params.id, 'render')))

  serve(ROUTES.renderAction, async ({ params, body }) => {
    const render = await findRow(Render, params.id, 'render')
    if (body.action === 'again') return shape(await again(render))
    await (body.action === 'cancel' ? queue.cancel(render) : queue.retry(render))
    return shape(await render.reload())
  })

  /** From its row alone: whatever has become of the shot since, it is the same to the bit by the same edition. */
  async function again(render: Render): Promise<Render> {
    const { id: _, createdAt: __, updatedAt: ___, ...own } = render.toJSON()
    const twin = await Render.create({ ...own, state: 'waiting', done: 0, message: '', edition: EDITION })
    await storage.freeRender(twin.id)
    queue.wake()
    return twin
  }

  serve(ROUTES.deleteRender, async ({ params }) => queue.remove(await findRow(Render, params.id, 'render')))

  serve(ROUTES.renderFile, async ({ params }, reply) => {
    const render = await findRow(Render, params.id, 'render')
    if (render.state !== 'done')
      throw new Fault('invalid', `Render ${render.id} is ${render.state}; there is nothing to fetch yet.`)
    const name = render.label
    const format = deliveryFormat(render.format)
    if (format.moving) {
      const file = queue.files.fileOf(render)
      const { size } = await stat(file).catch(() => {
        throw new Fault('not-found', `The file of render ${render.id} is gone; render the shot again.`)
      })
      return reply
        .headers({
          'content-type': format.container.type,
          'content-length': size,
          'content-disposition': downloadName(`render.${format.ending}`, `${name}.${format.ending}`),
        })
        .send(await streamOwn(file))
    }
    return reply
      .headers({ 'content-type': 'application/zip', 'content-disposition': downloadName('render.zip', `${name}.zip`) })
      .send(await zipOf(queue.files.folderOf(render), format.ending))
  })
  eventRoute(app, queue)
}

/** Tells whoever listens of each step of any render. */
function eventRoute(app: App, queue: Context['queue']): void {
  const listeners = new Set<ServerResponse>()
  app.addHook('preClose', async () => listeners.forEach((raw) => raw.end()))

  serverOf(app)(ROUTES.renderEvents, (request, reply) => {
    reply.hijack()
    const { raw } = reply
    listeners.add(raw)
    // Who has gone is told of by 'close'; a step that comes between must not end the program.
    raw.on('error', () => undefined)
    raw.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' })
    raw.write(': listening\n\n')
    const send = (progress: unknown) => void raw.write(`data: ${JSON.stringify(progress)}\n\n`)
    queue.on('progress', send)
    request.raw.on('close', () => {
      queue.off('progress', send)
      listeners.delete(raw)
    })
    return reply
  })
}

/** Numbered stills as one archive, stored: they are packed already. What goes wrong on the way ends it, and nothing else. */
async function zipOf(folder: string, ending: string): Promise<Readable> {
  const zip = new yazl.ZipFile()
  for (const name of (await namesIn(folder)).filter((n) => n.endsWith(`.${ending}`)).sort())
    zip.addFile(join(folder, name), name, { compress: false })
  const out = new PassThrough()
  const fail = (error: Error): void => void out.destroy(error)
  zip.once('error', fail)
  zip.outputStream.once('error', fail).pipe(out)
  out.on('error', () => undefined)
  zip.end()
  return out
}
