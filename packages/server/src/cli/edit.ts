import { basename } from 'node:path'
import { readEdit, type EditEvent, type EditedFootage } from '@fogbath/core/edits'
import { groupFiles } from '@fogbath/core/footage'
import { MOST_LIST_LETTERS } from '@fogbath/contract'
import { footageFor, type Listed } from '../edits/match'
import { Fault, sentenceOf } from '../errors'
import { listInside, openRegular, readText } from '../files/inside'
import { probe } from '../media/probe'
import { withPlainName } from '../media/plain-name'

const MOST_ENTRIES = 100_000

type InFolder = Listed & { readonly path: string }

/** A shot of an edit as it is told. */
export interface EditedShot {
  readonly name: string
  /** Below the folder; null where nothing is what it needs. */
  readonly file: string | null
  /** Frames counted from 0, both included. */
  readonly first: number | null
  readonly last: number | null
  readonly found: boolean
  readonly reason?: string
  readonly speed?: number
  readonly handles?: EditEvent['handles']
  readonly cdl?: NonNullable<EditEvent['decision']>
}

/**
 * The shots of an edit list with their footage in a folder.
 * @param fps rate of a list that says none itself
 * @returns shots in order, and what of the list could not be read
 */
export async function editShots(
  list: string,
  media: string,
  fps: string,
): Promise<{ shots: EditedShot[]; left: readonly string[] }> {
  const text = await readText(openRegular(list), MOST_LIST_LETTERS, list)
  const { events, left } = await nameIn(list, () => readEdit(basename(list), text, fps))
  const { files } = await listInside({ path: media, name: 'the folder' }, { deep: true, most: MOST_ENTRIES })
  const footage = groupFiles(files, (f) => f.path).map((group) => {
    const paths = group.type === 'file' ? [group.file.path] : group.files.map((f) => f.path)
    return listed(media, paths, fps)
  })
  const shots: EditedShot[] = []
  for (const event of events) shots.push(await shotOf(event, footage))
  return { shots, left }
}

async function nameIn<T>(list: string, work: () => T): Promise<T> {
  try {
    return work()
  } catch (error) {
    throw new Fault('usage', `${list}: ${sentenceOf(error)}`)
  }
}

function listed(media: string, paths: readonly string[], fps: string): InFolder {
  const [path] = paths as [string]
  const name = basename(path)
  let known: Promise<EditedFootage> | undefined
  const whole = async (): Promise<EditedFootage> => {
    const file = `${media}/${path}`
    const info = await withPlainName(file, (plain) => probe({ type: 'file', path: plain }, name))
    const { frames, timecode } = info
    if (paths.length > 1) return { name, frames: paths.length, fps }
    return { name, frames, fps: info.fps, ...(timecode && { timecode }) }
  }
  return { name, path, sequence: paths.length > 1, look: () => (known ??= whole()) }
}

async function shotOf(event: EditEvent, footage: readonly InFolder[]): Promise<EditedShot> {
  const { name, speed, handles, decision } = event
  const more = {
    ...(speed !== 1 && { speed }),
    ...((handles.before > 0 || handles.after > 0) && { handles }),
    ...(decision && { cdl: decision }),
  }
  const place = await footageFor(event, footage, 'in the folder')
  if (typeof place === 'string')
    return { name, file: null, first: null, last: null, found: false, reason: place, ...more }
  const { first, last } = place.range
  return { name, file: place.of.path, first, last, found: true, ...more }
}
