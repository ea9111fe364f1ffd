import { MessageChannel } from 'node:worker_threads'
import { Piscina } from 'piscina'
import { Fault } from '../errors'
import { threadFile } from '../threads'
import type { ProveTask } from './prove'
import { answered, type Refusal } from '../refusal'
import type { Progress, ProveWork } from './prove-worker'
import type { Proved } from './unpacked'

/** What the thread may hold, MB: the longest text that is read, and what is made of it. */
const MOST_MEMORY_MB = 3072
const IDLE_MS = 10_000

/** Proves backups in a thread of its own, which can be ended: whoever works is not held up by what somebody brought. */
export class ProveThread {
  private readonly piscina = new Piscina({
    filename: threadFile('prove-worker.js'),
    // When there is nothing to do the thread goes, and with it what it holds.
    minThreads: 0,
    maxThreads: 1,
    idleTimeout: IDLE_MS,
    resourceLimits: { maxOldGenerationSizeMb: MOST_MEMORY_MB },
  })

  /** @param tell is told how many bytes of how many have been proved */
  async prove(task: ProveTask, tell: (done: number, of: number) => void, signal: AbortSignal): Promise<Proved> {
    const { port1, port2 } = new MessageChannel()
    port1.on('message', ({ done, of }: Progress) => tell(done, of))
    try {
      const work: ProveWork = { task, port: port2 }
      const answer: Promise<Proved | Refusal> = this.piscina.run(work, { transferList: [port2], signal })
      return answered(await answer)
    } catch (error) {
      if (signal.aborted) throw new Fault('busy', `${task.label} was put away before it was proved.`)
      if ((error as { code?: string }).code === 'ERR_WORKER_OUT_OF_MEMORY')
        throw new Fault('media', `${task.label} holds more than can be read at once. Nothing was changed.`)
      throw error
    } finally {
      port1.close()
    }
  }

  close(): Promise<void> {
    return this.piscina.destroy()
  }
}
