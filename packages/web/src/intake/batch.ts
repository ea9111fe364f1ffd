import type { Group } from '@fogbath/core/footage'
import PQueue from 'p-queue'
import { reactive } from 'vue'
import { wordsOf } from '../stores/errors'

type ItemState = 'waiting' | 'comparing' | 'sending' | 'reading' | 'taken' | 'known' | 'back' | 'refused' | 'stopped'
/** A file or a sequence on its way in. */
export interface BatchItem {
  readonly key: number
  readonly name: string
  readonly bytes: number
  state: ItemState
  /** Bytes that are sent. */
  sent: number
  /** Why it was refused. */
  message: string
}

/** What a batch does with a group of files; each fails for itself. */
export interface BatchWork {
  /** Takes what is here already without sending it. @returns whether it was */
  readonly known: (group: Group<File>, signal: AbortSignal) => Promise<boolean>
  /** @returns whether it was missing and its shots have it again */
  readonly send: (group: Group<File>, onSent: (bytes: number) => void, signal: AbortSignal) => Promise<boolean>
}

export const filesOf = (group: Group<File>): readonly File[] => (group.type === 'file' ? [group.file] : group.files)
const nameOf = (group: Group<File>): string => {
  const [first, last] = [filesOf(group)[0]!, filesOf(group).at(-1)!]
  return group.type === 'file' ? first.name : `${first.name} to ${last.name}`
}
let keys = 0

/** Files on their way in: what is known is not sent, each has its own progress, all can be stopped. */
export class Batch {
  readonly items: BatchItem[] = reactive([])
  /** One after the other, so that shots stand in the order of their files. */
  private readonly queue = new PQueue({ concurrency: 1 })
  private stopping = new AbortController()

  constructor(private readonly work: BatchWork) {}

  get bytes(): number {
    return this.items.reduce((sum, i) => sum + i.bytes, 0)
  }
  /** What is known already counts as sent. */
  get sent(): number {
    return this.items.reduce((sum, i) => sum + (isOver(i) ? i.bytes : i.sent), 0)
  }
  get over(): boolean {
    return this.items.every(isOver)
  }

  /** @returns once all of these are over */
  async add(groups: readonly Group<File>[]): Promise<void> {
    if (this.over) this.items.splice(0)
    const { signal } = this.stopping
    const added = groups.map((group) => {
      const bytes = filesOf(group).reduce((sum, f) => sum + f.size, 0)
      const item = reactive<BatchItem>({
        key: ++keys,
        name: nameOf(group),
        bytes,
        state: 'waiting',
        sent: 0,
        message: '',
      })
      this.items.push(item)
      return this.queue.add(() => this.take(group, item, signal))
    })
    await Promise.all(added)
  }

  /** What is not over yet is given up; what was taken in stays. */
  stop(): void {
    this.stopping.abort()
    this.stopping = new AbortController()
    for (const item of this.items) if (!isOver(item)) item.state = 'stopped'
  }

  private async take(group: Group<File>, item: BatchItem, signal: AbortSignal): Promise<void> {
    try {
      if (signal.aborted) return
      item.state = 'comparing'
      if (await this.work.known(group, signal)) {
        if (!signal.aborted) item.state = 'known'
        return
      }
      signal.throwIfAborted()
      item.state = 'sending'
      const back = await this.work.send(group, (bytes) => this.tell(item, bytes), signal)
      item.state = back ? 'back' : 'taken'
    } catch (error) {
      if (signal.aborted) return
      item.state = 'refused'
      item.message = wordsOf(error)
    }
  }

  private tell(item: BatchItem, bytes: number): void {
    item.sent = Math.min(item.bytes, bytes)
    if (item.state === 'sending' && item.sent >= item.bytes) item.state = 'reading'
  }
}

const isOver = ({ state }: BatchItem): boolean =>
  state === 'taken' || state === 'known' || state === 'back' || state === 'refused' || state === 'stopped'
