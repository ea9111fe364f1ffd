import { lstat, mkdir, rename, rm } from 'node:fs/promises'
import { dirname, extname, join } from 'node:path'
import type { UnknownThing } from '@fogbath/contract'
import { Medium } from '../db/models'
import { Fault } from '../errors'
import { bytesOf, namesIn, readOwn, streamOwn } from '../files/own'
import { writeWhole } from '../files/writing'
import { hashOf, noteOf } from '../media/health'
import { dropNote, readNote, writeNote, type FootageNote } from '../media/notes'
import { describe } from '../media/reach'
import { sourceAt, type Source } from '../media/source'
import type { MediaStore, Taken } from '../media/store'

/** What was set aside, and what is known of it. */
interface About extends Partial<FootageNote> {
  readonly kind: 'footage' | 'render'
  readonly name: string
  /** When it was written last, and when it was set aside. */
  readonly written: string
  readonly aside: string
}

/** Under this name the thing itself lies in its folder, beside `about.json`. */
const THING = 'thing'

/**
 * What lies in the data folder and the database does not know: brought by a person, or made and not to be made again. The
 * database may be the wrong one, so nothing of it is ever removed but by a person. It lies in `unknown`, a folder each, and
 * goes back by itself when a database that knows it is there again.
 */
export class Aside {
  constructor(
    private readonly folder: string,
    private readonly store: MediaStore,
  ) {}

  /** Footage that no row knows. @param path where it lies among the media */
  async setFootage(path: string, sha256: string): Promise<void> {
    const note = await readNote(path)
    // Without a note nothing is known but its hash.
    await this.set(path, sha256, { kind: 'footage', name: sha256.slice(0, 12), ...note })
    await dropNote(path)
  }

  /** A finished render whose row is gone: with it went the recipe that it was made by. */
  setRender(path: string, id: string): Promise<void> {
    return this.set(path, `render-${id}-${Date.now()}`, { kind: 'render', name: `Render ${id}` })
  }

  private async set(path: string, key: string, known: Omit<About, 'written' | 'aside'>): Promise<void> {
    const place = join(this.folder, key)
    const written = (await lstat(path)).mtime.toISOString()
    await mkdir(place, { recursive: true })
    const about: About = { ...known, written, aside: new Date().toISOString() }
    await writeWhole(join(place, 'about.json'), JSON.stringify(about))
    // One that was set aside before has the same hash.
    await rm(join(place, THING), { recursive: true, force: true })
    await rename(path, join(place, THING))
  }

  async list(): Promise<UnknownThing[]> {
    const all = await Promise.all((await namesIn(this.folder)).map((key) => this.find(key)))
    return all.flatMap((found) => (found ? [found.shown] : [])).sort((a, b) => b.aside.localeCompare(a.aside))
  }

  private async find(key: string): Promise<{ about: About; thing: string; shown: UnknownThing } | null> {
    const thing = join(this.folder, key, THING)
    const found = await lstat(thing).catch(() => null)
    if (!found) return null
    const about = await this.aboutOf(key, found.mtime)
    const { kind, name, written, aside } = about
    const single = !found.isDirectory()
    const bytes = single ? found.size : await bytesOf(thing)
    return { about, thing, shown: { key, kind, name, bytes, written, aside, single } }
  }

  private async aboutOf(key: string, written: Date): Promise<About> {
    try {
      return JSON.parse((await readOwn(join(this.folder, key, 'about.json'))).toString('utf8')) as About
    } catch {
      const [at, kind] = [written.toISOString(), key.startsWith('render-') ? 'render' : 'footage'] as const
      return { kind, name: key.slice(0, 12), written: at, aside: at }
    }
  }

  private async get(key: string) {
    const found = await this.find(key)
    if (!found) throw new Fault('not-found', 'This is not among what was set aside any more.')
    return found
  }

  /** Where its pictures lie. */
  async sourceOf(key: string): Promise<{ source: Source; name: string }> {
    const { about, thing, shown } = await this.get(key)
    if (about.info)
      return { source: sourceAt(thing, { sequence: about.sequence ?? '', info: about.info }), name: about.name }
    if (shown.single) return { source: { type: 'file', path: thing }, name: about.name }
    return { source: await this.sequenceAt(thing), name: about.name }
  }

  /** A folder of stills of which nothing else is known but that the store numbers them. */
  private async sequenceAt(thing: string): Promise<Source> {
    const names = await namesIn(thing)
    if (names.length === 0) throw new Fault('media', 'Nothing lies in this folder.')
    const info = { frames: names.length, fps: '24/1' }
    return sourceAt(thing, { sequence: extname(names[0]!), info })
  }

  /** Its file, to be fetched. */
  async fetch(key: string): Promise<{ name: string; bytes: number; open: () => ReturnType<typeof streamOwn> }> {
    const { thing, shown } = await this.get(key)
    if (!shown.single) throw new Fault('invalid', `${shown.name} is a folder of files, not one.`)
    return { name: shown.name, bytes: shown.bytes, open: () => streamOwn(thing) }
  }

  /** Makes it footage that the database knows, under the hash that it really has. */
  async take(key: string): Promise<Taken> {
    const { about, thing, shown } = await this.get(key)
    const sequence = shown.single ? '' : (about.sequence ?? extname((await namesIn(thing))[0] ?? ''))
    const sha256 = await hashOf(thing, sequence)
    const source = shown.single ? ({ type: 'file', path: thing } as const) : await this.sequenceAt(thing)
    const info = sha256 === key && about.info ? about.info : await describe(source, about.name)
    const taken = await this.store.adopt(thing, { sha256, name: about.name, size: shown.bytes, info, sequence })
    await this.drop(key)
    return taken
  }

  async drop(key: string): Promise<void> {
    await rm(join(this.folder, key), { recursive: true, force: true })
  }

  /**
   * Puts back what the database knows, and clears away what holds nothing.
   * @returns how many came back
   */
  async restore(): Promise<number> {
    let back = 0
    for (const key of await namesIn(this.folder)) {
      const found = await this.find(key)
      // A start was cut off between its two steps.
      if (!found) await this.drop(key)
      else if (found.about.kind === 'footage' && (await this.putBack(key, found.thing))) back++
    }
    return back
  }

  /** Where the database has it already, whole, the same bytes need not lie here as well. */
  private async putBack(key: string, thing: string): Promise<boolean> {
    const medium = await Medium.findOne({ where: { sha256: key } })
    if (!medium) return false
    const state = await this.store.health.look(medium)
    if (state !== 'missing' && (await hashOf(thing, medium.sequence)) !== key) return false
    if (state !== 'here') {
      const path = this.store.pathOf(key)
      await mkdir(dirname(path), { recursive: true })
      await rm(path, { recursive: true, force: true })
      await rename(thing, path)
      await writeNote(path, noteOf(medium))
    }
    await this.drop(key)
    return state !== 'here'
  }
}
