import { ROUTES, addressOf } from '@fogbath/contract'
import { keyOfReading } from '@fogbath/core/footage'
import type { FrameFormat } from '@fogbath/core/cpu'
import { LRUCache } from 'lru-cache'
import { stillOf } from './compare'
import type { FootageSource } from './protocol'

export interface StoredFrame {
  readonly data: Uint16Array
  readonly width: number
  readonly height: number
  readonly format: Extract<FrameFormat, 'u16' | 'f16'>
  /** It was made of a small copy of the footage. */
  readonly proxy?: boolean
}

/** Where frames may come from instead of the server. */
export type FrameSupply = (mediumId: number, frame: number, width: number) => Promise<StoredFrame> | null

/** Decoded frames fetched from the server, or from a supply while there is one; kept within a budget of bytes; what was used longest ago goes first. */
export class FrameStore {
  private readonly frames: LRUCache<string, StoredFrame>
  private readonly underway = new Map<string, Promise<StoredFrame>>()
  /** Where it fails, the server is asked. */
  supply: FrameSupply | undefined

  constructor(budget: number) {
    this.frames = new LRUCache({ maxSize: budget, sizeCalculation: ({ data }) => data.byteLength })
  }

  get(footage: FootageSource, frame: number, width: number): Promise<StoredFrame> {
    const { mediumId, reading } = footage
    const key = `${mediumId}/${keyOfReading(reading)}/${frame}/${width}`
    return this.once(key, () => this.supplied(footage, frame, width))
  }

  /** A frame of what was rendered. */
  rendered(renderId: number, frame: number, width: number): Promise<StoredFrame> {
    const address = addressOf(ROUTES.renderFrame, { params: { id: renderId, frame }, query: { width } })
    return this.once(address, () => fetchFrame(address, frame))
  }

  /** A picture file as a frame of the given width. */
  file(url: string, width: number): Promise<StoredFrame> {
    return this.once(`${url}/${width}`, () => decodeFile(url, width))
  }

  private once(key: string, make: () => Promise<StoredFrame>): Promise<StoredFrame> {
    const known = this.frames.get(key)
    if (known) return Promise.resolve(known)
    let run = this.underway.get(key)
    if (!run) {
      run = make()
        .then((stored) => {
          this.frames.set(key, stored)
          return stored
        })
        .finally(() => this.underway.delete(key))
      this.underway.set(key, run)
    }
    return run
  }

  private async supplied(footage: FootageSource, frame: number, width: number): Promise<StoredFrame> {
    const own = await this.supply?.(footage.mediumId, frame, width)?.catch(() => null)
    return own ?? this.fetch(footage, frame, width)
  }

  private fetch({ mediumId, reading }: FootageSource, frame: number, width: number): Promise<StoredFrame> {
    const asked = { params: { id: mediumId, frame }, query: { width, ...reading } }
    return fetchFrame(addressOf(ROUTES.frame, asked), frame)
  }
}

async function fetchFrame(address: string, frame: number): Promise<StoredFrame> {
  const response = await fetch(address)
  if (!response.ok)
    throw new Error(((await response.json()) as { message?: string }).message ?? `Frame ${frame} could not be read.`)
  const number = (name: string): number => Number(response.headers.get(name))
  const format = response.headers.get('x-frame-format') === 'f16' ? 'f16' : 'u16'
  const data = new Uint16Array(await response.arrayBuffer())
  const size = { width: number('x-frame-width'), height: number('x-frame-height') }
  return { data, ...size, format, proxy: response.headers.get('x-frame-proxy') === '1' }
}

/** Eight bits a channel, as the browser decodes it. */
async function decodeFile(url: string, width: number): Promise<StoredFrame> {
  const blob = await (await fetch(url)).blob()
  const { data, ...size } = stillOf(await createImageBitmap(blob, { resizeWidth: width, resizeQuality: 'high' }))
  const codes = new Uint16Array((data.length / 4) * 3)
  for (let i = 0; i < codes.length; i++) codes[i] = Math.round(65535 * data[4 * Math.floor(i / 3) + (i % 3)]!)
  return { data: codes, ...size, format: 'u16' }
}
