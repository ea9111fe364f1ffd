import { stat } from 'node:fs/promises'
import { join } from 'node:path'
import { PassThrough, type Readable } from 'node:stream'
import { ROUTES } from '@fogbath/contract'
import { deliveryFormat, distinctNames } from '@fogbath/core/delivery'
import { LRUCache } from 'lru-cache'
import yazl from 'yazl'
import { Medium, Render } from '../db/models'
import { findRow } from '../db/rows'
import { Fault } from '../errors'
import { streamOwn } from '../files/own'
import { probe } from '../media/probe'
import type { Source } from '../media/source'
import { rateOf } from '../render/delivery'
import type { App, Context } from './context'
import { downloadName } from './download'
import { MANY_FRAMES, answerFrame } from './frame-answer'
import { serverOf } from './serve-route'

/** Renders of which what probing said is kept. */
const PROBED = 50

/** What was rendered: fetched alone or many together, looked at frame by frame. */
export function renderFileRoutes(app: App, { queue, frames }: Context): void {
  const serve = serverOf(app)

  async function finished(id: number): Promise<Render> {
    const render = await findRow(Render, id, 'render')
    if (render.state !== 'done')
      throw new Fault('invalid', `Render ${render.id} is ${render.state}; there is nothing to fetch yet.`)
    return render
  }

  /** Its files by the names that they have in an archive. */
  async function filesOf(render: Render, name: string): Promise<{ path: string; name: string }[]> {
    const { moving, ending } = deliveryFormat(render.format)
    if (moving) return [{ path: queue.files.fileOf(render), name: `${name}.${ending}` }]
    const stills = await queue.files.stillsOf(render)
    return stills.map((still) => ({ path: join(queue.files.folderOf(render), still), name: `${name}/${still}` }))
  }

  serve(ROUTES.renderFile, async ({ params }, reply) => {
    const render = await finished(params.id)
    const name = render.label
    const format = deliveryFormat(render.format)
    if (!format.moving) {
      const stills = await filesOf(render, name)
      // Alone they need no folder of their own.
      const own = stills.map((file) => ({ ...file, name: file.name.slice(name.length + 1) }))
      return reply.headers(asArchive('render.zip', `${name}.zip`)).send(archiveOf(own))
    }
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
  })

  serve(ROUTES.renderArchive, async ({ query }, reply) => {
    const renders = await Promise.all([...new Set(query.ids.split(','))].map((id) => finished(Number(id))))
    const names = distinctNames(renders.map((r) => r.label))
    const all = (await Promise.all(renders.map((r, i) => filesOf(r, names[i]!)))).flat()
    return reply.headers(asArchive('renders.zip', `${renders.length} renders.zip`)).send(archiveOf(all))
  })

  const probed = new LRUCache<number, Awaited<ReturnType<typeof probe>>>({ max: PROBED })
  serve(
    ROUTES.renderFrame,
    async ({ params, query }, reply) => {
      const render = await finished(params.id)
      const source = await sourceOf(render)
      const info = probed.get(render.id) ?? (await probe(source, render.label))
      probed.set(render.id, info)
      const key = `render-${render.id}-${render.createdAt.getTime()}`
      return answerFrame(reply, query.width ?? info.width, (width, gone) =>
        frames.frame(source, info, key, params.frame, width, gone),
      )
    },
    MANY_FRAMES,
  )

  async function sourceOf(render: Render): Promise<Source> {
    if (deliveryFormat(render.format).moving) return { type: 'file', path: queue.files.fileOf(render) }
    const { info } = await findRow(Medium, render.mediumId, 'medium')
    const pattern = queue.files.partOf(render, render.first)
    return { type: 'sequence', pattern, start: render.first, frames: render.count, fps: rateOf(info.fps) }
  }
}

const asArchive = (plain: string, name: string) => ({
  'content-type': 'application/zip',
  'content-disposition': downloadName(plain, name),
})

/** Files as one archive, stored: they are packed already. What goes wrong on the way ends it, and nothing else. */
function archiveOf(files: readonly { readonly path: string; readonly name: string }[]): Readable {
  const zip = new yazl.ZipFile()
  for (const { path, name } of files) zip.addFile(path, name, { compress: false })
  const out = new PassThrough()
  const fail = (error: Error): void => void out.destroy(error)
  zip.once('error', fail)
  zip.outputStream.once('error', fail).pipe(out)
  out.on('error', () => undefined)
  zip.end()
  return out
}
