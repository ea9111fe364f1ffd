import type { FrameData } from '@fogbath/core/cpu'
import { Piscina } from 'piscina'
import type { FrameTask } from './frame-worker'
import { frameThread, usualThreads, type ThreadData } from './threads'

/** Frames under way at once: one is worked on while others are decoded and written. */
const UNDER_WAY = 3

/** A thread that works on frames, with helpers that share each frame out among them. */
export class FramePool {
  private readonly piscina: Piscina
  readonly width = UNDER_WAY

  /** @param polite whether the work gives way to everything else on this machine, as renders in the background do */
  constructor({ threads = usualThreads(), polite = false } = {}) {
    this.piscina = new Piscina({
      filename: frameThread(),
      // When there is nothing to do the thread goes, and with it the pictures of the last render.
      minThreads: 0,
      maxThreads: 1,
      idleTimeout: 30_000,
      workerData: { threads, polite } satisfies ThreadData,
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
