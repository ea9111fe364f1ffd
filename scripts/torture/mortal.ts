import { fork, type ChildProcess } from 'node:child_process'
import { existsSync, renameSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { ROUTES, addressOf, type Given, type Reply, type Route } from '@fogbath/contract'
// @ts-expect-error a plain script without types
import { anyPort } from '../lib/ports.mjs'

/** Whether it answers in time is measured elsewhere; here it only has to, on a machine that does much beside it, ms. */
const PATIENCE_MS = 120_000

export interface Database {
  readonly port: number
  readonly user: string
  readonly password: string
  readonly database: string
  readonly stop: () => Promise<void>
}
/** The account that it runs as, where that is another. */
interface How {
  readonly uid?: number
  readonly gid?: number
}
/** A server of its own on a database of its own, which dies at a step that is chosen and is started again at once. */
export class Mortal {
  private child: ChildProcess | undefined
  private ended = Promise.resolve()
  private ready = Promise.resolve(false)
  url = ''
  said = ''
  private readonly fuse: string

  constructor(
    private readonly root: string,
    readonly data: string,
    readonly db: Database,
    private readonly how: How = {},
  ) {
    this.fuse = join(data, 'fuse')
  }

  /** Dies at the n-th step from now on. */
  arm(n: number): void {
    rmSync(`${this.fuse}.died`, { force: true })
    writeFileSync(`${this.fuse}.new`, String(n))
    renameSync(`${this.fuse}.new`, this.fuse)
  }
  /** Whether it has died of it; after that it lives on without. */
  async disarm(): Promise<boolean> {
    rmSync(this.fuse, { force: true })
    // A step that had read it before may still be about to die of it.
    await sleep(50)
    return existsSync(`${this.fuse}.died`)
  }

  /** @param hours by which its clock is wrong @returns whether it came to answer */
  async start(hours = 0): Promise<boolean> {
    const { db, data } = this
    const port = String(await anyPort())
    const env = {
      ...process.env,
      FOGBATH_DATA: data,
      FOGBATH_PORT: port,
      FOGBATH_PAGE: join(this.root, 'packages/web/dist'),
      FOGBATH_DB_PORT: String(db.port),
      FOGBATH_DB_USER: db.user,
      FOGBATH_DB_PASSWORD: db.password,
      FOGBATH_DB_NAME: db.database,
      FOGBATH_DIE: this.fuse,
      NODE_ENV: 'production',
      FOGBATH_CLOCK: String(hours),
      FOGBATH_WATCH: join(data, 'watched'),
      FOGBATH_SHARED: join(data, 'shared'),
    }
    const execArgv = ['die', 'clock'].map((name) => `--import=${join(this.root, `scripts/torture/${name}.mjs`)}`)
    const child = fork(join(this.root, 'packages/server/dist/serve.js'), [], {
      ...this.how,
      env,
      execArgv,
      stdio: ['ignore', 'pipe', 'pipe', 'ipc'],
    })
    for (const stream of [child.stdout, child.stderr])
      stream?.on('data', (text: Buffer) => (this.said += text.toString()))
    this.ended = new Promise((done) => child.once('exit', () => done()))
    this.child = child
    const ready = new Promise<boolean>((done) =>
      child.on('message', (m: { address?: string }) => m.address && done(true)),
    )
    this.url = `http://127.0.0.1:${port}`
    this.ready = Promise.race([ready, this.ended.then(() => false), sleep(PATIENCE_MS, false, { ref: false })])
    return this.ready
  }
  async stop(): Promise<void> {
    this.child?.kill('SIGTERM')
    await this.ended
  }
  get running(): boolean {
    return this.child?.exitCode === null && this.child.signalCode === null
  }
  async untilDead(): Promise<void> {
    await Promise.race([this.ended, sleep(PATIENCE_MS, undefined, { ref: false })])
  }
  /** Null where no answer came, or a refusal. */
  async ask<R extends Route>(
    route: R,
    ...[given]: NoInfer<unknown extends Given<R> ? [] : [given: Given<R>]>
  ): Promise<Reply<R> | null> {
    const { body } = (given ?? {}) as { body?: unknown }
    const init =
      body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
    const url = `${this.url}${addressOf(route, ...([given] as never))}`
    return fetch(url, { method: route.method, ...init, signal: AbortSignal.timeout(PATIENCE_MS) }).then(
      async (r) => (r.ok ? ((r.status === 204 ? {} : await r.json()) as Reply<R>) : null),
      () => null,
    )
  }
  async production(name: string): Promise<number> {
    const made = await this.ask(ROUTES.createProduction, { body: { name } })
    if (!made) throw new Error(`The server makes no production. It said: ${this.said.slice(-500)}`)
    return made.id
  }
  /** Uploads a file as a shot. */
  async upload(production: number, name: string, bytes: Buffer): Promise<Reply<typeof ROUTES.takeFiles>> {
    const form = new FormData()
    form.append('file', new Blob([new Uint8Array(bytes)]), name)
    const url = `${this.url}${addressOf(ROUTES.takeFiles, { params: { id: production }, query: {} })}`
    return (await (await fetch(url, { method: 'POST', body: form })).json()) as Reply<typeof ROUTES.takeFiles>
  }
  /** @returns whether it came to answer */
  async restart(): Promise<boolean> {
    return this.running ? this.ready : this.start()
  }
}
