/** Makes a thing once for each key and keeps the youngest few; what was asked for longest ago goes first. */
export class Kept<T> {
  private readonly things = new Map<string, T>()

  /** @param most things that are kept */
  constructor(private readonly most: number) {}

  get(key: string, make: () => T): T {
    const thing = this.things.has(key) ? this.things.get(key)! : make()
    // Maps keep the order of insertion: putting it in again makes it the youngest.
    this.things.delete(key)
    this.things.set(key, thing)
    if (this.things.size > this.most) this.things.delete(this.things.keys().next().value!)
    return thing
  }
}
