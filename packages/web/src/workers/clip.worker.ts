// Decodes a clip that is played, on a thread of its own; see clip/decoder.ts.
import { expose, transfer } from 'comlink'
import { ClipDecoder } from './clip/decoder'
import type { StoredFrame } from './frames'
import type { ClipTraits } from './protocol'

class ClipEngine {
  private decoder: ClipDecoder | null = null

  /** @returns whether the clip can be decoded here */
  async open(url: string, traits: ClipTraits): Promise<boolean> {
    this.decoder?.close()
    this.decoder = await ClipDecoder.open(url, traits)
    return this.decoder !== null
  }

  async frame(index: number, width: number): Promise<StoredFrame> {
    if (!this.decoder) throw new Error('No clip is open.')
    const frame = await this.decoder.frame(index, width)
    return transfer(frame, [frame.data.buffer])
  }
}

export type ClipWorker = ClipEngine
expose(new ClipEngine())
