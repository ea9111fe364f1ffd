import { CUT_DEFAULTS, type CutFinder, type CutOptions } from '@fogbath/core/edits'
import { keyOfReading, type Reading } from '@fogbath/core/footage'
import { LRUCache } from 'lru-cache'
import PQueue from 'p-queue'
import type { MediaInfo, Reply, ROUTES } from '@fogbath/contract'
import { sentenceOf } from '../errors'
import { lookForCuts } from './cuts'
import type { Source } from './source'

interface Search {
  done: number
  finder: CutFinder | null
  message: string | null
  readonly abort: AbortController
}
/** Footage that was looked through is remembered, some bytes a frame. */
const MOST_KNOWN = 50

/** Looks footage through for cuts in the background, one after the other; other thresholds need no second look. */
export class CutSearches {
  private readonly known = new LRUCache<string, Search>({ max: MOST_KNOWN })
  private readonly queue = new PQueue({ concurrency: 1 })

  /** How far it is; begins where nobody has begun, or where it failed before. */
  of(
    medium: { readonly sha256: string; readonly info: MediaInfo },
    reading: Reading,
    source: Source,
    options: Partial<CutOptions>,
  ): Reply<typeof ROUTES.cuts> {
    const key = `${medium.sha256} ${keyOfReading(reading)}`
    let search = this.known.get(key)
    if (!search) {
      search = { done: 0, finder: null, message: null, abort: new AbortController() }
      this.known.set(key, search)
      void this.queue.add(() => this.look(search!, source, medium.info))
    }
    const { done, finder, message } = search
    if (message !== null) this.known.delete(key)
    return {
      state: message !== null ? 'failed' : finder ? 'found' : 'looking',
      done,
      of: medium.info.frames,
      cuts: finder?.end({ ...CUT_DEFAULTS, ...options }) ?? [],
      message,
    }
  }

  /** Gives up what is looked for in footage. */
  stop({ sha256 }: { readonly sha256: string }): void {
    for (const [key, search] of [...this.known.entries()])
      if (key.startsWith(sha256) && !search.finder) {
        search.abort.abort()
        this.known.delete(key)
      }
  }

  async close(): Promise<void> {
    for (const search of this.known.values()) search.abort.abort()
    await this.queue.onIdle()
  }

  private async look(search: Search, source: Source, info: MediaInfo): Promise<void> {
    const { signal } = search.abort
    if (signal.aborted) return
    try {
      search.finder = await lookForCuts(source, info, { onFrame: (done) => (search.done = done), signal })
    } catch (error) {
      search.message = signal.aborted ? 'Looking for cuts was stopped.' : sentenceOf(error)
    }
  }
}
