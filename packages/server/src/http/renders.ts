import { stat } from 'node:fs/promises'
import type { ServerResponse } from 'node:http'
import { join } from 'node:path'
import { PassThrough, type Readable } from 'node:stream'
import { ROUTES } from '@fogbath/contract'
import { deliveryFormat } from '@fogbath/core/delivery'
import { MOST_LETTERS } from '@fogbath/core/line'
import yazl from 'yazl'
import { Production, Render, Shot, Trial } from '../db/models'
import { findRow, newestFirst } from '../db/rows'
import { Fault } from '../errors'
import { namesIn, streamOwn } from '../files/own'
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
  serve(ROUTES.createRender, async ({ params, body }) => {
    const shot = await findRow(Shot, params.id, 'shot')
    const trial = await findRow(Trial, body.trialId ?? shot.trialId ?? 0, 'trial')
    if (trial.shotId !== shot.id) throw new Fault('invalid', `Trial ${trial.id} belongs to another shot.`)
    const production = await findRow(Production, shot.productionId, 'production')
    const render = await Render.create({
      shotId: shot.id,
      mediumId: shot.mediumId,
      label: `${production.name}, ${shot.name}, trial ${trial.name}`.slice(0, MOST_LETTERS.file),
      format: body.format,
      state: 'waiting',
      first: shot.first,
      count: shot.last - shot.first + 1,
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

  serve(ROUTES.renders, async ({ query }) => {
    const { items, more } = await newestFirst(Render, query.before, PAGE)
    return { items: items.map(shape), more }
  })
  serve(ROUTES.render, async ({ params }) => shape(await findRow(Render, params.id, 'render')))

  serve(ROUTES.renderAction, async ({ params, body }) => {
    const render = await findRow(Render, params.id, 'render')
    await (body.action === 'cancel' ? queue.cancel(render) : queue.retry(render))
    return shape(await render.reload())
  })

  serve(ROUTES.deleteRender, async ({ params }) => queue.remove(await findRow(Render, params.id, 'render')))

  serve(ROUTES.renderFile, async ({ params }, reply) => {
    const render = await findRow(Render, params.id, 'render')
    if (render.state !== 'done')
      throw new Fault('invalid', `Render ${render.id} is ${render.state}; there is nothing to fetch yet.`)
    const name = render.label.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '')
    const format = deliveryFormat(render.format)
    if (format.moving) {
      const file = queue.files.fileOf(render)
      const { size } = await stat(file).catch(() => {
        throw new Fault('not-found', `The file of render ${render.id} is gone; render the shot again.`)
      })
      return reply
        .headers({
          'content-type': format.type,
          'content-length': size,
          'content-disposition': downloadName(`render.${render.format}`, `${name}.${render.format}`),
        })
        .send(await streamOwn(file))
    }
    return reply
      .headers({ 'content-type': 'application/zip', 'content-disposition': downloadName('render.zip', `${name}.zip`) })
      .send(await zipOf(queue.files.folderOf(render), render.format))
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
async function zipOf(folder: string, format: string): Promise<Readable> {
  const zip = new yazl.ZipFile()
  for (const name of (await namesIn(folder)).filter((n) => n.endsWith(`.${format}`)).sort())
    zip.addFile(join(folder, name), name, { compress: false })
  const out = new PassThrough()
  const fail = (error: Error): void => void out.destroy(error)
  zip.once('error', fail)
  zip.outputStream.once('error', fail).pipe(out)
  out.on('error', () => undefined)
  zip.end()
  return out
}
