import { execFileSync } from 'node:child_process'
import { existsSync, mkdirSync, readdirSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { ROUTES, type Render } from '@fogbath/contract'
// @ts-expect-error a plain script without types
import { startMariadb } from '../lib/mariadb.mjs'
import { Chance, type Ledger } from './ledger'
import { Mortal, type Database } from './mortal'

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
    const taken = await mortal.upload(await mortal.production('Steps'), 'clip.mp4', clip)
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
  if (await mortal.disarm()) await mortal.untilDead()
  const made = (await mortal.restart()) && (await mortal.ask(ROUTES.createProduction, { body: { name: 'After' } }))
  ledger.holds(CLASSES.migration, Boolean(made), `killed at step ${n}: ${mortal.said.slice(-300)}`)
}

async function ended(mortal: Mortal, id: number): Promise<Render | null> {
  for (const late = Date.now() + 60_000; Date.now() < late; await sleep(50)) {
    const render = await mortal.ask(ROUTES.render, { params: { id } })
    if (render && render.state !== 'waiting' && render.state !== 'running') return render
  }
  return null
}

/** A render in short: whole rows hold their recipe, and what matters was cut off behind it. */
const saidOf = (render: Render | null): string =>
  render ? `${render.state}, ${render.done} of ${render.count} ${render.message}` : 'it did not end'

/** One part, its join and what follows; it must end done and whole, without parts. */
async function rendering(mortal: Mortal, ledger: Ledger, shot: number, n: number): Promise<void> {
  mortal.arm(n)
  const asked = await mortal.ask(ROUTES.createRender, { params: { id: shot }, body: { format: 'mp4' } })
  while (mortal.running && asked) {
    const render = await mortal.ask(ROUTES.render, { params: { id: asked.id } })
    if (render?.state === 'done') break
    await sleep(50)
  }
  if (await mortal.disarm()) await mortal.untilDead()
  await mortal.restart()
  // Where the answer was lost, the newest is the one, if it came to be.
  const id = asked?.id ?? (await mortal.ask(ROUTES.renders, { query: {} }))?.items[0]?.id
  if (id === undefined) return
  const render = await ended(mortal, id)
  const files = readdirSync(join(mortal.data, 'renders', String(id)))
  ledger.holds(
    CLASSES.render,
    render?.state === 'done' && render.done === render.count,
    `killed at step ${n}: ${saidOf(render)}`,
  )
  ledger.holds(CLASSES.render, files.includes('render.mp4'), `killed at step ${n}: there is ${files.join(', ')}`)
}

/** Acknowledged or not, it ends cancelled or done, and can be removed with all its files. */
async function cancelling(mortal: Mortal, ledger: Ledger, shot: number, n: number): Promise<void> {
  const render = await mortal.ask(ROUTES.createRender, { params: { id: shot }, body: { format: 'png' } })
  if (!render) return
  mortal.arm(n)
  const params = { id: render.id }
  const acknowledged = await mortal.ask(ROUTES.renderAction, { params, body: { action: 'cancel' } })
  if (await mortal.disarm()) await mortal.untilDead()
  await mortal.restart()
  const end = await ended(mortal, render.id)
  const right = acknowledged ? end?.state === 'cancelled' : end?.state === 'cancelled' || end?.state === 'done'
  ledger.holds(CLASSES.cancel, right, `killed at step ${n}: ${acknowledged ? 'acknowledged, ' : ''}${saidOf(end)}`)
  const removed = await mortal.ask(ROUTES.deleteRender, { params })
  const left = existsSync(join(mortal.data, 'renders', String(render.id)))
  ledger.holds(CLASSES.cancel, removed !== null && !left, `killed at step ${n}: cannot be removed`)
}
