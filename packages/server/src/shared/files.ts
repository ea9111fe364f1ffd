import { mkdir } from 'node:fs/promises'
import { join } from 'node:path'
import type { SharedRecipe } from '@fogbath/core/shelf'
import { Fault, sentenceOf } from '../errors'
import { listInside, openInside, readText, type Folder } from '../files/inside'
import { fullDisk, writeWhole } from '../files/writing'
import { marksOf } from '../shelf/versions'
import { parseShared } from '../validate'

/** Largest shared file that is read, bytes. */
const MOST_BYTES = 20e6
/** Most files of a shared folder that are looked at. */
const MOST_FILES = 2000
/** Bytes of new files that are read for one list; the next list goes on behind them. */
const AT_ONCE = 24e6

/** What is kept in mind of a file: enough to say what it is to the shelf, not what it holds. */
export interface SharedFile {
  readonly file: string
  readonly key: string
  readonly name: string | null
  /** What its versions do, see `marksOf`. */
  readonly marks: readonly string[]
  /** Why it cannot be read, or null. */
  readonly problem: string | null
}

interface Known {
  readonly mark: string
  readonly found: SharedFile
}

/** The folder that a team shares recipes in; files are read again only where they have changed. */
export class SharedFolder {
  private known = new Map<string, Known>()
  private listing: Promise<{ files: SharedFile[]; left: number }> | null = null
  private readonly place: Folder

  constructor(readonly folder: string) {
    this.place = { path: folder, name: 'the shared folder' }
  }

  /** All recipes in it, in the order of their names, and how many files have not been read yet. */
  list(): Promise<{ files: SharedFile[]; left: number }> {
    // Several pages look every few seconds: one look serves them all.
    this.listing ??= this.look().finally(() => (this.listing = null))
    return this.listing
  }

  private async look(): Promise<{ files: SharedFile[]; left: number }> {
    const chosen = (path: string): boolean => /^[^.].*\.json$/i.test(path)
    const { files, left } = await listInside(this.place, { deep: false, most: MOST_FILES, chosen })
    const next = new Map<string, Known>()
    let read = 0
    for (const { path: file, size, mtimeMs } of files) {
      const mark = `${size} ${mtimeMs}`
      const before = this.known.get(file)
      if (before?.mark === mark) next.set(file, before)
      else if (read === 0 || read + size <= AT_ONCE) {
        read += Math.min(size, MOST_BYTES)
        next.set(file, { mark, found: await this.brief(file) })
      }
    }
    this.known = next
    return { files: [...next.values()].map(({ found }) => found), left: left + files.length - next.size }
  }

  private async brief(file: string): Promise<SharedFile> {
    try {
      const { key, name, versions } = await this.read(file)
      return { file, key, name, marks: marksOf(versions.map((v) => v.recipe)), problem: null }
    } catch (error) {
      return { file, key: '', name: null, marks: [], problem: sentenceOf(error) }
    }
  }

  /** One of its files. Throws a sentence that names it. */
  async read(file: string): Promise<SharedRecipe> {
    return parseShared(await readText(openInside(this.place, file), MOST_BYTES, file), file)
  }

  /** Puts a recipe into the folder, under a name that no file there has. @returns the name */
  async add(recipe: SharedRecipe): Promise<string> {
    const text = `${JSON.stringify(recipe, null, 2)}\n`
    const plain =
      recipe.name
        .replace(/[^\p{L}\p{N}]+/gu, '-')
        .replace(/^-|-$/g, '')
        .toLowerCase() || 'recipe'
    const stem = `${plain.slice(0, 60)}-v${recipe.versions.length}`
    for (let n = 1; n < 100; n++) {
      const file = n === 1 ? `${stem}.json` : `${stem}-${n}.json`
      if ((await this.put(file, text)) || (await this.holds(file, text))) return file
    }
    throw new Fault('busy', `The shared folder ${this.folder} has a hundred files of this name.`)
  }

  /** @returns whether the name was free */
  private async put(file: string, text: string): Promise<boolean> {
    try {
      await mkdir(this.folder, { recursive: true })
      await writeWhole(join(this.folder, file), text, { fresh: true })
      return true
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code === 'EEXIST') return false
      if (error instanceof Fault) throw error
      throw (
        fullDisk(error, file) ??
        new Fault('denied', `The shared folder ${this.folder} cannot be written: ${(error as Error).message}`)
      )
    }
  }

  private async holds(file: string, text: string): Promise<boolean> {
    return (await readText(openInside(this.place, file), MOST_BYTES, file).catch(() => null)) === text
  }
}
