import { createHash } from 'node:crypto'
import { basename } from 'node:path'
import type { EditList, EditPlan, PlannedEvent } from '@fogbath/contract'
import {
  changesOfEdit,
  cutOf,
  footageOf,
  readEdit,
  withDecision,
  type EditEvent,
  type EditList as ReadList,
} from '@fogbath/core/edits'
import { groupFiles, readAs, type Reading } from '@fogbath/core/footage'
import { MOST_LETTERS } from '@fogbath/core/line'
import type { Transaction } from 'sequelize'
import { Medium, Shot } from '../db/models'
import { Fault, sentenceOf } from '../errors'
import { listInside, type Folder } from '../files/inside'
import type { MediaStore } from '../media/store'
import { footageFor, type Listed } from './match'

const MOST_ENTRIES = 100_000

/** What an edit list would make of a production, and the events that it was made of. */
export interface Planned {
  readonly plan: EditPlan
  readonly events: readonly EditEvent[]
}

/** @param watched where footage may lie that is not here yet @param transaction within which it is looked at */
export async function planEdit(
  productionId: number,
  list: EditList,
  { store, watched }: { readonly store: MediaStore; readonly watched: Folder | null },
  transaction: Transaction | null = null,
): Promise<Planned> {
  const { title, events, left } = readList(list)
  const shots = await shotsInOrder(productionId, transaction)
  const footage = await footageHere(shots, store, transaction)
  const found = await Promise.all(events.map((event) => footageFor(event, footage, 'that is here')))
  const missing = events.filter((_, i) => typeof found[i] === 'string')
  const beside = missing.length > 0 && watched ? await watchedFiles(watched) : []
  const placed = events.map((event, i) => {
    const place = found[i]!
    const where = typeof place === 'string' ? null : { mediumId: place.of.mediumId, ...place }
    return { event, where, missing: typeof place === 'string' ? place : null }
  })
  const { changes, gone } = changesOfEdit(
    placed.map(({ event, where }) => ({
      name: event.name,
      medium: where?.mediumId ?? null,
      first: where?.range.first ?? 0,
      last: where?.range.last ?? 0,
    })),
    shots.map(({ id, name, mediumId, first, last }) => ({ id, name, medium: mediumId, first, last })),
  )
  const byId = new Map(shots.map((shot) => [shot.id, shot]))
  const planned = placed.map(({ event, where, missing: why }, i): PlannedEvent => {
    const { shot, ...change } = changes[i]!
    const was = shot === null ? null : byId.get(shot)!
    const remark = remarkOn(event)
    return {
      place: event.place,
      name: event.name.slice(0, MOST_LETTERS.shot),
      footage: [...event.footage],
      mediumId: where?.mediumId ?? null,
      range: where && { first: where.range.first, last: where.range.last },
      cut: where && cutOf(event, where.range, where.fps),
      missing: why,
      remark,
      watched: why === null ? [] : [...(footageOf(event, beside)[0]?.paths ?? [])],
      graded: event.decision !== null && remark === null,
      shotId: shot,
      ...change,
      was: was && { first: was.first, last: was.last },
    }
  })
  const rest = {
    title,
    events: planned,
    gone: gone.map((id) => byId.get(id)!).map(({ id, name, revision }) => ({ id, name, revision })),
    left: [...left],
  }
  const seen = JSON.stringify([rest, shots.map(({ id, revision }) => [id, revision])])
  return { events, plan: { key: createHash('sha256').update(seen).digest('hex'), ...rest } }
}

function readList({ name, content, fps }: EditList): ReadList {
  try {
    const list = readEdit(name, content, fps)
    if (list.events.length > 0 || list.left.length > 0) return list
  } catch (error) {
    throw new Fault('media', `${name}: ${sentenceOf(error)}`)
  }
  throw new Fault('media', `${name} holds no event that shows a picture.`)
}

export const shotsInOrder = (productionId: number, transaction: Transaction | null): Promise<Shot[]> =>
  Shot.findAll({
    where: { productionId },
    order: [
      ['position', 'ASC'],
      ['id', 'ASC'],
    ],
    transaction,
  })

/** All footage that is here, that of the production first, read as its shots read it. */
async function footageHere(
  shots: readonly Shot[],
  store: MediaStore,
  transaction: Transaction | null,
): Promise<(Listed & { readonly mediumId: number })[]> {
  const readings = new Map<number, Reading>(shots.map(({ mediumId, reading }) => [mediumId, reading]))
  const media = await Medium.findAll({ order: [['id', 'DESC']], transaction })
  const own = (medium: Medium): number => (readings.has(medium.id) ? 0 : 1)
  return media
    .sort((a, b) => own(a) - own(b))
    .map((medium) => ({
      name: medium.name,
      sequence: medium.sequence !== '',
      mediumId: medium.id,
      look: async () => {
        await store.checkHere(medium)
        const { frames, fps, timecode } = readAs(medium.info, readings.get(medium.id) ?? {})
        return { name: medium.name, frames, fps, ...(timecode && { timecode }) }
      },
    }))
}

async function watchedFiles(folder: Folder): Promise<{ name: string; sequence: boolean; paths: string[] }[]> {
  // Whoever opens the folder is told why it cannot be read; here it only has nothing to offer.
  const { files } = await listInside(folder, { deep: true, most: MOST_ENTRIES }).catch(() => ({ files: [] }))
  return groupFiles(files, (f) => f.path).map((group) => {
    const paths = group.type === 'file' ? [group.file.path] : group.files.map((f) => f.path)
    return { name: basename(paths[0]!), sequence: paths.length > 1, paths }
  })
}

/** What of an event cannot be taken as it is. */
function remarkOn({ decision, place }: EditEvent): string | null {
  if (!decision) return null
  try {
    withDecision([], decision)
    return null
  } catch (error) {
    return `Its colour decision is left out (${place}): ${sentenceOf(error)}`
  }
}
