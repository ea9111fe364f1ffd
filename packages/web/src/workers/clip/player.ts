import { ROUTES, addressOf } from '@fogbath/contract'
import { wrap, type Remote } from 'comlink'
import type { ClipWorker } from '../clip.worker'
import type { FrameSupply } from '../frames'
import type { PlayRequest } from '../protocol'

/** Frames of the clip that is played, decoded in the page where that can be done. */
export class ClipPlayer {
  private engine: Remote<ClipWorker> | undefined
  /** The clip that is open, or that could not be opened. */
  private known: { readonly mediumId: number; readonly usable: boolean } | undefined

  /** Opens a clip, in place of the one before; where it cannot be decoded here, the server has to. */
  async open(clip: NonNullable<PlayRequest['clip']>): Promise<void> {
    if (typeof VideoDecoder === 'undefined') return
    const { mediumId, ...traits } = clip
    if (this.known?.mediumId === mediumId) return
    this.known = undefined
    this.engine ??= wrap<ClipWorker>(new Worker(new URL('../clip.worker.ts', import.meta.url), { type: 'module' }))
    const url = `${self.location.origin}${addressOf(ROUTES.mediumFile, { params: { id: mediumId } })}`
    this.known = { mediumId, usable: await this.engine.open(url, traits) }
  }

  /** A frame of the clip that is open; null for others. */
  readonly frame: FrameSupply = (medium, frame, width) =>
    this.known?.usable && this.known.mediumId === medium ? this.engine!.frame(frame, width) : null
}
