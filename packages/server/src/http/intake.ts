import { basename } from 'node:path'
import { ROUTES, type Reply, type TakenFile } from '@fogbath/contract'
import { MOST_LETTERS } from '@fogbath/core/line'
import { Medium, Production, Shot } from '../db/models'
import { findRow } from '../db/rows'
import { wholeShots } from '../db/shots'
import { Fault, sentenceOf } from '../errors'
import { listInside, openInside, withHandle, type Folder } from '../files/inside'
import { findIn, missingOf } from '../media/finding'
import { hashOfStills } from '../media/health'
import { stillsOf, type Still } from '../media/stills'
import type { Taken } from '../media/store'
import type { App, Context } from './context'
import { serverOf } from './serve-route'
import { uploadsOf } from './uploads'
import { createShot } from '../shots/new-shot'

/** Footage that comes in, by upload or from the watched folder. */
export function intakeRoutes(app: App, context: Context): void {
  const { db, store } = context
  const shotsOf = (productionId: number) => wholeShots({ productionId }, store.health)

  /** A shot of what was taken in; footage that was missing comes back to the shots that wait for it. */
  const shotOf = async (production: Production, { medium, back }: Taken): Promise<Shot> => {
    const waiting = back ? await Shot.findOne({ where: { productionId: production.id, mediumId: medium.id } }) : null
    return waiting ?? createShot(db, production.id, medium)
  }

  /** The footage alone, or a shot of it. */
  const shownAs = async (production: Production, taken: Taken, shots: '0' | '1' = '1') =>
    shots === '0' ? { mediumId: taken.medium.id } : { shotId: (await shotOf(production, taken)).id }

  const serve = serverOf(app)
  /** Each file answers for itself: one broken file does not lose the others. */
  serve(ROUTES.takeFiles, async (request, reply) => {
    const production = await findRow(Production, request.params.id, 'production')
    const results: TakenFile[] = []
    for await (const part of uploadsOf(request)) {
      const name = basename(part.filename || 'unnamed').slice(0, MOST_LETTERS.file)
      try {
        const taken = await store.take(part.file, name)
        results.push({ name, ...(await shownAs(production, taken, request.query.shots)), back: taken.back })
      } catch (error) {
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
      shots: await shotsOf(production.id),
    })
  })

  serve(ROUTES.takeSequence, async (request, reply) => {
    const production = await findRow(Production, request.params.id, 'production')
    const names: string[] = []
    const stills = async function* (): AsyncGenerator<Still> {
      for await (const part of uploadsOf(request)) {
        const name = basename(part.filename || 'unnamed').slice(0, MOST_LETTERS.file)
        names.push(name)
        yield { name, file: part.file }
      }
    }
    const taken = await store.takeSequence(stills(), request.query.fps ?? '24')
    const shown = await shownAs(production, taken, request.query.shots)
    return reply.status(201).send({ name: names[0]!, ...shown, back: taken.back })
  })

  serve(ROUTES.known, async ({ body }) => {
    const wanted = body.footage.map(({ hashes, ending }) => (ending ? hashOfStills(hashes, ending) : hashes[0]!))
    const media = await Medium.findAll({ where: { sha256: wanted } })
    const here = await Promise.all(media.map(async (m) => (await store.health.look(m)) === 'here'))
    const ids = new Map(media.flatMap((m, i) => (here[i] ? [[m.sha256, m.id] as const] : [])))
    return wanted.map((sha256) => ids.get(sha256) ?? null)
  })

  serve(ROUTES.missing, async ({ params }) => {
    const missing = await missingOf((await findRow(Production, params.id, 'production')).id, store)
    return missing.map(({ id, name, size, sequence, info: { head } }) => ({
      id,
      name,
      size,
      sequence,
      ...(head && { head }),
    }))
  })

  serve(ROUTES.findWatched, async ({ params }) => {
    const production = await findRow(Production, params.id, 'production')
    return findIn(watchedFolder(context.watched), await missingOf(production.id, store), store)
  })

  serve(ROUTES.watched, () => listWatched(context.watched))

  serve(ROUTES.pick, async ({ params, body: { paths, asSequence, fps = '24', shots } }) => {
    const production = await findRow(Production, params.id, 'production')
    const folder = watchedFolder(context.watched)
    const files = paths.map((path) => ({ name: basename(path), open: () => openInside(folder, path) }))
    // All are looked at before the first is taken in.
    for (const { open } of files) await withHandle(open(), async () => undefined)
    const taken: Taken[] = []
    if (asSequence) taken.push(await store.takeSequence(stillsOf(files), fps))
    else for (const { name, open } of files) taken.push(await withHandle(open(), (file) => store.take(file, name)))
    for (const one of taken) await shownAs(production, one, shots)
    return { shots: await shotsOf(production.id) }
  })
}

/** Most entries of the watched folder that are listed. */
const MOST_ENTRIES = 5000

async function listWatched(watched: string | null): Promise<Reply<typeof ROUTES.watched>> {
  if (!watched) return { folder: null, files: [], left: 0 }
  const { files, left } = await listInside(watchedFolder(watched), { deep: true, most: MOST_ENTRIES })
  return { folder: watched, files: files.map(({ path, size }) => ({ path, size })), left }
}

function watchedFolder(path: string | null): Folder {
  if (!path) throw new Fault('invalid', 'No watched folder is set; start with FOGBATH_WATCH=/folder.')
  return { path, name: 'the watched folder' }
}
