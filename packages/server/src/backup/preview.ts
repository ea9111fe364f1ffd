import type { BackupPreview } from '@fogbath/contract'
import { Medium, Production, Restored } from '../db/models'
import type { MediaStore } from '../media/store'
import type { ContentsMedium } from './contents'
import { previewMasks, previewShelf } from './shelf'
import { readRest, type Proved } from './unpacked'

/** @param folder where the backup lies, unpacked */
export async function previewOf(proved: Proved, folder: string, store: MediaStore): Promise<BackupPreview> {
  const { media, shelf, masks } = await readRest(folder)
  const here = await hashesHere(media, store)
  const names = new Set((await Production.findAll({ attributes: ['name'] })).map((p) => p.name))
  const brought = media.filter((m) => !here.has(m.sha256) && m.files > 0)
  return {
    productions: proved.productions.map((p) => ({ ...p, there: names.has(p.name) })),
    media: { here: here.size, brought: brought.length, bytes: brought.reduce((sum, m) => sum + m.size, 0) },
    missing: namesOfMissing(media, here),
    left: [...proved.left],
    shelf: await previewShelf(shelf),
    masks: await previewMasks(masks),
    taken: (await takenBefore(proved))?.createdAt.toISOString() ?? null,
  }
}

/** Footage that is here, all of it, held against its hash. */
async function hashesHere(media: readonly ContentsMedium[], store: MediaStore): Promise<Set<string>> {
  const here = new Set<string>()
  for (const row of await Medium.findAll({ where: { sha256: media.map((m) => m.sha256) } }))
    if ((await store.health.prove(row)) === 'here') here.add(row.sha256)
  return here
}

const namesOfMissing = (media: readonly ContentsMedium[], here: ReadonlySet<string>): string[] =>
  media.filter((m) => m.files === 0 && !here.has(m.sha256)).map((m) => m.name)

export const missingOf = async (media: readonly ContentsMedium[], store: MediaStore): Promise<string[]> =>
  namesOfMissing(media, await hashesHere(media, store))

/** An archive that was taken in, as long as any of the productions made of it is still here. */
export async function takenBefore({ archive }: Proved): Promise<Restored | null> {
  const row = await Restored.findOne({ where: { archive } })
  if (!row) return null
  const left = await Production.count({ where: { id: [...row.productions] } })
  // One without productions brought a shelf alone: bringing that again does nothing.
  return left > 0 || row.productions.length === 0 ? row : null
}
