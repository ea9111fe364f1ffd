import { EventEmitter } from 'node:events'
import { mkdir } from 'node:fs/promises'
import { deliveryFormat } from '@fogbath/core/delivery'
import PQueue from 'p-queue'
import { Op, literal, type Order } from 'sequelize'
import type { RenderProgress, RenderState } from '@fogbath/contract'
import { Medium, Render, RenderPart } from '../db/models'
import { asRead } from '../db/shots'
import { Fault, sentenceOf } from '../errors'
import { soundOf } from '../media/sound'
import type { Footage, MediaStore } from '../media/store'
import { encodingRefOf } from '../shelf/encodings'
import { burnInOf, deliveryOf, notesOf } from './delivery'
import { RenderFiles } from './files'
import { makeJob } from './job'
import { isWhole, joinParts } from './join'
import { Pace } from './pace'
import { FramePool } from './pool'
import { runFrames } from './run'

/** When the rows are looked through again after the database did not answer, ms. */
const AGAIN_MS = 5000

/** Frames in one part: what a restart has to do again at most. */
const PART = 24

/**
 * Renders one after the other, each in parts. A part is a closed run of frames on disk and a row in the database, so a
 * render that was interrupted goes on behind its last whole part.
 */
export class RenderQueue extends EventEmitter<{ progress: [RenderProgress] }> {
  private readonly pool = new FramePool({ polite: true })
  private current: { readonly id: number; readonly abort: AbortController; ended: Promise<void> } | undefined
  /** One look through the rows at a time. */
  private readonly looks = new PQueue({ concurrency: 1 })
  private again: NodeJS.Timeout | undefined
  private closed = false
  private readonly pace = new Pace()
  readonly files: RenderFiles

  constructor(
    folder: string,
    private readonly store: MediaStore,
  ) {
    super()
    this.files = new RenderFiles(folder)
    this.setMaxListeners(100)
  }

  /** Has the rows looked through, now or after the look that is going on; it may have passed a new row already. */
  wake(): void {
    // One look that has not begun yet is enough for all that is there.
    if (this.closed || this.looks.size > 0) return
    clearTimeout(this.again)
    this.again = undefined
    this.looks.add(() => this.drain()).catch((error: unknown) => this.lookAgain(error))
  }

  /** The database did not answer: work goes on when it does. */
  private lookAgain(error: unknown): void {
    process.stderr.write(`fogbath: the renders could not be looked through: ${sentenceOf(error)}\n`)
    if (!this.closed) this.again = setTimeout(() => this.wake(), AGAIN_MS).unref()
  }

  /** What the queue is doing, in words. */
  state(): 'idle' | 'rendering' | 'waiting for the database' {
    if (this.again) return 'waiting for the database'
    return this.current ? 'rendering' : 'idle'
  }

  /** HD frames a second of the render that ended last; null before the first. */
  speed(): number | null {
    return this.pace.last
  }

  /** Stops after the frames under way; what was running goes on at the next start. */
  async close(): Promise<void> {
    this.closed = true
    clearTimeout(this.again)
    this.current?.abort.abort()
    await this.looks.onIdle()
    await this.pool.close()
  }

  async cancel(render: Render): Promise<void> {
    if (!(await this.turn(render, ['waiting', 'running'], 'cancelled')))
      throw new Fault('invalid', `Render ${render.id} is ${render.state} and cannot be cancelled.`)
    if (this.current?.id === render.id) {
      this.current.abort.abort()
      await this.current.ended
    }
    await this.clear(render)
    this.tell(render, render.done)
  }

  /**
   * Turns a render's state only if it still is one of those it is thought to be: whoever comes second finds it changed.
   * @returns whether it was turned; the row is as it is now either way
   */
  private async turn(render: Render, from: readonly RenderState[], to: RenderState, message = ''): Promise<boolean> {
    const where = { id: render.id, state: { [Op.in]: [...from] } }
    const [turned] = await Render.update({ state: to, message }, { where })
    await render.reload()
    return turned === 1
  }

  /** Puts a failed or cancelled render back in the row. */
  async retry(render: Render): Promise<void> {
    if (!(await this.turn(render, ['failed', 'cancelled'], 'waiting')))
      throw new Fault(
        'invalid',
        `Render ${render.id} is ${render.state}; only a failed or cancelled one can be retried.`,
      )
    this.tell(render, render.done)
    this.wake()
  }

  async remove(render: Render): Promise<void> {
    if (render.state === 'waiting' || render.state === 'running') await this.cancel(render)
    await this.clear(render)
    await render.destroy()
  }

