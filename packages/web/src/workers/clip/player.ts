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

  /** @returns null where the server has to decode */
  async supplyFor(clip: PlayRequest['clip']): Promise<FrameSupply | null> {
    if (!clip || typeof VideoDecoder === 'undefined') return null
    const { mediumId, ...traits } = clip
    if (this.known?.mediumId !== mediumId) {
      this.engine ??= wrap<ClipWorker>(new Worker(new URL('../clip.worker.ts', import.meta.url), { type: 'module' }))
      const url = `${self.location.origin}${addressOf(ROUTES.mediumFile, { params: { id: mediumId } })}`
      this.known = { mediumId, usable: await this.engine.open(url, traits) }
    }
    if (!this.known.usable) return null
    return (medium, frame, width) => (medium === mediumId ? this.engine!.frame(frame, width) : null)
  }
}
