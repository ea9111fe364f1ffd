import type { Engine } from '../workers/engine'
import type { Wanted } from '../workers/protocol'

const MOST = 240

/**
 * Small pictures made one after the other, the one asked for last first: what has just come into view is what is looked at. Pictures of the
 * same are made once.
 */
export class SmallPictures {
  private readonly made = new Map<string, ImageBitmap>()
  private readonly waiting: { key: string; wanted: Wanted; done: (picture: ImageBitmap | null) => void }[] = []
  private working = false
  private ended = false

  constructor(private readonly side: () => Engine) {}

  /** @returns the picture, or null where it is not wanted any more or cannot be made */
  get(wanted: Wanted): Promise<ImageBitmap | null> {
    const key = JSON.stringify(wanted)
    const known = this.made.get(key)
    if (known) return Promise.resolve(known)
    return new Promise((done) => {
      this.waiting.push({ key, wanted, done })
      void this.work()
    })
  }

  /** What waits is not wanted any more. */
  forget(): void {
    for (const { done } of this.waiting.splice(0)) done(null)
  }

  end(): void {
    this.ended = true
    this.forget()
    for (const picture of this.made.values()) picture.close()
  }

  private async work(): Promise<void> {
    if (this.working) return
    this.working = true
    for (let next = this.waiting.pop(); next; next = this.waiting.pop()) {
      const picture =
        this.made.get(next.key) ??
        (await this.side()
          .thumbnail(next.wanted)
          .catch(() => null))
      if (picture) this.keep(next.key, picture)
      next.done(this.ended ? null : picture)
    }
    this.working = false
  }

  private keep(key: string, picture: ImageBitmap): void {
    this.made.set(key, picture)
    if (this.made.size <= MOST) return
    const [oldest, gone] = this.made.entries().next().value!
    this.made.delete(oldest)
    gone.close()
  }
}
