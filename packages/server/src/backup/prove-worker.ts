import type { MessagePort } from 'node:worker_threads'
import { refusalOf, type Refusal } from '../refusal'
import { proveBackup, type ProveTask } from './prove'
import type { Proved } from './unpacked'

export interface Progress {
  readonly done: number
  readonly of: number
}
export interface ProveWork {
  readonly task: ProveTask
  /** Is told how it goes on. */
  readonly port: MessagePort
}

export default async function prove({ task, port }: ProveWork): Promise<Proved | Refusal> {
  try {
    return await proveBackup(task, (done, of) => port.postMessage({ done, of } satisfies Progress))
  } catch (error) {
    return refusalOf(error)
  }
}
