import { randomUUID } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { mkdir, rename, rm } from 'node:fs/promises'
import { basename, join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import type { Import } from '@fogbath/contract'
import type { Sequelize } from 'sequelize'
import { Medium } from '../db/models'
import { Fault, sentenceOf } from '../errors'
import { readOwn, namesIn } from '../files/own'
import { fullDisk, writeWhole } from '../files/writing'
import type { MediaStore } from '../media/store'
import { checkText } from '../outside/texts'
import { inTurn } from '../shelf/versions'
import { applyBackup } from './apply'
import { previewOf, takenBefore } from './preview'
import { ProveThread } from './thread'
import type { Proved } from './unpacked'

/**
 * A backup that was brought in. It is being proved, waits to be taken in or put away, is being taken in, is taken, or
 * failed. All of that goes on whether or not anybody asks for it.
 */
interface Job {
  shown: Import
  proved: Proved | null
  fault: unknown
  readonly abort: AbortController
  /** Settles when what goes on with it has come to an end. */
  work: Promise<void>
}

/** Those that are told of when all is over with them. */
const MOST_ENDED = 20
const PROVED = 'proved.json'
const ARCHIVE = 'backup.zip'

export class Imports {
  private readonly jobs = new Map<string, Job>()
  private readonly thread = new ProveThread()
  private closing = false

  constructor(
    private readonly folder: string,
    private readonly db: Sequelize,
    private readonly store: MediaStore,
    /** Whoever asks for one waits no longer than this, ms; after that they look again. */
    private readonly patience = 10_000,
  ) {}

  /** Whether something is being done in a folder at this moment. */
  isOpen(path: string): boolean {
    const state = this.jobs.get(basename(path))?.shown.state
    return state === 'proving' || state === 'taking'
  }

  list(): Import[] {
    return [...this.jobs.values()].map((job) => job.shown)
  }

  get(key: string): Import {
    return this.find(key).shown
  }

  private find(key: string): Job {
    const job = this.jobs.get(key)
    if (!job) throw new Fault('not-found', 'This backup is not waiting any more; bring it in again.')
    return job
  }

  /** Takes up what a start finds: proved ones wait, those that came whole are proved. */
  async resume(): Promise<void> {
    for (const key of await namesIn(this.folder)) {
      const folder = join(this.folder, key)
      const names = await namesIn(folder)
      const name = ARCHIVE
      if (names.includes(ARCHIVE)) this.begin(key, name, (job) => this.prove(job, folder))
      else if (names.includes(PROVED)) this.begin(key, name, (job) => this.wait(job, folder))
    }
  }

  /** @param name in messages */
  async receive(stream: Readable, name: string): Promise<Import> {
    const label = basename(name).slice(0, 255)
    checkText(label, 'The name of the file')
    const key = randomUUID()
    const folder = join(this.folder, key)
    const half = join(folder, `${ARCHIVE}.part`)
    try {
      await mkdir(folder, { recursive: true })
      // Part of an upload must be read to its end even when it is refused; so the stream is left whole.
      await pipeline(stream.iterator({ destroyOnReturn: false }), createWriteStream(half))
      if ((stream as { truncated?: boolean }).truncated)
        throw new Fault('media', `${label} is larger than what is taken in.`)
      await rename(half, join(folder, ARCHIVE))
    } catch (error) {
      await rm(folder, { recursive: true, force: true })
      throw fullDisk(error, label) ?? error
    }
    return this.begin(key, label, (job) => this.prove(job, folder)).shown
  }

  private begin(key: string, name: string, work: (job: Job) => Promise<void>): Job {
    const shown: Import = {
      key,
      name,
      state: 'proving',
      done: 0,
      of: 0,
      preview: null,
      productions: null,
      message: null,
    }
    const job: Job = { shown, proved: null, fault: null, abort: new AbortController(), work: Promise.resolve() }
    this.jobs.set(key, job)
    job.work = this.going(job, work)
    this.forgetEnded()
    return job
  }

  /** Runs work on one; what goes wrong is kept with it. */
  private async going(job: Job, work: (job: Job) => Promise<void>): Promise<void> {
    try {
      await work(job)
    } catch (error) {
      job.fault = error
      job.shown = { ...job.shown, state: 'failed', message: sentenceOf(error) }
    }
  }

  private async prove(job: Job, folder: string): Promise<void> {
    const here = (await Medium.findAll({ attributes: ['sha256'] })).map((m) => m.sha256)
    const task = { file: join(folder, ARCHIVE), folder: join(folder, 'unpacked'), label: job.shown.name, here }
    const tell = (done: number, of: number): void => void (job.shown = { ...job.shown, done, of })
    try {
      await rm(task.folder, { recursive: true, force: true })
      await mkdir(task.folder)
      const proved = await this.thread.prove(task, tell, job.abort.signal)
      await writeWhole(join(folder, PROVED), JSON.stringify(proved))
      await rm(task.file)
    } catch (error) {
      if (!this.closing) await rm(folder, { recursive: true, force: true })
      throw error
    }
    await this.wait(job, folder)
  }

  private async wait(job: Job, folder: string): Promise<void> {
    job.proved = JSON.parse((await readOwn(join(folder, PROVED))).toString('utf8')) as Proved
    const preview = await previewOf(job.proved, join(folder, 'unpacked'), this.store)
    job.shown = { ...job.shown, state: 'waiting', preview }
  }

  /**
   * Takes one in, in the background; it is gone afterwards. One that is being taken in, or was taken in before, is not taken
   * in twice.
   * @param again takes it in although it was taken in before
   * @param waiting lets shots wait for footage that is missing
   */
  accept(key: string, { again, waiting }: { again: boolean; waiting: boolean }): void {
    const job = this.find(key)
    const { state, message } = job.shown
    if (state === 'taking' || state === 'taken') return
    if (state !== 'waiting' || !job.proved)
      throw new Fault('invalid', message ?? 'This backup is still being proved; wait until it is.')
    job.fault = null
    job.shown = { ...job.shown, state: 'taking', message: null }
    job.work = this.going(job, () => this.take(job, job.proved!, { again, waiting }))
  }

  private async take(job: Job, proved: Proved, how: { again: boolean; waiting: boolean }): Promise<void> {
    const folder = join(this.folder, job.shown.key)
    try {
      const productions = await inTurn(async () => {
        const before = how.again ? null : await takenBefore(proved)
        if (before) return before.productions
        return applyBackup({
          proved,
          folder: join(folder, 'unpacked'),
          db: this.db,
          store: this.store,
          waiting: how.waiting,
        })
      })
      job.shown = { ...job.shown, state: 'taken', productions: [...productions] }
      await rm(folder, { recursive: true, force: true })
    } catch (error) {
      // Nothing was written, so it can be taken in once what was wrong is mended.
      job.shown = { ...job.shown, state: 'waiting', message: sentenceOf(error) }
      job.fault = error
    }
  }

  /** Waits until what goes on with one has ended, but not for long. Throws what went wrong. */
  async settled(key: string): Promise<Import> {
    const job = this.find(key)
    let late: NodeJS.Timeout | undefined
    const enough = new Promise<void>((done) => (late = setTimeout(done, this.patience)))
    await Promise.race([job.work, enough]).finally(() => clearTimeout(late))
    if (job.fault) throw job.fault
    return job.shown
  }

  /** Puts one away, unless it is being taken in. */
  async drop(key: string): Promise<void> {
    const job = this.jobs.get(key)
    if (job?.shown.state === 'taking') throw new Fault('busy', 'This backup is being taken in; wait until it is.')
    job?.abort.abort()
    await job?.work
    this.jobs.delete(key)
    await rm(join(this.folder, key), { recursive: true, force: true })
  }

  /** Ends what is being proved; the next start takes it up. */
  async close(): Promise<void> {
    this.closing = true
    await this.thread.close()
  }

  private forgetEnded(): void {
    const ended = [...this.jobs.values()].filter(({ shown }) => shown.state === 'taken' || shown.state === 'failed')
    for (const { shown } of ended.slice(0, Math.max(0, ended.length - MOST_ENDED))) this.jobs.delete(shown.key)
  }
}
