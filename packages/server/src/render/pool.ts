import { availableParallelism } from 'node:os'
import { existsSync } from 'node:fs'
import { fileURLToPath } from 'node:url'
import type { FrameData } from '@fogbath/core'
import { Piscina } from 'piscina'
import type { FrameTask } from './frame-worker'

/** Threads that work on frames. Built, the worker lies beside the program; from source it runs through tsx. */
export class FramePool {
  private readonly piscina: Piscina
  readonly width: number

  constructor(threads = Math.max(1, Math.min(8, availableParallelism()))) {
    this.width = threads
    const built = fileURLToPath(new URL('./frame-worker.js', import.meta.url))
    const source = fileURLToPath(new URL('./frame-worker.ts', import.meta.url))
    const fromSource = !existsSync(built)
    this.piscina = new Piscina({
      filename: fromSource ? source : built,
      // Threads that have nothing to do go, and with them the pictures of the last render.
      minThreads: 0,
      maxThreads: threads,
      idleTimeout: 30_000,
      ...(fromSource ? { execArgv: ['--import', 'tsx'] } : {}),
    })
  }

  work(task: FrameTask): Promise<FrameData> {
    const transfer = task.data.buffer as ArrayBuffer
    return this.piscina.run(task, { transferList: [transfer] }) as Promise<FrameData>
  }

  close(): Promise<void> {
    return this.piscina.destroy()
  }
}
