import { MessageChannel } from 'node:worker_threads'
import type { Tracking } from '@fogbath/contract'
import { newId } from '@fogbath/core/line'
import { trackOf, type Tracked } from '@fogbath/core/tracking'
import { LRUCache } from 'lru-cache'
import { Piscina } from 'piscina'
import { Fault, sentenceOf } from '../errors'
import { answered, type Refusal } from '../refusal'
import { threadFile } from '../threads'
import { framesTracked, type ShapeFound } from './tracking'
import type { TrackStep, TrackTask, TrackWork } from './tracking-worker'

const IDLE_MS = 10_000
/** So many are remembered for whoever asked. */
const MOST_KNOWN = 50

interface Kept {
  state: Tracking['state']
  done: number
  readonly of: number
  readonly found: Tracked[]
  lost: readonly number[]
  message: string | null
  readonly id: string
  readonly task: TrackTask
  readonly stop: () => void
}

/** Follows shapes through footage in a thread of its own, one after the other. */
export class Trackings {
  private readonly known = new LRUCache<string, Kept>({ max: MOST_KNOWN })
  private readonly piscina = new Piscina({
    filename: threadFile('tracking-worker.js'),
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: IDLE_MS,
  })
  private readonly under = new Set<Kept>()

  /** @param id of the track that is made */
  begin(id: string, task: Required<TrackTask>): Tracking {
    const key = newId()
    const { port1, port2 } = new MessageChannel()
    const kept: Kept = {
      state: 'waiting',
      done: 0,
      of: framesTracked(task.frame, task.way, task.range),
      found: [],
      lost: [],
      message: null,
      id,
      task,
      stop: () => port1.postMessage('stop'),
    }
    port1.on('message', ({ done, found }: TrackStep) => {
      kept.state = 'tracking'
      kept.done = done
      if (found) kept.found.push(found)
    })
    this.known.set(key, kept)
    this.under.add(kept)
    void this.follow(kept, { task, port: port2 }).finally(() => {
      this.under.delete(kept)
      port1.close()
    })
    return told(key, kept)
  }

  of(key: string): Tracking {
    return told(key, this.one(key))
  }

  /** Stops one where it is; what it found is kept. */
  end(key: string): Tracking {
    const kept = this.one(key)
    if (kept.state === 'waiting' || kept.state === 'tracking') {
      kept.stop()
      kept.state = 'done'
    }
    return told(key, kept)
  }

  async close(): Promise<void> {
    for (const kept of this.under) kept.stop()
    await this.piscina.destroy()
  }

  private one(key: string): Kept {
    const kept = this.known.get(key)
    if (!kept) throw new Fault('not-found', `There is no tracking ${key}; it may have been begun before a restart.`)
    return kept
  }

  private async follow(kept: Kept, work: TrackWork): Promise<void> {
    try {
      const answer: Promise<ShapeFound | Refusal> = this.piscina.run(work, { transferList: [work.port] })
      const { found, lost } = answered(await answer)
      if (kept.state === 'done') return
      kept.found.splice(0, Infinity, ...found)
      Object.assign(kept, { state: 'done', lost })
    } catch (error) {
      // What was stopped ends with an error of its own.
      if (kept.state !== 'done') Object.assign(kept, { state: 'failed', message: sentenceOf(error) })
    }
  }
}

function told(key: string, { state, done, of, found, lost, message, id, task }: Kept): Tracking {
  const inOrder = [...found].sort((a, b) => a.frame - b.frame)
  const track = inOrder.length > 0 ? trackOf(id, task.frame, task.motions, { found: inOrder, lost }) : null
  return { key, state, done, of, track, message }
}
