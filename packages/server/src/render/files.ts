import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { deliveryFormat } from '@fogbath/core/delivery'
import type { Render } from '../db/models'
import { namesIn } from '../files/own'

/** Where the files of renders lie: a folder each, in it the parts of a clip and the clip, or the numbered stills. */
export class RenderFiles {
  constructor(readonly folder: string) {}

  folderOf(render: Pick<Render, 'id'>): string {
    return join(this.folder, String(render.id))
  }

  /** The finished clip; numbered stills lie in the folder itself. */
  fileOf(render: Pick<Render, 'id' | 'format'>): string {
    return join(this.folderOf(render), `render.${deliveryFormat(render.format).ending}`)
  }

  /** What a part is written to: a clip of its own, or stills numbered by their frames. */
  partOf(render: Pick<Render, 'id' | 'format'>, first: number): string {
    const { moving, ending } = deliveryFormat(render.format)
    const name = moving ? `part-${String(first).padStart(8, '0')}` : 'frame.%06d'
    return join(this.folderOf(render), `${name}.${ending}`)
  }

  /** Names of its stills, in order. */
  async stillsOf(render: Pick<Render, 'id' | 'format'>): Promise<string[]> {
    const { ending } = deliveryFormat(render.format)
    return (await namesIn(this.folderOf(render))).filter((name) => name.endsWith(`.${ending}`)).sort()
  }

  /** Removes what a clip was joined from. */
  async dropParts(render: Pick<Render, 'id' | 'format'>): Promise<void> {
    const folder = this.folderOf(render)
    const parts = (await namesIn(folder)).filter((name) => name.startsWith('part'))
    await Promise.all(parts.map((name) => rm(join(folder, name), { force: true })))
  }

  clear(render: Pick<Render, 'id'>): Promise<void> {
    return rm(this.folderOf(render), { recursive: true, force: true })
  }
}
