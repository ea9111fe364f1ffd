import { existsSync } from 'node:fs'
import { availableParallelism } from 'node:os'
import { fileURLToPath } from 'node:url'
import { Worker } from 'node:worker_threads'
import { kernelMemory, useThreads } from '@fogbath/core'

/** Threads that share the work on a picture where nothing else is wished for. */
export const usualThreads = (): number => Math.max(1, Math.min(8, availableParallelism()))

const beside = (name: string): string => fileURLToPath(new URL(`./${name}`, import.meta.url))

/** The file of the thread that works on frames: built it lies beside the program, from source it runs through tsx. */
export const frameThread = (): { filename: string; execArgv?: string[] } =>
  existsSync(beside('frame-worker.js'))
    ? { filename: beside('frame-worker.js') }
    : { filename: beside('frame-worker.ts'), execArgv: ['--import', 'tsx'] }

/**
 * Starts helpers that share this thread's work on pictures; they end with it. From source there are none, because a
 * thread cannot begin with a TypeScript file. @param threads this one included
 */
export function startHelpers(threads: number): void {
  const file = beside('helper-thread.js')
  if (!existsSync(file)) return
  for (let thread = 1; thread < threads; thread++) {
    const helper = new Worker(file, { workerData: { memory: kernelMemory().memory, thread } })
    // The work goes on without it, only slower.
    helper.on('error', (error) => console.error(`A thread for pictures ended: ${error.message}`))
    helper.unref()
  }
  useThreads(threads)
}
