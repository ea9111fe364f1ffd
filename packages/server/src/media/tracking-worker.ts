import type { MessagePort } from 'node:worker_threads'
import type { MediaInfo } from '@fogbath/contract'
import type { MaskPart } from '@fogbath/core/masks'
import type { Tracked } from '@fogbath/core/tracking'
import { giveWay } from '../priority'
import { refusalOf, type Refusal } from '../refusal'
import type { Source } from './source'
import { trackShape, type ShapeFound, type TrackOptions } from './tracking'

export interface TrackTask extends Pick<TrackOptions, 'frame' | 'motions' | 'way' | 'range'> {
  readonly source: Source
  readonly info: MediaInfo
  readonly part: MaskPart
}
/** How it goes on: frames that were looked at, and what was found in the last. */
export interface TrackStep {
  readonly done: number
  readonly found: Tracked | null
}
export interface TrackWork {
  readonly task: TrackTask
  /** Is told of each frame; stops the work when it says anything. */
  readonly port: MessagePort
}

giveWay()

export default async function track({ task, port }: TrackWork): Promise<ShapeFound | Refusal> {
  const stop = new AbortController()
  port.once('message', () => stop.abort())
  const { source, info, part, ...options } = task
  const onFrame = (done: number, found: Tracked | null): void => port.postMessage({ done, found } satisfies TrackStep)
  try {
    return await trackShape(source, info, part, { ...options, onFrame, signal: stop.signal })
  } catch (error) {
    return refusalOf(error)
  } finally {
    port.close()
  }
}
