import { setTimeout as sleep } from 'node:timers/promises'
import { ROUTES, type Given, type Route, type Shot } from '@fogbath/contract'
import { changeSettings } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Chance, type Ledger } from './ledger'
import { HANG_MS, type Target } from './target'

const CLASS = 'edits of 20 clients'
const KILLS = 'kill -9 at random'
/** Stands for a history that is empty. */
const NO_STEP = 'none'

const printOf = ({ trials, trialId }: Shot): unknown =>
  trials.find((t) => t.id === trialId)?.recipe.baths[0]?.settings['bleachPrint']

/** One who edits a shot of their own, and remembers what was acknowledged. */
class Client {
  private shot: Shot | undefined
  /** What each thing may be now: the last acknowledged value, and those sent since that nobody answered. */
  private readonly may = new Map<'name' | 'line' | 'step', Set<string>>()
  acknowledged = 0
  readonly times: number[] = []

  constructor(
    private readonly target: Target,
    private readonly ledger: Ledger,
    private readonly chance: Chance,
    private readonly shotId: number,
  ) {}

  async work(ends: AbortSignal): Promise<void> {
    while (!ends.aborted) {
      if (!this.shot) await this.load()
      else await this.edit(this.shot)
      await sleep(this.chance.below(30))
    }
  }

  /** Waits until something more is acknowledged: how soon that is goes by the machine. */
  async goesOn(): Promise<void> {
    const before = this.acknowledged
    for (const late = Date.now() + 3 * HANG_MS; Date.now() < late; await sleep(20))
      if (this.acknowledged > before) return
    this.ledger.failed(CLASS, `nothing of shot ${this.shotId} was acknowledged in ${(3 * HANG_MS) / 1000} s`)
  }

  private async load(): Promise<void> {
    const reply = await this.target.call(CLASS, ROUTES.shot, { params: { id: this.shotId } })
    if (reply.status !== 200) return void (await sleep(200))
    this.shot = reply.answer()
    // What stands there before the first change was never acknowledged, and stays right until one is.
    if (!this.may.has('name')) this.may.set('name', new Set([this.shot.name]))
    if (!this.may.has('line')) this.may.set('line', new Set([String(printOf(this.shot))]))
    if (!this.may.has('step')) this.may.set('step', new Set([NO_STEP]))
  }

  private edit(shot: Shot): Promise<void> {
    const what = this.chance.of(['name', 'line', 'step'] as const)
    const mark = this.chance.below(1_000_000)
    const { id, revision } = shot
    if (what === 'name') {
      const name = `Shot ${mark}`
      return this.send(what, name, ROUTES.changeShot, { params: { id }, body: { revision, name } })
    }
    const trial = shot.trials.find((t) => t.id === shot.trialId)!
    const recipe = changeSettings(SHIPPED_RECIPES[1]!, 'bath-1', { bleachPrint: mark % 101 })
    if (what === 'line') {
      const body = { revision: trial.revision, recipe }
      return this.send(what, String(mark % 101), ROUTES.changeTrial, { params: { id: trial.id }, body })
    }
    const key = `step${mark}`.padEnd(12, 'x')
    const past = { remove: [], add: [{ key, step: { kind: 'parts' as const, trialId: trial.id, recipe } }] }
    const body = { past, future: { remove: [], add: [] } }
    return this.send(what, key, ROUTES.changeHistory, { params: { id }, body })
  }

  private async send<R extends Route>(
    what: 'name' | 'line' | 'step',
    value: string,
    route: R,
    given: NoInfer<Given<R>>,
  ): Promise<void> {
    const begun = performance.now()
    const { status, text } = await this.target.call(CLASS, route, ...([given] as never))
    if (status >= 200 && status < 300) {
      this.times.push(performance.now() - begun)
      this.acknowledged++
      this.may.set(what, new Set([value]))
    } else this.may.set(what, new Set([...(this.may.get(what) ?? []), value]))
    // Each has a shot of its own, so that only a revision that was not heard of can be in the way.
    if (status >= 400 && status !== 409 && status !== 503)
      this.ledger.failed(CLASS, `${route.method} ${route.path} was refused: ${text.slice(0, 200)}`)
    // Revisions have moved, or it is not known whether they have.
    if (what !== 'step' || status >= 400 || status === 0) this.shot = undefined
  }

  /** Nothing that was acknowledged is gone. */
  async check(): Promise<void> {
    await this.load()
    const shot = this.shot
    if (!shot) return this.ledger.failed(CLASS, `shot ${this.shotId} cannot be read at the end`)
    this.among('name', [shot.name])
    this.among('line', [String(printOf(shot))])
    const history = await this.target.call(CLASS, ROUTES.history, { params: { id: this.shotId } })
    const keys = history.answer().past.map((s) => s.key)
    this.among('step', keys.length > 0 ? keys.slice(-20) : [NO_STEP])
  }
  private among(what: 'name' | 'line' | 'step', found: readonly string[]): void {
    const may = this.may.get(what)
    if (!may) return
    this.ledger.holds(
      CLASS,
      found.some((f) => may.has(f)),
      `lost: the ${what} of shot ${this.shotId} is ${found.at(-1)}, it may be ${[...may].join(' or ')}`,
    )
  }
}

/** Twenty edit at once while server, database and both are killed. */
export async function editAndKill(
  target: Target,
  ledger: Ledger,
  chance: Chance,
  mediumId: number,
  time: { readonly until: number; readonly kills: number },
): Promise<void> {
  const clients: Client[] = []
  for (let i = 0; i < 20; i++) {
    const id = await target.production(CLASS, `Client ${i}`)
    const added = await target.call(CLASS, ROUTES.addShot, { params: { id }, body: { mediumId } })
    clients.push(new Client(target, ledger, new Chance(chance.below(1e9)), added.answer().id))
  }
  const ends = new AbortController()
  const working = Promise.all(clients.map((client) => client.work(ends.signal)))
  const allGoOn = (): Promise<unknown> => Promise.all(clients.map((client) => client.goesOn()))
  const pause = (time.until - Date.now()) / (time.kills + 1)
  for (let i = 0; i < time.kills; i++) {
    await allGoOn()
    await sleep(pause * (chance.below(100) / 100))
    const what = i % 3
    target.kill(...(what !== 1 ? [target.server] : []), ...(what !== 0 ? [target.database] : []))
    ledger.holds(
      KILLS,
      await target.recovered(),
      `not well again after ${['the server', 'the database', 'both'][what]} was killed`,
    )
  }
  await allGoOn()
  await sleep(Math.max(0, time.until - Date.now()))
  ends.abort()
  await working
  for (const client of clients) await client.check()
  const times = clients.flatMap((c) => c.times).sort((a, b) => a - b)
  const p95 = times[Math.floor(times.length * 0.95)] ?? 0
  ledger.note(
    CLASS,
    `${clients.reduce((sum, c) => sum + c.acknowledged, 0)} acknowledged, 95 % within ${p95.toFixed(0)} ms`,
  )
}
