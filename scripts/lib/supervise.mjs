// Keeps a process running: one that ends by itself is started again, each time after a longer pause.
import { setTimeout as sleep } from 'node:timers/promises'
import { say } from './say.mjs'

/** Pauses before the next attempts, ms; one that ran for a minute begins again at the first. */
const PAUSES = [500, 1000, 2000, 5000, 10_000, 30_000]
const GOOD_MS = 60_000

const ended = (child) =>
  new Promise((done) => (child.exitCode !== null || child.signalCode ? done() : child.once('exit', done)))

/**
 * @param name in what is said
 * @param start makes the process; called again after each end
 * @param again whether an end is followed by another start
 * @returns stop(kill), after which nothing is started any more; renew(kill), after which it is started at once; and failed,
 *   which fails once starting has failed too often
 */
export function supervise(name, start, again = () => true) {
  let child
  let stopping = false
  let endIt = () => undefined
  /** It was ended so that it begins anew: no failure, no pause. */
  let renewing = false
  const failed = (async () => {
    for (let attempt = 0; !stopping; attempt++) {
      const begun = Date.now()
      try {
        child = await start()
        // Asked to stop while it was starting.
        if (stopping) return void (await endIt(child))
        await ended(child)
      } catch (error) {
        if (stopping) return
        if (attempt + 1 >= PAUSES.length) throw error
        say(error.message)
      }
      if (stopping || !again()) return
      if (renewing) {
        renewing = false
        attempt = -1
        continue
      }
      if (Date.now() - begun > GOOD_MS) attempt = 0
      const pause = PAUSES[Math.min(attempt, PAUSES.length - 1)]
      say(`${name} has stopped; it is started again in ${pause / 1000} s.`)
      await sleep(pause)
    }
  })()
  // Heard by whoever waits for it; until then it must not count as unhandled.
  failed.catch(() => undefined)
  return {
    failed,
    renew: async (end) => {
      if (!child || stopping) return
      renewing = true
      await end(child)
    },
    stop: async (end) => {
      stopping = true
      endIt = end
      if (child) await end(child)
    },
  }
}

/** Asks a process to end, and ends it when it takes too long. */
export async function endWithin(child, ms) {
  child.kill('SIGTERM')
  const late = setTimeout(() => child.kill('SIGKILL'), ms)
  await ended(child)
  clearTimeout(late)
}
