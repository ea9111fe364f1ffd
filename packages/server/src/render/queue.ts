import { EventEmitter } from 'node:events'
import PQueue from 'p-queue'
import { Op, literal, type Order } from 'sequelize'
import type { RenderProgress, RenderState } from '@fogbath/contract'
import { Render, RenderPart } from '../db/models'
import { Fault, sentenceOf } from '../errors'
import type { MediaStore } from '../media/store'
import { Deliveries } from './deliveries'
import { RenderFiles } from './files'
import { Pace } from './pace'
import { FramePool } from './pool'
import { renderAll } from './work'

/** When the rows are looked through again after the database did not answer, ms. */
const AGAIN_MS = 5000

const IN_LINE = ['running', 'waiting', 'paused'] as const satisfies readonly RenderState[]
/** What was begun goes on first; the others as they stand in line. */
const ORDER: Order = [
  [literal("state = 'running'"), 'DESC'],
  ['place', 'ASC'],
  ['id', 'ASC'],
]

/** The place behind all others. */
export const lastPlace = async (): Promise<number> => ((await Render.max<number | null, Render>('place')) ?? 0) + 1

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
  readonly deliveries: Deliveries

  /** @param folder where renders lie @param deliveries the folder that they are put into by choice */
  constructor(
    folder: string,
    private readonly store: MediaStore,
    deliveries: string,
  ) {
    super()
    this.files = new RenderFiles(folder)
    this.deliveries = new Deliveries(deliveries, this.files)
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
    await this.stop(render, ['waiting', 'running', 'paused'], 'cancelled')
    await this.clear(render)
    this.tell(render, render.done)
  }

  /** Stands aside with the parts that it has, until it is taken up again. */
  async pause(render: Render): Promise<void> {
    await this.stop(render, ['waiting', 'running'], 'paused')
    this.tell(render, render.done)
    this.wake()
  }

  /** Back to where it stood in line. */
  async resume(render: Render): Promise<void> {
    if (!(await this.turn(render, ['paused'], 'waiting')))
      throw new Fault('invalid', `Render ${render.id} is ${render.state}; only a paused one can go on.`)
    this.tell(render, render.done)
    this.wake()
  }

  private async stop(render: Render, from: readonly RenderState[], to: 'cancelled' | 'paused'): Promise<void> {
    if (!(await this.turn(render, from, to)))
      throw new Fault('invalid', `Render ${render.id} is ${render.state} and cannot be ${to}.`)
    if (this.current?.id !== render.id) return
    this.current.abort.abort()
    await this.current.ended
    await render.reload()
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
    const place = await lastPlace()
    if (!(await this.turn(render, ['failed', 'cancelled'], 'waiting')))
      throw new Fault(
        'invalid',
        `Render ${render.id} is ${render.state}; only a failed or cancelled one can be retried.`,
      )
    await render.update({ place })
    this.tell(render, render.done)
    this.wake()
  }

  /** Renders that are not done, the next one first. */
  line(): Promise<Render[]> {
    return Render.findAll({ where: { state: [...IN_LINE] }, order: ORDER })
  }

  /** Puts those in line in an order: they share out the places that they had. */
  async reorder(ids: readonly number[]): Promise<Render[]> {
    const line = await this.line()
    const moved = ids.map((id) => {
      const render = line.find((r) => r.id === id)
      if (!render) throw new Fault('invalid', `Render ${id} is not in line.`)
      return render
    })
    if (new Set(ids).size < ids.length) throw new Fault('invalid', 'A render stands in the order twice.')
    const places = moved.map((r) => r.place).sort((a, b) => a - b)
    for (const [i, render] of moved.entries()) await render.update({ place: places[i]! })
    return this.line()
  }

  async remove(render: Render): Promise<void> {
    if (IN_LINE.some((state) => state === render.state)) await this.cancel(render)
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

  /** One question, so that no row can change between two. */
  private next(): Promise<Render | null> {
    return Render.findOne({ where: { state: ['running', 'waiting'] }, order: ORDER })
  }

  private async work(render: Render, abort: AbortController): Promise<void> {
    try {
      if (!(await this.turn(render, ['waiting', 'running'], 'running'))) return
      await renderAll(render, {
        files: this.files,
        store: this.store,
        pool: this.pool,
        signal: abort.signal,
        onBegin: (done, pixels) => this.pace.begin(render.id, done, pixels),
        onFrame: (done) => this.tell(render, done),
      })
      const message = render.put ? await this.deliveries.put(render) : ''
      // Parts go only when the render counts as done: until then they are what a restart begins with.
      if (await this.turn(render, ['running'], 'done', message)) await this.files.dropParts(render)
    } catch (error) {
      // Stopping the server leaves it running, to go on later; a cancelled render has its state already.
      if (!abort.signal.aborted) await this.turn(render, ['running'], 'failed', sentenceOf(error).slice(0, 500))
    } finally {
      this.pace.end(render.id, render.done)
      this.tell(render, render.done)
    }
  }

  progressOf(render: Render, done = render.done): RenderProgress {
    const { id, state, count, message } = render
    return { id, state, done, count, message, ...this.pace.of(id, done, count) }
  }

  private tell(render: Render, done: number): void {
    this.emit('progress', this.progressOf(render, done))
  }
}
