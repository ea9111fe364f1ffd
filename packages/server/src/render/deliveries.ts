import { randomUUID } from 'node:crypto'
import { mkdir, rename, rm, stat } from 'node:fs/promises'
import { join } from 'node:path'
import { deliveryFormat } from '@fogbath/core/delivery'
import type { Render } from '../db/models'
import { sentenceOf } from '../errors'
import { namesIn } from '../files/own'
import { copyWhole } from '../files/writing'
import type { RenderFiles } from './files'

type Named = Pick<Render, 'label' | 'format'>

/** The folder of this machine that finished renders are put into by choice: a clip, or a folder of stills, by its name. */
export class Deliveries {
  constructor(
    readonly folder: string,
    private readonly files: RenderFiles,
  ) {}

  pathOf({ label, format }: Named): string {
    const { moving, ending } = deliveryFormat(format)
    return join(this.folder, moving ? `${label}.${ending}` : label)
  }

  /** Whether something has the name already. */
  has = (named: Named): Promise<boolean> =>
    stat(this.pathOf(named)).then(
      () => true,
      () => false,
    )

  /** @returns why it could not be put there; nothing where it was. The render itself stays as it is either way. */
  async put(render: Render): Promise<string> {
    try {
      await mkdir(this.folder, { recursive: true })
      const over = render.put === 'over'
      if (deliveryFormat(render.format).moving)
        await copyWhole(this.files.fileOf(render), this.pathOf(render), { fresh: !over })
      else await this.putStills(render, over)
      return ''
    } catch (error) {
      const there = ['EEXIST', 'ENOTEMPTY', 'ENOTDIR'].includes((error as NodeJS.ErrnoException).code ?? '')
      const why = there ? 'something there has that name already' : sentenceOf(error).replace(/\.$/, '')
      return `It is not in ${this.folder}: ${why}. Download it, or render it once more.`.slice(0, 500)
    }
  }

  /** New ones come as a folder that is whole; over others they come one by one, and what else lies there stays. */
  private async putStills(render: Render, over: boolean): Promise<void> {
    const from = this.files.folderOf(render)
    const to = this.pathOf(render)
    const names = await this.files.stillsOf(render)
    const half = `${join(this.folder, `.${render.label.slice(0, 100)}`)}.${randomUUID().slice(0, 8)}.part`
    const into = over && (await namesIn(to)).length > 0 ? to : half
    try {
      await mkdir(into, { recursive: true })
      for (const name of names) await copyWhole(join(from, name), join(into, name))
      // A folder is moved only to where nothing is, or an empty one.
      if (into === half) await rename(half, to)
    } finally {
      await rm(half, { recursive: true, force: true })
    }
  }
}