  private async clear(render: Render): Promise<void> {
    await RenderPart.destroy({ where: { renderId: render.id } })
    await render.update({ done: 0 })
    await this.files.clear(render)
  }

  private async drain(): Promise<void> {
    for (;;) {
      if (this.closed) return
      const next = await this.next()
      if (!next) return
      const abort = new AbortController()
      const ended = this.work(next, abort)
      this.current = { id: next.id, abort, ended }
      await ended.finally(() => (this.current = undefined))
    }
  }

  /**
   * What was begun goes on first; the others in the order in which they were put in the row, the last time. One question, so
   * that no row can change between two.
   */
  private next(): Promise<Render | null> {
    const begun = literal("state = 'running'")
    const order: Order = [
      [begun, 'DESC'],
      [literal(`IF(${begun.val as string}, NULL, updated_at)`), 'ASC'],
      ['id', 'ASC'],
    ]
    return Render.findOne({ where: { state: ['running', 'waiting'] }, order })
  }

  private async work(render: Render, abort: AbortController): Promise<void> {
    try {
      if (!(await this.turn(render, ['waiting', 'running'], 'running'))) return
      await this.renderParts(render, abort.signal)
      // Parts go only when the render counts as done: until then they are what a restart begins with.
      if (await this.turn(render, ['running'], 'done')) await this.files.dropParts(render)
    } catch (error) {
      // Stopping the server leaves it running, to go on later; a cancelled render has its state already.
      if (!abort.signal.aborted) await this.turn(render, ['running'], 'failed', sentenceOf(error).slice(0, 500))
    } finally {
      this.pace.end(render.id, render.done)
      this.tell(render, render.done)
    }
  }

  private async renderParts(render: Render, signal: AbortSignal): Promise<void> {
    const row = await Medium.findByPk(render.mediumId)
    if (!row) throw new Fault('not-found', 'The footage of this render is gone.')
    const medium = asRead(row.toJSON(), render.reading)
    await mkdir(this.files.folderOf(render), { recursive: true })
    const parts = await RenderPart.findAll({ where: { renderId: render.id } })
    const whole = new Set(parts.map((p) => p.first))
    const end = render.first + render.count
    // Counted from the parts: the row may have been cut off from its last step by a kill.
    let done = parts.reduce((sum, p) => sum + p.count, 0)
    await render.update({ done })
    this.pace.begin(render.id, done, medium.info.width * medium.info.height)
    for (let first = render.first; first < end; first += PART) {
      const count = Math.min(PART, end - first)
      if (whole.has(first)) continue
      await this.renderPart(render, medium, first, count, signal, (n) => this.tell(render, done + n))
      done += count
      await RenderPart.create({ renderId: render.id, first, count })
      await render.update({ done })
    }
    if (deliveryFormat(render.format).moving) await this.join(render, medium)
  }

  private async renderPart(
    render: Render,
    medium: Footage,
    first: number,
    count: number,
    signal: AbortSignal,
    onFrame: (n: number) => void,
  ): Promise<void> {
    const { recipe, preparation, after, encoding } = render
    const order = { recipe, preparation, after, encoding: await encodingRefOf(encoding) }
    const delivery = deliveryOf(render)
    const job = makeJob(order, delivery, delivery.to === undefined ? undefined : await encodingRefOf(delivery.to))
    const { fps } = medium.info
    const target = {
      delivery,
      path: this.files.partOf(render, first),
      start: first,
      fps: fps.startsWith('0') ? '24' : fps,
      encoding: job.to,
      burnIn: burnInOf(render, medium, first),
    }
    await runFrames({
      source: this.store.sourceOf(medium),
      info: medium.info,
      first,
      count,
      job,
      target,
      pool: this.pool,
      polite: true,
      signal,
      onFrame,
    })
  }

  /** One that was joined already, before a restart, is taken as it is when it is whole. */
  private async join(render: Render, medium: Footage): Promise<void> {
    if (await isWhole(this.files.fileOf(render), render.count)) return
    const parts = await RenderPart.findAll({ where: { renderId: render.id }, order: [['first', 'ASC']] })
    const paths = parts.map((p) => this.files.partOf(render, p.first))
    const silent = deliveryOf(render).sound === false
    const sound = silent ? null : soundOf(this.store.sourceOf(medium), medium.info, render.first, render.count)
    await joinParts(paths, this.files.fileOf(render), render.format, sound, notesOf(render, medium))
  }

  progressOf(render: Render, done = render.done): RenderProgress {
    const { id, state, count, message } = render
    return { id, state, done, count, message, ...this.pace.of(id, done, count) }
  }

  private tell(render: Render, done: number): void {
    this.emit('progress', this.progressOf(render, done))
  }
}
