import { availableParallelism } from 'node:os'
import { Worker } from 'node:worker_threads'
import { kernelMemory, useThreads } from '@fogbath/core/cpu'
import { giveWay } from '../priority'
import { threadFile } from '../threads'

/** Threads that share the work on a picture where nothing else is wished for. */
export const usualThreads = (): number => Math.max(1, Math.min(8, availableParallelism()))

/** The file of the thread that works on frames. */
export const frameThread = (): string => threadFile('frame-worker.js')

/** What a thread for frames is started with. */
export interface ThreadData {
  /** Threads that share the work, this one included. */
  readonly threads: number
  /** Whether they give way to everything else on this machine. */
  readonly polite: boolean
}

/** Starts helpers that share this thread's work on pictures; they end with it. */
export function startHelpers({ threads, polite }: ThreadData): void {
  if (polite) giveWay()
  const file = threadFile('helper-thread.js')
  for (let thread = 1; thread < threads; thread++) {
    const helper = new Worker(file, { workerData: { memory: kernelMemory().memory, thread } })
    // The work goes on without it, only slower.
    helper.on('error', (error) => console.error(`A thread for pictures ended: ${error.message}`))
    helper.unref()
  }
  useThreads(threads)
}
