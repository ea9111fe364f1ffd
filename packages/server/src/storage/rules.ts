import { join } from 'node:path'
import type { Swept } from '@fogbath/contract'
import { Render } from '../db/models'
import { ageOf, namesIn } from '../files/own'
import { INCOMING, type MediaStore } from '../media/store'

const HOUR = 3_600_000
const DAY = 24 * HOUR

interface Rule {
  readonly kind: Swept['kind']
  /** What goes, and why nothing is lost by it. */
  readonly words: string
  readonly find: (places: Places) => Promise<string[]>
}

/** Where a rule looks. */
export interface Places {
  readonly data: string
  readonly store: MediaStore
  /** Hashes of the footage that the database knows. */
  readonly known: ReadonlySet<string>
  readonly renders: ReadonlyMap<string, Render['state']>
  /** Whether something is being worked on at this moment. */
  readonly isOpen: (path: string) => boolean
}

/**
 * All that a sweep removes: what the program itself made and can make again, or half of something that is still whole
 * elsewhere. Footage that a person brought is under none of them, whatever the database knows.
 */
export const RULES: readonly Rule[] = [
  {
    kind: 'upload',
    words:
      'An upload that was cut off: nothing was written to it for an hour, and none is under way in it. Its file is whole where it came from.',
    find: ({ data, store }) =>
      old(data, 'media', HOUR, (name, path) => name.startsWith(INCOMING) && !store.isOpen(path)),
  },
  {
    kind: 'cache',
    words:
      'Decoded frames and proxies of footage that the database does not know, and those half written, an hour old. They are made again when they are looked at.',
    find: caches,
  },
  {
    kind: 'render',
    words:
      'Parts of a render that is done or cancelled, and of one that the database does not know, an hour old. Finished files of an unknown one are set aside.',
    find: renderRests,
  },
  {
    kind: 'import',
    words:
      'A backup that was brought in and not taken, a day after it was last touched. Its file is whole where it came from.',
    find: ({ data, isOpen }) => old(data, 'imports', DAY, (_, path) => !isOpen(path)),
  },
  {
    kind: 'backup',
    words: 'What was read for a backup that nobody is fetching any more, an hour old. The next backup reads it again.',
    find: ({ data, isOpen }) => old(data, 'backups', HOUR, (_, path) => !isOpen(path)),
  },
]

/** Things in a folder to which nothing was written for some time. */
async function old(
  data: string,
  folder: string,
  ms: number,
  chosen: (name: string, path: string) => boolean,
): Promise<string[]> {
  const whole = join(data, folder)
  const paths = (await namesIn(whole)).map((name) => ({ name, path: join(whole, name) }))
  const wanted = paths.filter(({ name, path }) => chosen(name, path))
  const aged = await Promise.all(wanted.map(async ({ path }) => (await ageOf(path)) > ms))
  return wanted.filter((_, i) => aged[i]).map(({ path }) => path)
}

async function caches({ data, known }: Places): Promise<string[]> {
  const found = await old(data, 'cache', HOUR, (name) => !known.has(name))
  for (const name of await namesIn(join(data, 'cache')))
    for (const width of known.has(name) ? await namesIn(join(data, 'cache', name)) : [])
      found.push(...(await old(data, join('cache', name, width), HOUR, (frame) => frame.endsWith('.part'))))
  const proxies = await old(data, 'proxies', HOUR, (name) => !known.has(name.slice(0, 64)) || name.endsWith('.part'))
  return [...found, ...proxies]
}

/** Names of what a render makes on its way; the finished clip and numbered stills have others. */
export const isRest = (name: string): boolean => /^(part|whole)/.test(name)

async function renderRests({ data, renders }: Places): Promise<string[]> {
  const found = await old(data, 'renders', HOUR, (id) => renders.get(id) === 'cancelled')
  for (const id of await namesIn(join(data, 'renders'))) {
    const state = renders.get(id)
    if (state !== undefined && state !== 'done') continue
    const folder = join('renders', id)
    found.push(...(await old(data, folder, HOUR, isRest)))
    // Nothing but rests: then its folder goes as well.
    const names = await namesIn(join(data, folder))
    if (state === undefined && names.every(isRest))
      found.push(...(await old(data, 'renders', HOUR, (name) => name === id)))
  }
  return found
}
