import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import type { StorageUse, Swept } from '@fogbath/contract'
import { QueryTypes, type Sequelize } from 'sequelize'
import { Medium, Render } from '../db/models'
import { ageOf, bytesOf, namesIn } from '../files/own'
import { INCOMING, type MediaStore } from '../media/store'
import { Aside } from './aside'
import { FootageUse } from './footage'
import { RULES, isRest, type Places } from './rules'

const HOUR = 3_600_000
/** What is found at once in lists of footage; the rest is counted. */
const MOST_LISTED = 200

interface StorageOptions {
  /** Whether something is being worked on at this moment, besides uploads. */
  readonly isOpen?: (path: string) => boolean
  readonly unusedDays?: number | null
}

/** What lies in the data folder, what of it nobody needs any more, and what the database does not know. */
export class Storage {
  readonly aside: Aside
  private readonly footage: FootageUse

  constructor(
    private readonly data: string,
    private readonly db: Sequelize,
    private readonly store: MediaStore,
    private readonly options: StorageOptions = {},
  ) {
    this.aside = new Aside(join(data, 'unknown'), store)
    this.footage = new FootageUse(db, store, options.unusedDays ?? null)
  }

  async use(): Promise<Omit<StorageUse, 'backups' | 'proxies'>> {
    // Sizes are kept as numbers: the pictures and steps themselves would have to be read to be measured.
    const [row] = await this.db.query<{ proofs: string | null; steps: string | null; footage: string | null }>(
      'SELECT (SELECT SUM(bytes) FROM proof) AS proofs, (SELECT SUM(bytes) FROM edit) AS steps, (SELECT SUM(size) FROM medium) AS footage',
      { type: QueryTypes.SELECT },
    )
    const [cache, renders, canGo, unknown, unused, lost] = await Promise.all([
      bytesOf(join(this.data, 'cache')),
      bytesOf(join(this.data, 'renders')),
      this.leftOver(),
      this.aside.list(),
      this.footage.unused(),
      this.footage.lost(),
    ])
    return {
      footage: Number(row?.footage ?? 0),
      cache,
      renders,
      proofs: Number(row?.proofs ?? 0),
      undo: Number(row?.steps ?? 0),
      canGo,
      unknown,
      lost,
      unused: unused.slice(0, MOST_LISTED),
      moreUnused: Math.max(0, unused.length - MOST_LISTED),
      unusedDays: this.options.unusedDays ?? null,
    }
  }

  /** Removes what is left over. @param onlyLook removes nothing */
  async sweep(onlyLook: boolean): Promise<Swept[]> {
    if (onlyLook) return this.leftOver()
    await this.aside.restore()
    await this.setUnknownAside({ young: false })
    await this.footage.noteUses()
    return this.leftOver(true)
  }

  /**
   * @param young also what was written within the hour, which may be on its way to a row
   * @returns how many were set aside
   */
  private async setUnknownAside({ young }: { young: boolean }): Promise<number> {
    const { known, renders } = await this.places()
    const media = join(this.data, 'media')
    let count = 0
    for (const shelf of (await namesIn(media)).filter((name) => !name.startsWith(INCOMING)))
      for (const name of await namesIn(join(media, shelf))) {
        const path = join(media, shelf, name)
        if (!/^[0-9a-f]{64}$/.test(name) || known.has(name) || (!young && (await ageOf(path)) < HOUR)) continue
        await this.aside.setFootage(path, name)
        count++
      }
    for (const id of await namesIn(join(this.data, 'renders'))) {
      const path = join(this.data, 'renders', id)
      if (renders.has(id) || (await namesIn(path)).every(isRest) || (!young && (await ageOf(path)) < HOUR)) continue
      await this.aside.setRender(path, id)
      count++
    }
    return count
  }

  /** At the start, when nothing is on its way: what has a row again comes back, what has none is set aside. @returns how much of each */
  async settle(): Promise<{ back: number; aside: number }> {
    return { back: await this.aside.restore(), aside: await this.setUnknownAside({ young: true }) }
  }

  /** A new render gets its folder empty: one that lies there was made under another database. */
  async freeRender(id: number): Promise<void> {
    const path = join(this.data, 'renders', String(id))
    if ((await namesIn(path)).length > 0) await this.aside.setRender(path, String(id))
  }

  private async places(): Promise<Places> {
    const media = await Medium.findAll({ attributes: ['sha256'] })
    const rows = await Render.findAll({ attributes: ['id', 'state'] })
    return {
      data: this.data,
      store: this.store,
      known: new Set(media.map((m) => m.sha256)),
      renders: new Map(rows.map((r) => [String(r.id), r.state])),
      isOpen: this.options.isOpen ?? (() => false),
    }
  }

  private async leftOver(remove = false): Promise<Swept[]> {
    const places = await this.places()
    const swept: Swept[] = []
    for (const { kind, find } of RULES) {
      const paths = await find(places)
      if (paths.length === 0) continue
      let bytes = 0
      for (const path of paths) {
        bytes += await bytesOf(path)
        if (remove) await rm(path, { recursive: true, force: true })
      }
      swept.push({ kind, count: paths.length, bytes })
    }
    return swept
  }
}
