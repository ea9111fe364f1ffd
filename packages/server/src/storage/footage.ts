import type { ListedFootage } from '@fogbath/contract'
import type { Sequelize } from 'sequelize'
import { Medium } from '../db/models'
import { noteOf } from '../media/health'
import { readNote, writeNote, type FootageNote } from '../media/notes'
import type { MediaStore } from '../media/store'

const DAY = 24 * 3_600_000

/** Renders that are made of footage, alone or as one of several shots. @param id of the footage, a number or a column */
export const rendersOf = (id: number | '`Medium`.id'): string =>
  `(medium_id = ${id} OR JSON_CONTAINS(pieces, JSON_OBJECT('mediumId', ${id})))`

const USED = `(EXISTS (SELECT 1 FROM shot WHERE medium_id = \`Medium\`.id) OR EXISTS (SELECT 1 FROM render WHERE ${rendersOf('`Medium`.id')}))`

/** Which footage shots and renders use, and which of that is not where it should be. */
export class FootageUse {
  constructor(
    private readonly db: Sequelize,
    private readonly store: MediaStore,
    /** Days after which unused footage goes; null for never. */
    private readonly unusedDays: number | null,
  ) {}

  async unused(): Promise<ListedFootage[]> {
    return this.listed(await this.find(`NOT ${USED}`))
  }

  /** In use, and missing or damaged. */
  async lost(): Promise<ListedFootage[]> {
    return (await this.listed(await this.find(USED))).filter(({ state }) => state !== 'here')
  }

  private find(where: string): Promise<Medium[]> {
    return Medium.findAll({ where: this.db.literal(where) as never, order: [['id', 'DESC']] })
  }

  private listed(media: readonly Medium[]): Promise<ListedFootage[]> {
    return Promise.all(
      media.map(async (medium) => ({
        id: medium.id,
        name: medium.name,
        bytes: medium.size,
        since: medium.createdAt.toISOString(),
        state: await this.store.health.look(medium),
      })),
    )
  }

  /**
   * Since when footage is unused is written beside it and not into the database, which may be an older one. Where a person
   * has asked for it, what was unused for so many days goes.
   */
  async noteUses(): Promise<void> {
    for (const medium of await this.find(USED)) await this.note(medium, null)
    for (const medium of await this.find(`NOT ${USED}`)) {
      const since = await this.note(medium, new Date().toISOString())
      const late = this.unusedDays !== null && since !== null && Date.now() - Date.parse(since) > this.unusedDays * DAY
      // A shot that came to use it meanwhile keeps it: then the row cannot go.
      if (late) await this.store.drop(medium).catch(() => undefined)
    }
  }

  /** @returns since when it is unused, as far as that was seen before */
  private async note(medium: Medium, now: string | null): Promise<string | null> {
    if ((await this.store.health.look(medium)) === 'missing') return null
    const path = this.store.pathOf(medium.sha256)
    const before = await readNote(path)
    const { unusedSince, ...rest }: FootageNote = before ?? noteOf(medium)
    const since = now === null ? null : (unusedSince ?? now)
    if (!before || since !== (unusedSince ?? null))
      await writeNote(path, since === null ? rest : { ...rest, unusedSince: since })
    return since
  }
}
