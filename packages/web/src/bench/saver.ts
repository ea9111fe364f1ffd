import { ref, type Ref } from 'vue'
import { ApiError } from '../api/client'

export type SaveState = 'saved' | 'changed' | 'saving' | 'offline' | 'conflict' | 'refused'

export interface Saver {
  readonly state: Readonly<Ref<SaveState>>
  readonly message: Readonly<Ref<string>>
  /** Says that there is something to save. */
  readonly touch: () => void
  /** Saves at once what is unsaved. */
  readonly flush: () => Promise<void>
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
  const message = ref('')
  let timer: ReturnType<typeof setTimeout> | undefined
  let running: Promise<void> | undefined
  let again = false

  const save = async (): Promise<void> => {
    if (running) {
      again = true
      return running
    }
    state.value = 'saving'
    running = write().then(
      () => {
        message.value = ''
        if (state.value === 'saving') state.value = 'saved'
      },
      (error: unknown) => {
        message.value = error instanceof Error ? error.message : String(error)
        const status = error instanceof ApiError ? error.status : -1
        state.value = status === 409 ? 'conflict' : status === 0 || status >= 500 ? 'offline' : 'refused'
        if (state.value === 'offline') timer = setTimeout(() => void save(), RETRY_MS)
      },
    )
    await running
    running = undefined
    if (again && (state.value as SaveState) !== 'conflict') {
      again = false
      await save()
    }
  }

  return {
    state,
    message,
    touch: () => {
      if (state.value === 'conflict') return
      if (state.value !== 'offline') state.value = 'changed'
      clearTimeout(timer)
      timer = setTimeout(() => void save(), WAIT_MS)
    },
    flush: async () => {
      clearTimeout(timer)
      if (state.value === 'changed' || state.value === 'offline') await save()
      else await running
    },
    reset: () => {
      clearTimeout(timer)
      again = false
      message.value = ''
      state.value = 'saved'
    },
  }
}
