import { readFileSync, readdirSync } from 'node:fs'
import { setTimeout as sleep } from 'node:timers/promises'
import { ROUTES, addressOf, type Given, type Reply as AnswerOf, type Route } from '@fogbath/contract'
// @ts-expect-error a plain script without types
import { startApplication } from '../lib/application.mjs'
import type { Ledger } from './ledger'

/** Nothing may take longer, ms. */
export const HANG_MS = 20_000

export interface Reply {
  /** 0 where no answer came. */
  readonly status: number
  readonly text: string
}

/** A reply of one route. */
export interface Answered<R extends Route> extends Reply {
  /** What the route says that it answers; throws with the refusal where there was one. */
  readonly answer: () => AnswerOf<R>
}

interface Running {
  readonly url: string
  readonly stop: () => Promise<boolean>
}

/** The application under torture, started as npm start does it. */
export class Target {
  private killedAt = 0
  private constructor(
    private readonly running: Running,
    readonly data: string,
    private readonly ledger: Ledger,
    private readonly log: { text: string },
  ) {}

  static async start(data: string, ledger: Ledger): Promise<Target> {
    const log = { text: '' }
    const running = (await startApplication(data, (text: string) => (log.text += text))) as Running
    return new Target(running, data, ledger, log)
  }
  get url(): string {
    return this.running.url
  }
  stop(): Promise<boolean> {
    return this.running.stop()
  }

  /** Asks, and holds the answer to what every answer must keep: in time, no 5xx (but 507 where the disk is full), no stack. */
  async ask(
    name: string,
    path: string,
    init: RequestInit = {},
    more: { quiet?: boolean; full?: boolean } = {},
  ): Promise<Reply> {
    this.ledger.tried(name)
    const begun = Date.now()
    const reply = await fetch(`${this.url}${path}`, { ...init, signal: AbortSignal.timeout(HANG_MS) })
      .then(async (r) => ({ status: r.status, text: more.quiet ? (await r.body?.cancel(), '') : await r.text() }))
      .catch((error: unknown) => ({ status: 0, text: String((error as { cause?: unknown }).cause ?? error) }))
    const what = `${init.method ?? 'GET'} ${path.slice(0, 120)} ${typeof init.body === 'string' ? init.body.slice(0, 160) : ''}`
    const away = begun < this.killedAt + HANG_MS * 3
    if (Date.now() - begun >= HANG_MS) this.ledger.failed(name, `no answer in ${HANG_MS / 1000} s: ${what}`)
    // While something that was killed is being started again, 503 and no answer at all are what has to come.
    else if (reply.status === 0 && !away) this.ledger.failed(name, `no answer (${reply.text}): ${what}`)
    else if (reply.status >= 500 && !(away && reply.status === 503) && !(more.full && reply.status === 507))
      this.ledger.failed(name, `${reply.status} ${reply.text.slice(0, 120)}: ${what}`)
    else if (/\n\s+at |node_modules/.test(reply.text)) this.ledger.failed(name, `a stack in the answer: ${what}`)
    else if (reply.status >= 400 && !hasMessage(reply.text))
      this.ledger.failed(name, `${reply.status} without a sentence: ${what}`)
    return reply
  }
  json(method: string, body: unknown): RequestInit {
    return { method, headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) }
  }
  /** Asks a route with what it takes, so that a change of the contract is seen by the types. */
  async call<R extends Route>(
    name: string,
    route: R,
    ...[given]: NoInfer<unknown extends Given<R> ? [] : [given: Given<R>]>
  ): Promise<Answered<R>> {
    const { body } = (given ?? {}) as { body?: unknown }
    const init = body === undefined ? { method: route.method } : this.json(route.method, body)
    return answered(await this.ask(name, addressOf(route, ...([given] as never)), init))
  }
  /** Uploads files into a production. */
  async upload(
    name: string,
    production: number,
    files: readonly (readonly [name: string, bytes: Buffer])[],
    more: { full?: boolean } = {},
  ): Promise<Answered<typeof ROUTES.takeFiles>> {
    const body = new FormData()
    for (const [label, bytes] of files) body.append('file', new Blob([new Uint8Array(bytes)]), label)
    const path = addressOf(ROUTES.takeFiles, { params: { id: production }, query: {} })
    return answered(await this.ask(name, path, { method: 'POST', body }, more))
  }
  /** A new production; gives its number. */
  async production(name: string, title: string): Promise<number> {
    return (await this.call(name, ROUTES.createProduction, { body: { name: title } })).answer().id
  }

  /** Processes of this application by a word of their command line. */
  private pids(word: string): number[] {
    return readdirSync('/proc')
      .filter((n) => /^\d+$/.test(n))
      .filter((n) => readQuietly(`/proc/${n}/cmdline`).includes(word))
      .filter(
        (n) => word.includes(this.data) || readQuietly(`/proc/${n}/environ`).includes(`FOGBATH_DATA=${this.data}\0`),
      )
      .map(Number)
  }
  get server(): number | undefined {
    return this.pids('packages/server/dist/serve.js')[0]
  }
  get database(): number | undefined {
    return this.pids(`--datadir=${this.data}/db/data`)[0]
  }
  kill(...pids: readonly (number | undefined)[]): void {
    this.killedAt = Date.now()
    for (const pid of pids) if (pid) process.kill(pid, 'SIGKILL')
  }
  /** Waits until all is well again. */
  async recovered(): Promise<boolean> {
    for (const late = Date.now() + 3 * HANG_MS; Date.now() < late; await sleep(100)) {
      const status = await fetch(`${this.url}/api/health`, { signal: AbortSignal.timeout(HANG_MS) }).then(
        (r) => r.status,
        () => 0,
      )
      if (status === 200) return true
    }
    return false
  }

  /** Resident memory of the server, MB. */
  memory(): number {
    return Number(/VmRSS:\s+(\d+)/.exec(readQuietly(`/proc/${this.server}/status`))?.[1] ?? 0) / 1024
  }
  /** What the application has said since this was asked last. */
  said(): string {
    const { text } = this.log
    this.log.text = ''
    return text
  }
}

const answered = <R extends Route>({ status, text }: Reply): Answered<R> => ({
  status,
  text,
  answer: () => {
    if (status < 200 || status >= 300) throw new Error(`refused with ${status}: ${text.slice(0, 200)}`)
    return JSON.parse(text) as AnswerOf<R>
  },
})

function readQuietly(path: string): string {
  try {
    return readFileSync(path, 'utf8')
  } catch {
    return ''
  }
}

function hasMessage(text: string): boolean {
  try {
    const answer = JSON.parse(text) as { message?: unknown; files?: unknown; ok?: unknown }
    return typeof answer.message === 'string' || answer.ok === false
  } catch {
    return false
  }
}
