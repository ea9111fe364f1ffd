import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { Op, QueryTypes, type Sequelize } from 'sequelize'
import { Medium, Render } from '../db/models'
import type { MediaStore } from '../media/store'
import { ageOf, bytesOf, namesIn } from './disk'

const HOUR = 3_600_000
const DAY = 24 * HOUR

/** What is left over and can go. */
export type LeftOverKind = 'upload' | 'footage' | 'cache' | 'render' | 'import'

interface LeftOver {
  readonly kind: LeftOverKind
  readonly path: string
  /** The row that goes with it. */
  readonly medium?: Medium
}

export interface Swept {
  readonly kind: LeftOverKind
  readonly count: number
  readonly bytes: number
}

export interface StorageUse {
  readonly footage: number
  readonly cache: number
  readonly renders: number
  readonly proofs: number
  readonly undo: number
  readonly canGo: readonly Swept[]
}

/**
 * What lies in the data folder, and what of it nobody needs any more: uploads that were cut off (an hour old), footage
 * that no shot and no render uses (a day old), files without a row, caches of footage that is gone, frames half written,
 * what cancelled renders and joined parts left behind, and backups that were brought in and not taken (a day old).
 */
export class Storage {
  constructor(
    private readonly data: string,
    private readonly db: Sequelize,
    private readonly store: MediaStore,
  ) {}

  async use(): Promise<StorageUse> {
    const [row] = await this.db.query<{ proofs: string | null; steps: string | null }>(
      'SELECT (SELECT SUM(LENGTH(picture)) FROM proof) AS proofs, (SELECT SUM(LENGTH(step)) FROM edit) AS steps',
      { type: QueryTypes.SELECT },
    )
    return {
      footage: await bytesOf(join(this.data, 'media')),
      cache: await bytesOf(join(this.data, 'cache')),
      renders: await bytesOf(join(this.data, 'renders')),
      ...{ proofs: Number(row?.proofs ?? 0), undo: Number(row?.steps ?? 0) },
      canGo: await this.sweep(true),
    }
  }

  /**
   * Removes what is left over.
   * @param onlyLook removes nothing
   * @param unasked footage stays where the database knows of none at all: then it is rather the database that is gone
   */
  async sweep(onlyLook: boolean, unasked = false): Promise<Swept[]> {
    const sums = new Map<LeftOverKind, { count: number; bytes: number }>()
    const spared = unasked && (await Medium.count()) === 0
    for (const found of await this.leftOver()) {
      if (spared && found.kind === 'footage') continue
      const bytes = await bytesOf(found.path)
      if (!onlyLook) await this.remove(found)
      const sum = sums.get(found.kind) ?? { count: 0, bytes: 0 }
      sums.set(found.kind, { count: sum.count + 1, bytes: sum.bytes + bytes })
    }
    return [...sums].map(([kind, sum]) => ({ kind, ...sum }))
  }

  private async remove({ path, medium }: LeftOver): Promise<void> {
    // A shot that came to use it meanwhile keeps it: then the row cannot go.
    if (medium) await this.store.drop(medium).catch(() => undefined)
    else await rm(path, { recursive: true, force: true })
  }

  private async leftOver(): Promise<LeftOver[]> {
    const media = await Medium.findAll({ attributes: ['sha256'] })
    const known = new Set(media.map((m) => m.sha256))
    return [
      ...(await this.uploads()),
      ...(await this.strayFootage(known)),
      ...(await this.unusedFootage()),
      ...(await this.caches(known)),
      ...(await this.renders()),
      ...(await this.in('imports', 'import', DAY, () => true)),
    ]
  }

  private uploads(): Promise<LeftOver[]> {
    return this.in('media', 'upload', HOUR, (name) => name.startsWith('incoming-'))
  }

  private async strayFootage(known: ReadonlySet<string>): Promise<LeftOver[]> {
    const found: LeftOver[] = []
    for (const shelf of (await namesIn(join(this.data, 'media'))).filter((name) => /^[0-9a-f]{2}$/.test(name)))
      found.push(...(await this.in(join('media', shelf), 'footage', HOUR, (name) => !known.has(name))))
    return found
  }

  private async unusedFootage(): Promise<LeftOver[]> {
    const media = await Medium.findAll({
      where: {
        updatedAt: { [Op.lt]: new Date(Date.now() - DAY) },
        [Op.and]: this.db.literal(
          'NOT EXISTS (SELECT 1 FROM shot WHERE medium_id = `Medium`.id) AND NOT EXISTS (SELECT 1 FROM render WHERE medium_id = `Medium`.id)',
        ),
      },
    } as never)
    return media.map((medium) => ({ kind: 'footage', path: this.store.pathOf(medium.sha256), medium }))
  }

  /** Caches of footage that is gone, and frames that were being written when the server was killed. */
  private async caches(known: ReadonlySet<string>): Promise<LeftOver[]> {
    const found = await this.in('cache', 'cache', HOUR, (name) => !known.has(name))
    for (const name of await namesIn(join(this.data, 'cache')))
      for (const width of known.has(name) ? await namesIn(join(this.data, 'cache', name)) : [])
        found.push(...(await this.in(join('cache', name, width), 'cache', HOUR, (frame) => frame.endsWith('.part'))))
    return found
  }

  private async renders(): Promise<LeftOver[]> {
    const rows = await Render.findAll({ attributes: ['id', 'state'] })
    const states = new Map(rows.map((r) => [String(r.id), r.state]))
    const gone = await this.in('renders', 'render', HOUR, (id) => !states.has(id) || states.get(id) === 'cancelled')
    const parts: LeftOver[] = []
    for (const [id, state] of states)
      if (state === 'done')
        parts.push(...(await this.in(join('renders', id), 'render', HOUR, (name) => name.startsWith('part'))))
    return [...gone, ...parts]
  }

  /** Things in a folder that are older than some time. */
  private async in(
    folder: string,
    kind: LeftOverKind,
    ms: number,
    chosen: (name: string) => boolean,
  ): Promise<LeftOver[]> {
    const paths = (await namesIn(join(this.data, folder))).filter(chosen).map((name) => join(this.data, folder, name))
    const old = await Promise.all(paths.map(async (path) => (await ageOf(path)) > ms))
    return paths.filter((_, i) => old[i]).map((path) => ({ kind, path }))
  }
}
