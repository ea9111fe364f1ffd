import { mkdir, readFile, readdir, stat, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { SharedRecipe } from '@fogbath/core'
import { Fault, sentenceOf } from '../errors'
import { parseShared } from '../validate'

/** Largest shared file that is read, bytes. */
const MOST_BYTES = 20e6
/** Most files of a shared folder that are looked at. */
const MOST_FILES = 2000

/** A file of the shared folder: what it holds, or why it cannot be read. */
export interface SharedFile {
  readonly file: string
  readonly recipe: SharedRecipe | null
  readonly problem: string | null
}

/** The folder that a team shares recipes in; files are read again only where they have changed. */
export class SharedFolder {
  private known = new Map<string, { mark: string; found: SharedFile }>()

  constructor(readonly folder: string) {}

  /** All recipes in it, in the order of their names. */
  async list(): Promise<SharedFile[]> {
    const names = await readdir(this.folder).catch(() => {
      throw new Fault('not-found', `The shared folder ${this.folder} cannot be read.`)
    })
    const files = names.filter((name) => /^[^.].*\.json$/i.test(name)).sort()
    const next: typeof this.known = new Map()
    for (const file of files.slice(0, MOST_FILES)) {
      const found = await this.look(file)
      if (found) next.set(file, found)
    }
    this.known = next
    return [...next.values()].map(({ found }) => found)
  }

  /** A file as it is now; null where it has gone meanwhile. */
  private async look(file: string): Promise<{ mark: string; found: SharedFile } | null> {
    const info = await stat(join(this.folder, file)).catch(() => null)
    if (!info?.isFile()) return null
    const mark = `${info.size} ${info.mtimeMs}`
    const before = this.known.get(file)
    return before?.mark === mark ? before : { mark, found: await this.read(file, info.size) }
  }

  private async read(file: string, size: number): Promise<SharedFile> {
    try {
      if (size > MOST_BYTES) throw new Fault('invalid', `${file} is larger than ${MOST_BYTES / 1e6} MB.`)
      return { file, recipe: parseShared(await readFile(join(this.folder, file), 'utf8'), file), problem: null }
    } catch (error) {
      return { file, recipe: null, problem: sentenceOf(error) }
    }
  }

  /** Puts a recipe into the folder, under a name that no file there has. @returns the name */
  async add(recipe: SharedRecipe): Promise<string> {
    await mkdir(this.folder, { recursive: true })
    const text = `${JSON.stringify(recipe, null, 2)}\n`
    const plain =
      recipe.name
        .replace(/[^\p{L}\p{N}]+/gu, '-')
        .replace(/^-|-$/g, '')
        .toLowerCase() || 'recipe'
    const stem = `${plain.slice(0, 60)}-v${recipe.versions.length}`
    for (let n = 1; n < 100; n++) {
      const file = n === 1 ? `${stem}.json` : `${stem}-${n}.json`
      try {
        await writeFile(join(this.folder, file), text, { flag: 'wx' })
        return file
      } catch (error) {
        if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw this.refused(error)
        if ((await readFile(join(this.folder, file), 'utf8')) === text) return file
      }
    }
    throw new Fault('busy', `The shared folder ${this.folder} has a hundred files of this name.`)
  }

  private refused(error: unknown): Fault {
    return new Fault('denied', `The shared folder ${this.folder} cannot be written: ${(error as Error).message}`)
  }
}
