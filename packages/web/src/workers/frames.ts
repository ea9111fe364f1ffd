import type { FrameFormat } from '@fogbath/core'
import { stillOf } from './compare'

export interface StoredFrame {
  readonly data: Uint16Array
  readonly width: number
  readonly height: number
  readonly format: Extract<FrameFormat, 'u16' | 'f16'>
}

/** Where frames may come from instead of the server. */
export type FrameSupply = (mediumId: number, frame: number, width: number) => Promise<StoredFrame> | null

/** Decoded frames fetched from the server, or from a supply while there is one; kept within a budget of bytes; what was used longest ago goes first. */
export class FrameStore {
  private readonly frames = new Map<string, StoredFrame>()
  private readonly underway = new Map<string, Promise<StoredFrame>>()
  private bytes = 0
  /** Where it fails, the server is asked. */
  supply: FrameSupply | undefined

  constructor(private readonly budget: number) {}

  peek = (mediumId: number, frame: number, width: number): StoredFrame | undefined =>
    this.kept(`${mediumId}/${frame}/${width}`)

  private kept(key: string): StoredFrame | undefined {
    const found = this.frames.get(key)
    if (found) {
      // Maps keep the order of insertion: putting it in again makes it the youngest.
      this.frames.delete(key)
      this.frames.set(key, found)
    }
    return found
  }

  get(mediumId: number, frame: number, width: number): Promise<StoredFrame> {
    return this.once(`${mediumId}/${frame}/${width}`, () => this.supplied(mediumId, frame, width))
  }

  /** A picture file as a frame of the given width. */
  file(url: string, width: number): Promise<StoredFrame> {
    return this.once(`${url}/${width}`, () => decodeFile(url, width))
  }

  private once(key: string, make: () => Promise<StoredFrame>): Promise<StoredFrame> {
    const known = this.kept(key)
    if (known) return Promise.resolve(known)
    let run = this.underway.get(key)
    if (!run) {
      run = make()
        .then((stored) => this.keep(key, stored))
        .finally(() => this.underway.delete(key))
      this.underway.set(key, run)
    }
    return run
  }

  private async supplied(mediumId: number, frame: number, width: number): Promise<StoredFrame> {
    const own = await this.supply?.(mediumId, frame, width)?.catch(() => null)
    return own ?? this.fetch(mediumId, frame, width)
  }

  private async fetch(mediumId: number, frame: number, width: number): Promise<StoredFrame> {
    const response = await fetch(`/api/media/${mediumId}/frames/${frame}?width=${width}`)
    if (!response.ok)
      throw new Error(((await response.json()) as { message?: string }).message ?? `Frame ${frame} could not be read.`)
    const number = (name: string): number => Number(response.headers.get(name))
    const format = response.headers.get('x-frame-format') === 'f16' ? 'f16' : 'u16'
    const data = new Uint16Array(await response.arrayBuffer())
    return { data, width: number('x-frame-width'), height: number('x-frame-height'), format }
  }

  private keep(key: string, stored: StoredFrame): StoredFrame {
    this.frames.set(key, stored)
    this.bytes += stored.data.byteLength
    for (const [oldest, frame] of this.frames) {
      if (this.bytes <= this.budget) break
      this.frames.delete(oldest)
      this.bytes -= frame.data.byteLength
    }
    return stored
  }
}

/** Eight bits a channel, as the browser decodes it. */
async function decodeFile(url: string, width: number): Promise<StoredFrame> {
  const blob = await (await fetch(url)).blob()
  const { data, ...size } = stillOf(await createImageBitmap(blob, { resizeWidth: width, resizeQuality: 'high' }))
  const codes = new Uint16Array((data.length / 4) * 3)
  for (let i = 0; i < codes.length; i++) codes[i] = Math.round(65535 * data[4 * Math.floor(i / 3) + (i % 3)]!)
  return { data: codes, ...size, format: 'u16' }
}
