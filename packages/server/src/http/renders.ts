import type { ServerResponse } from 'node:http'
import { ROUTES, type Piece } from '@fogbath/contract'
import type { Delivery } from '@fogbath/core/delivery'
import { MOST_LETTERS } from '@fogbath/core/line'
import { EDITION } from '@fogbath/core/treat'
import { Render } from '../db/models'
import { findRow, newestFirst } from '../db/rows'
import { Fault } from '../errors'
import { asCut, checkJoined } from '../render/joined'
import { checkOrder, orderOf, pieceOf } from '../render/ordered'
import { planRenders } from '../render/plan'
import { lastPlace } from '../render/queue'
import type { App, Context } from './context'
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
  serve(ROUTES.createRender, async ({ params, body: { trialId, put, ...delivery } }) => {
    const ordered = await orderOf(params.id, delivery, trialId)
    await checkOrder(ordered, delivery)
    const shotId = ordered.shot.id
    return inLine({ ...pieceOf(ordered), shotId, label: ordered.name }, delivery, put)
  })

  serve(ROUTES.createJoined, async ({ params, body: { shots, delivery, put } }) => {
    const orders = await Promise.all(shots.map(async (id) => asCut(await orderOf(id, delivery))))
    const other = orders.find(({ shot }) => shot.productionId !== params.id)
    if (other) throw new Fault('invalid', `${other.shot.name} belongs to another production.`)
    const { name, problems } = await checkJoined(orders, delivery)
    const [problem] = problems.filter((p) => p !== null)
    if (problem) throw new Fault('invalid', problem)
    const pieces = orders.map(pieceOf)
    const count = pieces.reduce((sum, piece) => sum + piece.count, 0)
    return inLine({ ...pieces[0]!, shotId: null, label: name, first: 0, count, pieces }, delivery, put)
  })

  type Ordered = Piece & { shotId: number | null; pieces?: Piece[] }
  async function inLine({ label, ...what }: Ordered, { format, ...rest }: Delivery, put: Render['put'] = null) {
    const render = await Render.create({
      ...what,
      label: label.slice(0, MOST_LETTERS.file),
      format,
      delivery: rest,
      edition: EDITION,
      state: 'waiting',
      done: 0,
      place: await lastPlace(),
      put,
    })
    await storage.freeRender(render.id)
    queue.wake()
    return shape(render)
  }

  serve(ROUTES.planRenders, ({ body }) => planRenders(body, queue))

  serve(ROUTES.renderLine, async () => (await queue.line()).map(shape))
  serve(ROUTES.reorderRenders, async ({ body }) => (await queue.reorder(body.ids)).map(shape))

  serve(ROUTES.renders, async ({ query }) => {
    const { items, more } = await newestFirst(Render, query.before, PAGE)
    return { items: items.map(shape), more }
  })
  serve(ROUTES.render, async ({ params }) => shape(await findRow(Render, params.id, 'render')))

  serve(ROUTES.renderAction, async ({ params, body }) => {
    const render = await findRow(Render, params.id, 'render')
    if (body.action === 'again') return shape(await again(render))
    await queue[body.action](render)
    return shape(await render.reload())
  })

  /** From its row alone: whatever has become of the shot since, it is the same to the bit by the same edition. */
  async function again(render: Render): Promise<Render> {
    const { id: _, createdAt: __, updatedAt: ___, ...own } = render.toJSON()
    const twin = await Render.create({
      ...own,
      state: 'waiting',
      done: 0,
      message: '',
      edition: EDITION,
      place: await lastPlace(),
      // What has its name in the folder of deliveries is the one that it is a twin of.
      put: null,
    })
    await storage.freeRender(twin.id)
    queue.wake()
    return twin
  }

  serve(ROUTES.deleteRender, async ({ params }) => queue.remove(await findRow(Render, params.id, 'render')))

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
