import { mkdirSync, readFileSync, readdirSync, rmSync, utimesSync } from 'node:fs'
import { join } from 'node:path'
import { ROUTES } from '@fogbath/contract'
import { hostileArchives } from './archives'
import { editAndKill } from './clients'
import { fullDisks, hostileShared } from './folders'
import { Chance, Ledger } from './ledger'
import { makeSamples, mutateMedia } from './media'
import { backupOfOneMoment, unreadDownloads } from './moment'
import { bringClip, checkLeftOver, renderLong } from './renders'
import { fuzzRequests } from './requests'
import { closedFiles, oddStarts } from './starts'
import { killAtSteps } from './steps'
import { Target } from './target'
import { hostileWatched } from './watched'

const LOG = 'the server’s log'
const MEMORY = 'the server’s memory'
/** What the server may hold more after the same work for the second time than after the first, MB. */
const MOST_GROWTH = 100

interface Options {
  readonly minutes: number
  readonly seed: number
  readonly root: string
  readonly say: (text: string) => void
}

/** Mistreats the application for so long; returns how much failed. */
export async function torture({ minutes, seed, root, say }: Options): Promise<number> {
  const folder = join(root, '.fogbath-torture')
  rmSync(folder, { recursive: true, force: true })
  mkdirSync(folder, { recursive: true })
  const ledger = new Ledger()
  const chance = new Chance(seed)
  const few = minutes < 5
  const samples = makeSamples(join(folder, 'samples'))
  const target = await Target.start(join(folder, 'data'), ledger)
  const begun = Date.now()
  /** Until when, as a share of the whole time. */
  const share = (part: number): number => begun + part * minutes * 60_000
  const heard = (): void => hear(target, ledger)
  /** A render and every request; gives what the server holds behind them, MB. */
  const work = async (shot: number): Promise<number> => {
    await renderLong(target, ledger, shot)
    await fuzzRequests(target, chance)
    return target.memory()
  }
  try {
    await hostileWatched(target, ledger, samples)
    heard()
    say(`watched folder done after ${((Date.now() - begun) / 1000).toFixed(0)} s`)
    await mutateMedia(target, ledger, chance, samples, share(few ? 0.15 : 0.3))
    heard()
    say(`mutated media done after ${((Date.now() - begun) / 1000).toFixed(0)} s`)
    await fuzzRequests(target, chance, share(few ? 0.25 : 0.5))
    heard()
    say(`fuzzed requests done after ${((Date.now() - begun) / 1000).toFixed(0)} s`)
    const clip = await bringClip(target, folder, few ? 240 : 2000)
    // The same work twice: what it needs at all is held after the first time, and goes by no machine's speed.
    const [first, second] = [await work(clip.shot), await work(clip.shot)]
    heard()
    ledger.holds(MEMORY, second - first < MOST_GROWTH, `${first.toFixed(0)} MB, then ${second.toFixed(0)} MB`)
    ledger.note(
      MEMORY,
      `${first.toFixed(0)} MB after a render and every request, ${second.toFixed(0)} MB after the same again`,
    )
    say(`long render done after ${((Date.now() - begun) / 1000).toFixed(0)} s`)
    await hostileShared(target, ledger)
    await fullDisks(target, ledger, samples, clip)
    await backupOfOneMoment(target, ledger, clip.medium)
    await unreadDownloads(target, ledger)
    await hostileArchives(target, ledger, chance, Date.now() + minutes * 3000)
    heard()
    say(`folders, disks and archives done after ${((Date.now() - begun) / 1000).toFixed(0)} s`)
    const until = Math.max(Date.now() + 15_000, share(0.65))
    await editAndKill(target, ledger, chance, clip.medium, { until, kills: few ? 2 : Math.round(minutes) })
    heard()
    await sweepAll(target)
    await checkLeftOver(target, ledger)
    say(`edits and kills done after ${((Date.now() - begun) / 1000).toFixed(0)} s`)
  } finally {
    ledger.holds('ends when told to', await target.stop(), 'the application did not stop cleanly')
  }
  const short = readFileSync(join(folder, 'samples/sample.mp4'))
  await oddStarts(root, join(folder, 'starts'), ledger, short)
  await closedFiles(root, join(folder, 'closed'), ledger, short)
  say(`starts done after ${((Date.now() - begun) / 1000).toFixed(0)} s`)
  await killAtSteps(root, join(folder, 'steps'), ledger, chance, short, { until: share(1) })
  say(
    `\n${ledger.lines().join('\n')}\n\nseed ${seed}, ${((Date.now() - begun) / 60_000).toFixed(1)} minutes, ${ledger.failures} failed`,
  )
  rmSync(folder, { recursive: true, force: true })
  return ledger.failures
}

/** A stack in the log is an error that nobody thought of. */
function hear(target: Target, ledger: Ledger): void {
  const said = target.said()
  const stack = /[^\n]*\n\s+at [^\n]*/.exec(said)?.[0] ?? /"stack":"[^"]{0,300}/.exec(said)?.[0]
  ledger.holds(LOG, !stack, stack ?? '')
}

/** What a sweep would remove in a day, it removes now: everything is made to look old. */
async function sweepAll(target: Target): Promise<void> {
  const old = new Date(Date.now() - 3 * 24 * 3_600_000)
  for (const folder of ['media', 'cache', 'renders', 'imports', 'backups'])
    for (const name of readable(join(target.data, folder))) utimesSync(join(target.data, folder, name), old, old)
  await target.call('nothing left over', ROUTES.sweep, { body: { dryRun: false } })
}
const readable = (folder: string): string[] => {
  try {
    return readdirSync(folder, { recursive: true }).map(String)
  } catch {
    return []
  }
}
