import { basename, dirname } from 'node:path'
import { ROUTES, type Asked } from '@fogbath/contract'
import { PROXY_WIDTH } from '@fogbath/core/footage'
import type { FastifyReply } from 'fastify'
import { Medium, Render, Shot } from '../db/models'
import { findRow } from '../db/rows'
import { asRead } from '../db/shots'
import { Fault } from '../errors'
import { heard } from '../media/sound'
import { rendersOf } from '../storage/footage'
import type { App, Context } from './context'
import { MANY_FRAMES, answerFrame } from './frame-answer'
import { serverOf } from './serve-route'

/** Footage that is here: what is known of it, its file, its frames. */
export function mediaRoutes(app: App, { db, store, frames, proxies }: Context): void {
  const serve = serverOf(app)
  serve(ROUTES.medium, ({ params }) => findRow(Medium, params.id, 'medium'))

  serve(ROUTES.removeMedium, async ({ params }) => {
    const medium = await findRow(Medium, params.id, 'medium')
    const shots = await Shot.count({ where: { mediumId: medium.id } })
    const renders = await Render.count({ where: db.literal(rendersOf(medium.id)) as never })
    if (shots + renders > 0)
      throw new Fault('invalid', `${medium.name} is used by ${shots} shots and ${renders} renders; remove those first.`)
    await store.drop(medium)
  })

  /** For pages that decode it themselves. */
  serve(ROUTES.mediumFile, async ({ params }, reply) => {
    const medium = await findRow(Medium, params.id, 'medium')
    const source = store.sourceOf(medium)
    await store.checkHere(medium)
    if (source.type === 'sequence') throw new Fault('invalid', `${medium.name} is a sequence of files, not one.`)
    return reply
      .header('content-type', 'application/octet-stream')
      .sendFile(basename(source.path), dirname(source.path), { immutable: true, maxAge: '365d', cacheControl: true })
  })

  serve(ROUTES.sound, async ({ params, query: { from, length } }, reply) => {
    const medium = await findRow(Medium, params.id, 'medium')
    await store.checkHere(medium)
    if (!medium.info.sound) throw new Fault('invalid', `${medium.name} has no sound.`)
    return reply
      .header('content-type', 'application/octet-stream')
      .header('cache-control', 'private, max-age=31536000, immutable')
      .send(await heard(store.sourceOf(medium), from, length))
  })

  const sendFrame = async (
    { params, query }: Asked<typeof ROUTES.frame>,
    reply: FastifyReply,
  ): Promise<FastifyReply> => {
    const { width: asked, ...reading } = query
    const found = await findRow(Medium, params.id, 'medium')
    const medium = asRead(found.toJSON(), reading)
    const source = store.sourceOf(medium)
    return answerFrame(reply, asked ?? medium.info.width, async (width, gone) => {
      const proxy = width <= PROXY_WIDTH ? await proxies.of(medium, source) : null
      if (proxy) reply.header('x-frame-proxy', '1')
      return frames
        .frame(proxy?.source ?? source, proxy?.info ?? medium.info, medium.sha256, params.frame, width, gone)
        .catch(async (error: unknown) => {
          // A decoder's words for a file that is not there name no way out.
          await store.checkHere(found)
          throw error
        })
    })
  }
  serve(ROUTES.frame, sendFrame, MANY_FRAMES)
}
