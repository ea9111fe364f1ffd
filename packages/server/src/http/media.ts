import { readdir, realpath, stat } from 'node:fs/promises'
import { basename, dirname, join, sep } from 'node:path'
import { Medium, Production, Render, Shot } from '../db/models'
import { findRow } from '../db/rows'
import { wholeShots } from '../db/shots'
import { Fault, sentenceOf } from '../errors'
import { WIDTHS } from '../media/frames'
import { withFile } from '../media/source'
import type { App, Context } from './context'
import { FrameParams, FrameQuery, IdParams, Pick } from './schemas'
import { createShot } from './shots'
import { uploadsOf } from './uploads'

/** Footage: taken in by upload or from the watched folder, looked at frame by frame. */
export function mediaRoutes(app: App, context: Context): void {
  const { db, store, frames } = context

  /** Each file answers for itself: one broken file does not lose the others. */
  app.post('/api/productions/:id/media', { schema: { params: IdParams } }, async (request, reply) => {
    const production = await findRow(Production, Number(request.params.id), 'production')
    const results: { name: string; shotId?: number; message?: string }[] = []
    for await (const part of uploadsOf(request)) {
      const name = basename(part.filename || 'unnamed').slice(0, 255)
      try {
        const medium = await store.take(part.file, name)
        results.push({ name, shotId: (await createShot(db, production.id, medium)).id })
      } catch (error) {
        part.file.resume()
        if (!(error instanceof Fault)) request.log.error(error)
        results.push({ name, message: error instanceof Fault ? sentenceOf(error) : `${name} could not be taken in.` })
      }
    }
    if (results.length === 0) throw new Fault('invalid', 'The upload holds no file.')
    const refused = results.filter((r) => r.message)
    const status = refused.length === results.length ? 422 : 201
    const message = refused.map((r) => r.message).join(' ')
    return reply.status(status).send({
      ...(status === 422 ? { error: 'media' } : {}),
      ...(message ? { message } : {}),
      files: results,
      shots: await wholeShots({ productionId: production.id }),
    })
  })

  app.get('/api/watched', () => listWatched(context.watched))

  app.post('/api/productions/:id/pick', { schema: { params: IdParams, body: Pick } }, async (request, reply) => {
    const production = await findRow(Production, Number(request.params.id), 'production')
    const paths = await Promise.all(request.body.paths.map((p) => insideWatched(context.watched, p)))
    const media: Medium[] = []
    if (request.body.asSequence)
      media.push(await store.takeSequence(paths, basename(paths[0]!), request.body.fps ?? '24'))
    else for (const path of paths) media.push(await withFile(path, (file) => store.take(file, basename(path))))
    for (const medium of media) await createShot(db, production.id, medium)
    return reply.status(201).send({ shots: await wholeShots({ productionId: production.id }) })
  })

  app.get('/api/media/:id', { schema: { params: IdParams } }, (request) =>
    findRow(Medium, Number(request.params.id), 'medium'),
  )

  app.delete('/api/media/:id', { schema: { params: IdParams } }, async (request, reply) => {
    const medium = await findRow(Medium, Number(request.params.id), 'medium')
    const shots = await Shot.count({ where: { mediumId: medium.id } })
    const renders = await Render.count({ where: { mediumId: medium.id } })
    if (shots + renders > 0)
      throw new Fault('invalid', `${medium.name} is used by ${shots} shots and ${renders} renders; remove those first.`)
    await store.drop(medium)
    return reply.status(204).send()
  })

  /** The file as it was taken in, whole or in parts, for pages that decode it themselves. */
  app.get('/api/media/:id/file', { schema: { params: IdParams } }, async (request, reply) => {
    const medium = await findRow(Medium, Number(request.params.id), 'medium')
    const source = store.sourceOf(medium)
    if (source.type === 'sequence') throw new Fault('invalid', `${medium.name} is a sequence of files, not one.`)
    return reply
      .header('content-type', 'application/octet-stream')
      .sendFile(basename(source.path), dirname(source.path), { immutable: true, maxAge: '365d', cacheControl: true })
  })

  const frameOptions = {
    schema: { params: FrameParams, querystring: FrameQuery },
    config: { rateLimit: { max: 20_000, timeWindow: '1 minute' } },
  }
  app.get('/api/media/:id/frames/:frame', frameOptions, async (request, reply) => {
    const medium = await findRow(Medium, Number(request.params.id), 'medium')
    const width = Number(request.query.width ?? medium.info.width)
    if (width < WIDTHS.lowest || width > WIDTHS.highest)
      throw new Fault('invalid', `width is ${width}; it must lie between ${WIDTHS.lowest} and ${WIDTHS.highest}.`)
    const gone = new AbortController()
    reply.raw.once('close', () => !reply.raw.writableEnded && gone.abort())
    const frame = await frames.frame(
      store.sourceOf(medium),
      medium.info,
      medium.sha256,
      Number(request.params.frame),
      width,
      gone.signal,
    )
    return reply
      .header('content-type', 'application/octet-stream')
      .header('cache-control', 'private, max-age=31536000, immutable')
      .headers({
        'x-frame-width': String(frame.width),
        'x-frame-height': String(frame.height),
        'x-frame-format': frame.format,
      })
      .send(frame.bytes)
  })
}

/** Most entries of the watched folder that are listed. */
const MOST_ENTRIES = 5000

interface Watched {
  readonly folder: string | null
  readonly files: readonly { readonly path: string; readonly size: number }[]
  /** Entries that are not listed because there are too many. */
  readonly left: number
}

async function listWatched(watched: string | null): Promise<Watched> {
  if (!watched) return { folder: null, files: [], left: 0 }
  const names = await readdir(watched, { recursive: true }).catch(() => {
    throw new Fault('not-found', `The watched folder ${watched} cannot be read.`)
  })
  const files = await Promise.all(
    names
      .sort()
      .slice(0, MOST_ENTRIES)
      .map(async (path) => {
        // Links that lead out of the folder are not offered; picking one is refused.
        const found = await insideWatched(watched, path)
          .then((real) => stat(real))
          .catch(() => null)
        return found?.isFile() ? [{ path, size: found.size }] : []
      }),
  )
  return { folder: watched, files: files.flat(), left: Math.max(0, names.length - MOST_ENTRIES) }
}

/** A picked path must really lie in the watched folder, links followed. */
async function insideWatched(watched: string | null, path: string): Promise<string> {
  if (!watched) throw new Fault('invalid', 'No watched folder is set; start with FOGBATH_WATCH=/folder.')
  const root = await realpath(watched)
  if (path.includes('\0')) throw new Fault('invalid', 'A path cannot hold a zero character.')
  const real = await realpath(join(root, path)).catch(() => null)
  if (!real) throw new Fault('not-found', `${path} is not in the watched folder.`)
  if (!real.startsWith(root + sep)) throw new Fault('denied', `${path} lies outside the watched folder.`)
  return real
}
