import { basename, extname } from 'node:path'
import { bytesOfStills, groupFiles, numbersOf, withGapsFilled } from '@fogbath/core/footage'
import { Medium, Shot } from '../db/models'
import { listInside, openInside, withHandle, type Folder } from '../files/inside'
import { headOf } from './head'
import { hashOfStills, hashOfStream } from './health'
import { stillsOf } from './stills'
import type { MediaStore } from './store'

/** Footage that a production uses and that is not here whole. */
export async function missingOf(productionId: number, store: MediaStore): Promise<Medium[]> {
  const shots = await Shot.findAll({ where: { productionId }, attributes: ['mediumId'] })
  const media = await Medium.findAll({ where: { id: [...new Set(shots.map((s) => s.mediumId))] } })
  const states = await Promise.all(media.map((m) => store.health.look(m)))
  return media.filter((_, i) => states[i] !== 'here')
}

/** Entries that are looked at. */
const MOST_ENTRIES = 100_000

type Found = Awaited<ReturnType<typeof listInside>>['files'][number]

/**
 * Looks for missing footage in a folder: clips by their length, then their first million bytes, sequences by the length of
 * all their stills; what is taken in is proved by its whole hash.
 * @returns names of what was found, and of what is still missing
 */
export async function findIn(
  folder: Folder,
  missing: readonly Medium[],
  store: MediaStore,
): Promise<{ found: string[]; missing: string[] }> {
  const { files } = await listInside(folder, { deep: true, most: MOST_ENTRIES })
  const found = new Set<number>()
  for (const medium of missing) {
    const back = medium.sequence ? sequenceBack(folder, files, medium, store) : fileBack(folder, files, medium, store)
    if (await back) found.add(medium.id)
  }
  const names = (of: readonly Medium[]): string[] => of.map((m) => m.name)
  return {
    found: names(missing.filter((m) => found.has(m.id))),
    missing: names(missing.filter((m) => !found.has(m.id))),
  }
}

/** Files that have the name of what is missing are tried first. */
async function fileBack(folder: Folder, files: readonly Found[], medium: Medium, store: MediaStore): Promise<boolean> {
  const named = ({ path }: Found): number => (path.endsWith(medium.name) ? 0 : 1)
  const candidates = files.filter((f) => f.size === medium.size).sort((a, b) => named(a) - named(b))
  for (const { path } of candidates) {
    const head = await headOf(openInside(folder, path))
    if (medium.info.head && medium.info.head !== head) continue
    if (await store.takeBack(openInside(folder, path), medium)) return true
  }
  return false
}

/** Stills are read twice, once to know them: nothing is copied that is not what is missing. */
async function sequenceBack(
  folder: Folder,
  files: readonly Found[],
  { sha256, size, sequence, info }: Medium,
  store: MediaStore,
): Promise<boolean> {
  const numbered = files
    .filter(({ path }) => extname(path).toLowerCase() === sequence)
    .map((f) => ({ ...f, name: basename(f.path) }))
  for (const group of groupFiles(numbered, (f) => f.path)) {
    if (group.type === 'file' || bytesOfStills(group.files) !== size) continue
    const stills = group.files.map(({ name, path }) => ({ name, open: () => openInside(folder, path) }))
    const hashes: string[] = []
    for (const { open } of stills) hashes.push(await withHandle(open(), hashOfStream))
    const whole = withGapsFilled(hashes, numbersOf(group.files.map((f) => f.name))!)
    if (hashOfStills(whole, sequence) !== sha256) continue
    await store.takeSequence(stillsOf(stills), info.fps)
    return true
  }
  return false
}
