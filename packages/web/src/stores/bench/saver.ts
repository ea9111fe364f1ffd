import { computed, ref, shallowReactive, type Ref } from 'vue'
import { ApiError } from '../../api/client'

export type SaveState = 'saved' | 'changed' | 'saving' | 'offline' | 'conflict' | 'refused'

export interface Saver {
  readonly state: Readonly<Ref<SaveState>>
  readonly message: Readonly<Ref<string>>
  /** Says that there is something to save. */
  readonly touch: () => void
  /** Saves at once all that is unsaved; fails where that does not succeed. */
  readonly flush: () => Promise<void>
  /** Nothing is left to save, or a conflict has been settled. */
  readonly reset: () => void
}

const WAIT_MS = 350
const RETRY_MS = 2000

/**
 * Saves shortly after each change, one write at a time. Without an answer it keeps trying; on a conflict it stops and
 * waits for a decision, so that nothing is written over.
 * @param write sends the newest state; called again if more has changed meanwhile
 */
export function makeSaver(write: () => Promise<void>): Saver {
  const state = ref<SaveState>('saved')
  const failure = ref<Error | null>(null)
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | undefined
  /** Something has changed that no write has been begun for. */
  let unsent = false
  /** Counts resets: what a write that was under way then has to say is not heard. */
  let round = 0

  async function attempt(): Promise<void> {
    unsent = false
    state.value = 'saving'
    const mine = round
    try {
      await write()
      if (mine !== round) return
      failure.value = null
      state.value = unsent ? 'changed' : 'saved'
    } catch (error) {
      if (mine !== round) return
      failure.value = error instanceof Error ? error : new Error(String(error))
      const status = error instanceof ApiError ? error.status : -1
      state.value = status === 409 ? 'conflict' : status === 0 || status >= 500 ? 'offline' : 'refused'
      if (state.value === 'offline') wait(RETRY_MS)
    }
  }

  async function run(): Promise<void> {
    do await attempt()
    while (unsent && (state.value === 'changed' || state.value === 'refused'))
  }

  const save = (): Promise<void> => (running ??= run().finally(() => (running = undefined)))

  function wait(ms: number): void {
    clearTimeout(timer)
    timer = setTimeout(() => void save(), ms)
  }

  return {
    state,
    message: computed(() => failure.value?.message ?? ''),
    touch: () => {
      unsent = true
      // In a conflict nothing is sent; while a write is under way the next one follows it at once.
      if (state.value === 'conflict' || state.value === 'saving') return
      if (state.value !== 'offline') state.value = 'changed'
      wait(WAIT_MS)
    },
    flush: async () => {
      clearTimeout(timer)
      if (running || state.value === 'changed' || state.value === 'offline') await save()
      if (state.value !== 'saved' && failure.value) throw failure.value
    },
    reset: () => {
      clearTimeout(timer)
      round++
      unsent = false
      failure.value = null
      state.value = 'saved'
    },
  }
}

const ORDER: readonly SaveState[] = ['conflict', 'refused', 'offline', 'saving', 'changed', 'saved']

/** Savers by the name of what they save, so that what waits belongs to its shot or trial and not to what is open. */
export function makeOutbox() {
  const savers = shallowReactive(new Map<string, Saver>())

  /** @param write sends the newest state of the thing of that name */
  function touch(name: string, write: () => Promise<void>): void {
    let saver = savers.get(name)
    if (!saver) savers.set(name, (saver = makeSaver(write)))
    saver.touch()
  }

  /** Saves all that waits; fails with the first thing that could not be saved, once everything was tried. */
  async function flush(): Promise<void> {
    const results = await Promise.allSettled([...savers.values()].map((saver) => saver.flush()))
    const failed = results.find((r) => r.status === 'rejected')
    if (failed) throw failed.reason
  }

  const all = (): Saver[] => [...savers.values()]
  return {
    touch,
    flush,
    /** What is of that name is settled; nothing of it waits any more. */
    settle: (name: string): void => savers.get(name)?.reset(),
    state: computed<SaveState>(() => ORDER.find((x) => all().some((saver) => saver.state.value === x)) ?? 'saved'),
    message: computed(() => all().find((saver) => saver.message.value)?.message.value ?? ''),
  }
}
export type Outbox = ReturnType<typeof makeOutbox>
