/** Pixels of the picture that speeds are told of. */
export const HD = 1920 * 1080

interface Begun {
  readonly since: number
  readonly from: number
  /** Of a frame. */
  readonly pixels: number
}

/** How quickly renders go, measured since each was begun or taken up again. */
export class Pace {
  private readonly begun = new Map<number, Begun>()
  /** HD frames a second of the render that ended last; null before the first. */
  last: number | null = null

  /** @param from frames that were done already @param pixels of a frame */
  begin(id: number, from: number, pixels: number): void {
    this.begun.set(id, { since: Date.now(), from, pixels })
  }

  /** @param done frames that are done now */
  end(id: number, done: number): void {
    const { rate } = this.of(id, done, done)
    if (rate !== null) this.last = (rate * this.begun.get(id)!.pixels) / HD
    this.begun.delete(id)
  }

  /** Frames a second and seconds left; null while they cannot be told. */
  of(id: number, done: number, count: number): { readonly rate: number | null; readonly left: number | null } {
    const begun = this.begun.get(id)
    const made = begun ? done - begun.from : 0
    if (!begun || made <= 0) return { rate: null, left: null }
    const rate = made / ((Date.now() - begun.since) / 1000)
    return { rate, left: Math.round((count - done) / rate) }
  }
}
