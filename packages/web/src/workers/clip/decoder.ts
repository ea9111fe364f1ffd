import { PlanesReader } from '@fogbath/core/cpu'
import { EncodedPacketSink, Input, MP4, QTFF, UrlSource, VideoSampleSink, type VideoSample } from 'mediabunny'
import type { StoredFrame } from '../frames'
import type { ClipTraits } from '../protocol'

/** Formats of planes that browsers hand out: how many times fewer chroma samples along and down, and bits. */
const FORMATS: Readonly<Record<string, { readonly chroma: readonly [1 | 2, 1 | 2]; readonly bits: number }>> = {
  I420: { chroma: [2, 2], bits: 8 },
  NV12: { chroma: [2, 2], bits: 8 },
  I422: { chroma: [2, 1], bits: 8 },
  I444: { chroma: [1, 1], bits: 8 },
  I420P10: { chroma: [2, 2], bits: 10 },
  I422P10: { chroma: [2, 1], bits: 10 },
  I444P10: { chroma: [1, 1], bits: 10 },
  I420P12: { chroma: [2, 2], bits: 12 },
  I422P12: { chroma: [2, 1], bits: 12 },
  I444P12: { chroma: [1, 1], bits: 12 },
}

interface Waiter {
  readonly width: number
  readonly resolve: (frame: StoredFrame) => void
  readonly reject: (error: unknown) => void
}

/** So many frames are decoded and thrown away rather than that a key frame is looked for. */
const NEAR = 48

/** Decodes a clip in the page, in the order of its frames, as far as somebody asks. */
export class ClipDecoder {
  private readonly waiters = new Map<number, Waiter>()
  private reader: PlanesReader | undefined
  private samples: AsyncGenerator<VideoSample, void, unknown> | undefined
  /** The frame that comes next. */
  private position = 0
  private pumping = false

  private constructor(
    private readonly input: Input,
    private readonly sink: VideoSampleSink,
    private readonly times: readonly number[],
    private readonly traits: ClipTraits,
  ) {}

  /** Null where this browser cannot decode the clip to the server's numbers. */
  static async open(url: string, traits: ClipTraits): Promise<ClipDecoder | null> {
    const input = new Input({ formats: [MP4, QTFF], source: new UrlSource(url, { getRetryDelay: () => null }) })
    const decoder = await ClipDecoder.opened(input, traits).catch(() => null)
    if (!decoder) input.dispose()
    return decoder
  }

  private static async opened(input: Input, traits: ClipTraits): Promise<ClipDecoder | null> {
    const track = await input.getPrimaryVideoTrack()
    if (!track || (await track.getRotation()) !== 0 || !(await track.canDecode())) return null
    const times: number[] = []
    for await (const packet of new EncodedPacketSink(track).packets(undefined, undefined, { metadataOnly: true }))
      times.push(packet.timestamp)
    if (times.length !== traits.frames) return null
    const sink = new VideoSampleSink(track)
    times.sort((a, b) => a - b)
    const first = await sink.getSample(times[0]!)
    const usable = first !== null && isUsable(first, traits)
    first?.close()
    return usable ? new ClipDecoder(input, sink, times, traits) : null
  }

  /** A frame as the server would give it. @param width one that the server gives as well */
  frame(index: number, width: number): Promise<StoredFrame> {
    return new Promise((resolve, reject) => {
      this.waiters.set(index, { width, resolve, reject })
      void this.pump()
    })
  }

  close(): void {
    void this.samples?.return()
    this.input.dispose()
    this.fail(new Error('The clip was closed.'))
  }

  private async pump(): Promise<void> {
    if (this.pumping) return
    this.pumping = true
    try {
      while (this.waiters.size > 0) await this.step()
    } catch (error) {
      this.fail(error)
    } finally {
      this.pumping = false
    }
  }

  /** Decodes one frame; the nearest ahead that somebody waits for is come to first. */
  private async step(): Promise<void> {
    const wanted = [...this.waiters.keys()]
    const ahead = wanted.filter((i) => i >= this.position && i < this.position + NEAR)
    if (!this.samples || ahead.length === 0) {
      await this.samples?.return()
      this.position = Math.min(...wanted)
      this.samples = this.sink.samples(this.times[this.position])
    }
    const { value: sample } = await this.samples.next()
    if (!sample) throw new Error('The clip ended early.')
    const index = this.position++
    try {
      const waiter = this.waiters.get(index)
      if (!waiter) return
      this.waiters.delete(index)
      await this.read(sample, waiter.width).then(waiter.resolve, waiter.reject)
    } finally {
      sample.close()
    }
  }

  private async read(sample: VideoSample, width: number): Promise<StoredFrame> {
    const { traits } = this
    if (!isUsable(sample, traits)) throw new Error(`A frame came as ${sample.format}.`)
    const height = Math.max(1, Math.round((traits.height * width) / traits.width))
    if (this.reader?.width !== width)
      this.reader = new PlanesReader({ ...traits, chroma: FORMATS[sample.format!]!.chroma }, width, height)
    return { data: this.reader.read(await planesOf(sample, this.reader.samples)), width, height, format: 'u16' }
  }

  private fail(error: unknown): void {
    for (const { reject } of this.waiters.values()) reject(error)
    this.waiters.clear()
    this.samples = undefined
  }
}

/** Whether a frame has the depth of the file and is whole. */
function isUsable({ format, visibleRect }: VideoSample, { width, height, bits }: ClipTraits): boolean {
  const known = FORMATS[format ?? '']
  return known?.bits === bits && visibleRect.width === width && visibleRect.height === height
}

/** Luma, then the two planes of chroma, as 16-bit numbers. */
async function planesOf(sample: VideoSample, count: number): Promise<Uint16Array> {
  const bytes = new Uint8Array(sample.allocationSize())
  await sample.copyTo(bytes)
  if (FORMATS[sample.format!]!.bits > 8) return new Uint16Array(bytes.buffer)
  if (sample.format !== 'NV12') return Uint16Array.from(bytes)
  const { width, height } = sample.visibleRect
  const luma = width * height
  const chroma = (count - luma) / 2
  const planes = new Uint16Array(count)
  planes.set(bytes.subarray(0, luma))
  for (let i = 0; i < chroma; i++) {
    planes[luma + i] = bytes[luma + 2 * i]!
    planes[luma + chroma + i] = bytes[luma + 2 * i + 1]!
  }
  return planes
}
