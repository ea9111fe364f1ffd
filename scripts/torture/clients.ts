import { setTimeout as sleep } from 'node:timers/promises'
import { SHIPPED_RECIPES, changeSettings } from '@fogbath/core'
import { Chance, type Ledger } from './ledger'
import type { Target } from './target'

const CLASS = 'edits of 20 clients'
const KILLS = 'kill -9 at random'

interface Trial {
  readonly id: number
  readonly revision: number
  readonly recipe: unknown
}
interface Shot {
  readonly id: number
  readonly revision: number
  readonly name: string
  readonly trialId: number
  readonly trials: Trial[]
}

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

  async work(until: number): Promise<void> {
    while (Date.now() < until) {
      if (!this.shot) await this.load()
      else await this.edit(this.shot)
      await sleep(this.chance.below(30))
    }
  }

  private async load(): Promise<void> {
    const reply = await this.target.ask(CLASS, `/api/shots/${this.shotId}`)
    if (reply.status === 200) this.shot = JSON.parse(reply.text) as Shot
    else await sleep(200)
  }

  private edit(shot: Shot): Promise<void> {
    const what = this.chance.of(['name', 'line', 'step'] as const)
    const mark = this.chance.below(1_000_000)
    if (what === 'name')
      return this.send(what, `Shot ${mark}`, 'PATCH', `/api/shots/${shot.id}`, {
        revision: shot.revision,
        name: `Shot ${mark}`,
      })
    const trial = shot.trials.find((t) => t.id === shot.trialId)!
    const recipe = changeSettings(SHIPPED_RECIPES[1]!, 'bath-1', { bleachPrint: mark % 101 })
    if (what === 'line')
      return this.send(what, String(mark % 101), 'PATCH', `/api/trials/${trial.id}`, {
        revision: trial.revision,
        recipe,
      })
    const key = `step${mark}`.padEnd(12, 'x')
    const add = [{ key, step: { kind: 'recipe', trialId: trial.id, recipe } }]
    const none = { remove: [], add: [] }
    return this.send(what, key, 'PATCH', `/api/shots/${shot.id}/history`, { past: { ...none, add }, future: none })
  }

  private async send(
    what: 'name' | 'line' | 'step',
    value: string,
    method: string,
    path: string,
    body: unknown,
  ): Promise<void> {
    const begun = performance.now()
    const { status, text } = await this.target.ask(CLASS, path, this.target.json(method, body))
    if (status >= 200 && status < 300) {
      this.times.push(performance.now() - begun)
      this.acknowledged++
      this.may.set(what, new Set([value]))
    } else this.may.set(what, new Set([...(this.may.get(what) ?? []), value]))
    // Each has a shot of its own, so that only a revision that was not heard of can be in the way.
    if (status >= 400 && status !== 409 && status !== 503)
      this.ledger.failed(CLASS, `${method} ${path} was refused: ${text.slice(0, 200)}`)
    // Revisions have moved, or it is not known whether they have.
    if (what !== 'step' || status >= 400 || status === 0) this.shot = undefined
  }

  /** Nothing that was acknowledged is gone. */
  async check(): Promise<void> {
    await this.load()
    const shot = this.shot
    if (!shot) return this.ledger.failed(CLASS, `shot ${this.shotId} cannot be read at the end`)
    const trial = shot.trials.find((t) => t.id === shot.trialId)!
    const print = (trial.recipe as { baths: { settings: { bleachPrint?: number } }[] }).baths[0]?.settings.bleachPrint
    this.among('name', [shot.name])
    this.among('line', [String(print)])
    const history = await this.target.ask(CLASS, `/api/shots/${this.shotId}/history`)
    const { past } = JSON.parse(history.text) as { past: { key: string }[] }
    this.among('step', past.map((s) => s.key).slice(-20))
  }
  private among(what: 'name' | 'line' | 'step', found: readonly string[]): void {
    const may = this.may.get(what)
    if (!may) return
    this.ledger.holds(
      CLASS,
      found.some((f) => may.has(f)),
      `lost: the ${what} of shot ${this.shotId} is ${found.at(-1)}, acknowledged was ${[...may][0]}`,
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
    const production = await target.ask(CLASS, '/api/productions', target.json('POST', { name: `Client ${i}` }))
    const { id } = JSON.parse(production.text) as { id: number }
    const shot = await target.ask(CLASS, `/api/productions/${id}/shots`, target.json('POST', { mediumId }))
    clients.push(new Client(target, ledger, new Chance(chance.below(1e9)), (JSON.parse(shot.text) as Shot).id))
  }
  const working = Promise.all(clients.map((client) => client.work(time.until)))
  const pause = (time.until - Date.now()) / (time.kills + 1)
  for (let i = 0; i < time.kills && Date.now() < time.until; i++) {
    await sleep(pause * (0.5 + chance.below(100) / 200))
    const what = i % 3
    target.kill(...(what !== 1 ? [target.server] : []), ...(what !== 0 ? [target.database] : []))
    ledger.holds(
      KILLS,
      await target.recovered(),
      `not well again after ${['the server', 'the database', 'both'][what]} was killed`,
    )
  }
  await working
  for (const client of clients) await client.check()
  const times = clients.flatMap((c) => c.times).sort((a, b) => a - b)
  const p95 = times[Math.floor(times.length * 0.95)] ?? 0
  ledger.note(
    CLASS,
    `${clients.reduce((sum, c) => sum + c.acknowledged, 0)} acknowledged, 95 % within ${p95.toFixed(0)} ms`,
  )
}
