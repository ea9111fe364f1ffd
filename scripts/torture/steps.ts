import { execFileSync, fork, type ChildProcess } from 'node:child_process'
import { existsSync, mkdirSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
// @ts-expect-error a plain script without types
import { startMariadb } from '../lib/mariadb.mjs'
// @ts-expect-error a plain script without types
import { anyPort } from '../lib/ports.mjs'
import { Chance, type Ledger } from './ledger'
import type { Render } from './renders'
import { HANG_MS } from './target'

interface Database {
  readonly port: number
  readonly user: string
  readonly password: string
  readonly database: string
  readonly stop: () => Promise<void>
}
/** A server of its own on a database of its own, which dies at a step that is chosen and is started again at once. */
class Mortal {
  private child: ChildProcess | undefined
  private ended = Promise.resolve()
  private url = ''
  said = ''
  private readonly fuse: string

  constructor(
    private readonly root: string,
    readonly data: string,
    readonly db: Database,
  ) {
    this.fuse = join(data, 'fuse')
  }

  /** Dies at the n-th step from now on. */
  arm(n: number): void {
    writeFileSync(this.fuse, String(n))
  }
  /** Whether it has died of it; after that it lives on without. */
  disarm(): boolean {
    const died = existsSync(this.fuse) && Number(readFileSync(this.fuse, 'utf8')) <= 0
    rmSync(this.fuse, { force: true })
    return died
  }

  /** @returns whether it came to answer */
  async start(): Promise<boolean> {
    const { db, data } = this
    const port = String(await anyPort())
    const env = {
      ...process.env,
      ...{ FOGBATH_DATA: data, FOGBATH_PORT: port, FOGBATH_PAGE: join(this.root, 'packages/web/dist') },
      ...{ FOGBATH_DB_PORT: String(db.port), FOGBATH_DB_USER: db.user, FOGBATH_DB_PASSWORD: db.password },
      ...{ FOGBATH_DB_NAME: db.database, FOGBATH_DIE: this.fuse, NODE_ENV: 'production' },
    }
    const execArgv = [`--import=${join(this.root, 'scripts/torture/die.mjs')}`]
    const child = fork(join(this.root, 'packages/server/dist/serve.js'), [], {
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
    return Promise.race([ready, this.ended.then(() => false), sleep(HANG_MS, false)])
  }
  async stop(): Promise<void> {
    this.child?.kill('SIGTERM')
    await this.ended
  }
  get running(): boolean {
    return this.child?.exitCode === null && this.child.signalCode === null
  }
  async untilDead(): Promise<void> {
    await Promise.race([this.ended, sleep(HANG_MS)])
  }
  /** Null where no answer came. */
  async ask<T>(path: string, method = 'GET', body?: unknown): Promise<T | null> {
    const init =
      body === undefined ? {} : { headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
    return fetch(`${this.url}${path}`, { method, ...init, signal: AbortSignal.timeout(HANG_MS) }).then(
      async (r) => (r.ok ? ((r.status === 204 ? {} : await r.json()) as T) : null),
      () => null,
    )
  }
  async send<T>(path: string, name: string, bytes: Buffer): Promise<T> {
    const form = new FormData()
    form.append('file', new Blob([new Uint8Array(bytes)]), name)
    return (await (await fetch(`${this.url}${path}`, { method: 'POST', body: form })).json()) as T
  }
  async restart(): Promise<boolean> {
    if (this.running) return true
    return this.start()
  }
}

/** No work here does more to the outside. */
const MOST_STEPS = 50
const LEAST_TRIED = 2

const CLASSES = {
  migration: 'kill -9 in a migration',
  render: 'kill -9 in a render and its join',
  cancel: 'kill -9 in a cancel',
}

/** Kills at one step after the other. */
export async function killAtSteps(
  root: string,
  data: string,
  ledger: Ledger,
  chance: Chance,
  clip: Buffer,
  time: { readonly until: number },
): Promise<void> {
  mkdirSync(data, { recursive: true })
  const db = (await startMariadb(join(data, 'db'))) as Database
  const mortal = new Mortal(root, data, db)
  /** Steps in an order by chance, as many as there is time for; a step that the work does not reach kills nothing. */
  const each = async (part: number, work: (n: number) => Promise<void>): Promise<void> => {
    const until = Date.now() + (time.until - Date.now()) * part
    const steps = chance.shuffled(Array.from({ length: MOST_STEPS }, (_, i) => i + 1))
    for (const [i, n] of steps.entries()) if (i < LEAST_TRIED || Date.now() < until) await work(n)
  }
  try {
    await each(1 / 3, (n) => migration(mortal, ledger, n))
    await mortal.restart()
    const made = await mortal.ask<{ id: number }>('/api/productions', 'POST', { name: 'Steps' })
    const taken = await mortal.send<{ shots: { id: number }[] }>(`/api/productions/${made!.id}/media`, 'clip.mp4', clip)
    const shot = taken.shots[0]!.id
    await each(2 / 3, (n) => rendering(mortal, ledger, shot, n))
    await each(1, (n) => cancelling(mortal, ledger, shot, n))
    ledger.holds(
      CLASSES.render,
      !/\n\s+at /.test(mortal.said),
      `a stack in the log: ${/.*\n\s+at .*/.exec(mortal.said)?.[0] ?? ''}`,
    )
  } finally {
    await mortal.stop()
    await db.stop()
  }
}

/** From an empty database on. */
async function migration(mortal: Mortal, ledger: Ledger, n: number): Promise<void> {
  await mortal.stop()
  const { port, user, password, database } = mortal.db
  const login = ['--no-defaults', '--host=127.0.0.1', `--port=${port}`, `--user=${user}`, `--password=${password}`]
  execFileSync('mariadb', [...login, `--execute=DROP DATABASE ${database}; CREATE DATABASE ${database}`])
  mortal.arm(n)
  await mortal.start()
  const died = mortal.disarm()
  if (died) await mortal.untilDead()
  const well = (await mortal.restart()) && (await mortal.ask('/api/productions', 'POST', { name: 'After' })) !== null
  ledger.holds(CLASSES.migration, well, `killed at step ${n}: ${mortal.said.slice(-300)}`)
}

async function ended(mortal: Mortal, id: number): Promise<Render | null> {
  for (const late = Date.now() + 60_000; Date.now() < late; await sleep(50)) {
    const render = await mortal.ask<Render>(`/api/renders/${id}`)
    if (render && render.state !== 'waiting' && render.state !== 'running') return render
  }
  return null
}

/** One part, its join and what follows; it must end done and whole, without parts. */
async function rendering(mortal: Mortal, ledger: Ledger, shot: number, n: number): Promise<void> {
  mortal.arm(n)
  const asked = await mortal.ask<Render>(`/api/shots/${shot}/renders`, 'POST', { format: 'mp4' })
  while (mortal.running && asked) {
    const render = await mortal.ask<Render>(`/api/renders/${asked.id}`)
    if (render?.state === 'done') break
    await sleep(50)
  }
  const died = mortal.disarm()
  if (died) await mortal.untilDead()
  await mortal.restart()
  // Where the answer was lost, the newest is the one, if it came to be.
  const id = asked?.id ?? (await mortal.ask<{ items: Render[] }>('/api/renders'))?.items[0]?.id
  if (id === undefined) return
  const render = await ended(mortal, id)
  const files = readdirSync(join(mortal.data, 'renders', String(id)))
  ledger.holds(
    CLASSES.render,
    render?.state === 'done' && render.done === render.count,
    `killed at step ${n}: ${JSON.stringify(render)}`,
  )
  ledger.holds(CLASSES.render, files.includes('render.mp4'), `killed at step ${n}: there is ${files.join(', ')}`)
}

/** Acknowledged or not, it ends cancelled or done, and can be removed with all its files. */
async function cancelling(mortal: Mortal, ledger: Ledger, shot: number, n: number): Promise<void> {
  const render = await mortal.ask<Render>(`/api/shots/${shot}/renders`, 'POST', { format: 'png' })
  if (!render) return
  mortal.arm(n)
  const acknowledged = await mortal.ask<Render>(`/api/renders/${render.id}/action`, 'POST', { action: 'cancel' })
  const died = mortal.disarm()
  if (died) await mortal.untilDead()
  await mortal.restart()
  const end = await ended(mortal, render.id)
  const right = acknowledged ? end?.state === 'cancelled' : end?.state === 'cancelled' || end?.state === 'done'
  ledger.holds(
    CLASSES.cancel,
    right,
    `killed at step ${n}: ${acknowledged ? 'acknowledged, ' : ''}${JSON.stringify(end)}`,
  )
  const removed = await mortal.ask(`/api/renders/${render.id}`, 'DELETE')
  const left = existsSync(join(mortal.data, 'renders', String(render.id)))
  ledger.holds(CLASSES.cancel, removed !== null && !left, `killed at step ${n}: cannot be removed`)
}
