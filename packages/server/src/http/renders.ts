import { createReadStream } from 'node:fs'
import { readdir, stat } from 'node:fs/promises'
import type { ServerResponse } from 'node:http'
import { join } from 'node:path'
import yazl from 'yazl'
import { Production, Render, Shot, Trial } from '../db/models'
import { findRow, newestFirst } from '../db/rows'
import { Fault } from '../errors'
import { TARGETS } from '../media/encode'
import type { App, Context } from './context'
import { IdParams, NewRender, PageQuery, RenderAction } from './schemas'

/** Renders on one page of the list. */
const PAGE = 50

/** Renders: made from a shot as it stands now, watched, cancelled, fetched. */
export function renderRoutes(app: App, { queue }: Context): void {
  const shape = (render: Render) => {
    const { left, rate } = queue.progressOf(render)
    return { ...render.toJSON(), left, rate }
  }

  app.post('/api/shots/:id/renders', { schema: { params: IdParams, body: NewRender } }, async (request, reply) => {
    const shot = await findRow(Shot, Number(request.params.id), 'shot')
    const trialId = request.body.trialId ?? shot.trialId
    const trial = await findRow(Trial, trialId ?? 0, 'trial')
    if (trial.shotId !== shot.id) throw new Fault('invalid', `Trial ${trial.id} belongs to another shot.`)
    const production = await findRow(Production, shot.productionId, 'production')
    const render = await Render.create({
      ...{
        shotId: shot.id,
        mediumId: shot.mediumId,
        label: `${production.name}, ${shot.name}, trial ${trial.name}`.slice(0, 255),
      },
      ...{
        format: request.body.format,
        state: 'waiting',
        first: shot.first,
        count: shot.last - shot.first + 1,
        done: 0,
      },
      ...{ encoding: shot.encoding, recipe: trial.recipe, trims: shot.trims },
    })
    queue.wake()
    return reply.status(201).send(shape(render))
  })

  app.get('/api/renders', { schema: { querystring: PageQuery } }, async (request) => {
    const { items, more } = await newestFirst(Render, request.query.before, PAGE)
    return { items: items.map(shape), more }
  })
  app.get('/api/renders/:id', { schema: { params: IdParams } }, async (request) =>
    shape(await findRow(Render, Number(request.params.id), 'render')),
  )

  app.post('/api/renders/:id/action', { schema: { params: IdParams, body: RenderAction } }, async (request) => {
    const render = await findRow(Render, Number(request.params.id), 'render')
    await (request.body.action === 'cancel' ? queue.cancel(render) : queue.retry(render))
    return shape(await render.reload())
  })

  app.delete('/api/renders/:id', { schema: { params: IdParams } }, async (request, reply) => {
    await queue.remove(await findRow(Render, Number(request.params.id), 'render'))
    return reply.status(204).send()
  })

  app.get('/api/renders/:id/file', { schema: { params: IdParams } }, async (request, reply) => {
    const render = await findRow(Render, Number(request.params.id), 'render')
    if (render.state !== 'done')
      throw new Fault('invalid', `Render ${render.id} is ${render.state}; there is nothing to fetch yet.`)
    const name = render.label.replace(/[^\p{L}\p{N}]+/gu, '-').replace(/^-|-$/g, '')
    if (TARGETS[render.format].moving) {
      const file = queue.files.fileOf(render)
      return reply
        .headers({
          'content-type': render.format === 'mp4' ? 'video/mp4' : 'video/quicktime',
          'content-length': (await stat(file)).size,
          'content-disposition': disposition(name, render.format),
        })
        .send(createReadStream(file))
    }
    return reply
      .headers({ 'content-type': 'application/zip', 'content-disposition': disposition(name, 'zip') })
      .send(await zipOf(queue.files.folderOf(render), render.format))
  })

  const listeners = new Set<ServerResponse>()
  app.addHook('preClose', async () => listeners.forEach((raw) => raw.end()))

  /** Server-sent events: one message for each step of any render. */
  app.get('/api/renders/events', (request, reply) => {
    reply.hijack()
    const { raw } = reply
    listeners.add(raw)
    raw.writeHead(200, { 'content-type': 'text/event-stream', 'cache-control': 'no-store' })
    raw.write(': listening\n\n')
    const send = (progress: unknown) => void raw.write(`data: ${JSON.stringify(progress)}\n\n`)
    queue.on('progress', send)
    request.raw.on('close', () => {
      queue.off('progress', send)
      listeners.delete(raw)
    })
  })
}

const disposition = (name: string, ending: string): string =>
  `attachment; filename="render.${ending}"; filename*=UTF-8''${encodeURIComponent(`${name}.${ending}`)}`

/** Numbered stills as one archive, stored: they are packed already. */
async function zipOf(folder: string, format: string): Promise<NodeJS.ReadableStream> {
  const zip = new yazl.ZipFile()
  for (const name of (await readdir(folder)).filter((n) => n.endsWith(`.${format}`)).sort())
    zip.addFile(join(folder, name), name, { compress: false })
  zip.end()
  return zip.outputStream
}
