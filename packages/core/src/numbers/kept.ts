/** Makes a thing once for each key and keeps the youngest few; what was asked for longest ago goes first. */
export class Kept<T> {
  private readonly things = new Map<string, T>()

  /** @param most things that are kept @param gone is told of each thing that goes */
  constructor(
    private readonly most: number,
    private readonly gone?: (thing: T) => void,
  ) {}

  get(key: string, make: () => T): T {
    const thing = this.things.has(key) ? this.things.get(key)! : make()
    // Maps keep the order of insertion: putting it in again makes it the youngest.
    this.things.delete(key)
    this.things.set(key, thing)
    if (this.things.size > this.most) {
      const [oldest, old] = this.things.entries().next().value!
      this.things.delete(oldest)
      this.gone?.(old)
    }
    return thing
  }
}
