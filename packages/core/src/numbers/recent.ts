import { LRUCache } from 'lru-cache'

/** Makes a thing once for each key and has the last few; what was asked for longest ago goes first. */
export class Recent<T> {
  private readonly things: LRUCache<string, { readonly thing: T }>

  /** @param most things that are there at a time @param gone is told of each thing that goes */
  constructor(most: number, gone?: (thing: T) => void) {
    this.things = new LRUCache({ max: most, ...(gone && { dispose: ({ thing }) => gone(thing) }) })
  }

  get(key: string, make: () => T): T {
    const known = this.things.get(key)
    if (known) return known.thing
    const thing = make()
    this.things.set(key, { thing })
    return thing
  }
}
