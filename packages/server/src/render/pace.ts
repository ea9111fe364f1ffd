/** How quickly renders go, measured since each was begun or taken up again. */
export class Pace {
  private readonly begun = new Map<number, { readonly since: number; readonly from: number }>()

  /** @param from frames that were done already */
  begin(id: number, from: number): void {
    this.begun.set(id, { since: Date.now(), from })
  }

  end(id: number): void {
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
