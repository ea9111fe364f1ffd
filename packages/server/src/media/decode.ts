import type { FrameData } from '@fogbath/core/cpu'
import { Fault } from '../errors'
import { MOST_MEMORY, SAFE_INPUT, ffmpeg, lastLine } from './ffmpeg'
import type { MediaInfo } from '@fogbath/contract'
import { filters, seekArgs, startOf } from './filters'
import { lightOfProxy } from './proxy-file'
import { inputArgs, type Source } from './source'

export interface DecodeOptions {
  /** Counted from 0. */
  readonly first: number
  readonly count: number
  /** Scaled to this size; the source's own when left out. */
  readonly width?: number
  readonly height?: number
  readonly signal?: AbortSignal
  /** Gives way to everything else on this machine. */
  readonly polite?: boolean
  /** Buffers of frames that nobody needs any more; new frames are read into those that fit. */
  readonly spare?: ArrayBuffer[]
}

/** A decoder that gives nothing for so long hangs, ms; the largest pictures take a few seconds. */
const PATIENCE_MS = 60_000

/** Interleaved RGB: 16-bit integers from integer sources, 32-bit floats from float ones. */
export interface Frame {
  readonly data: FrameData
  readonly width: number
  readonly height: number
}

/** What ffmpeg is told for a run of frames, up to what becomes of them. */
export function decodeArgs(source: Source, info: MediaInfo, options: Omit<DecodeOptions, 'signal'>): string[] {
  const { width = info.width, height = info.height } = options
  const start = startOf(info, options.first)
  return [
    ...SAFE_INPUT,
    ...seekArgs(start),
    ...inputArgs(source),
    ...['-map', '0:v:0', '-fps_mode', 'passthrough', '-frames:v', String(options.count)],
    ...['-vf', filters(info, { width, height }, start)],
  ]
}

/**
 * Decodes frames in order. Y'CbCr becomes R'G'B' by the stream's own matrix and range with zimg, 16 bits a channel,
 * without dither; nothing else is done to the numbers.
 */
export async function* decodeFrames(source: Source, info: MediaInfo, options: DecodeOptions): AsyncGenerator<Frame> {
  const { width = info.width, height = info.height } = options
  const channelBytes = info.float ? 4 : 2
  const bytes = width * height * 3 * channelBytes
  const light = source.type === 'file' && source.proxy?.light
  const dataOf = (block: Uint8Array, n: number): FrameData =>
    info.float ? fromPlanes(block, n) : light ? lightOfProxy(words(block)) : words(block)
  const args = [
    ...decodeArgs(source, info, options),
    '-f',
    'rawvideo',
    '-pix_fmt',
    info.float ? 'gbrpf32le' : 'rgb48le',
  ]
  const child = ffmpeg([...args, 'pipe:1'], { memory: MOST_MEMORY, polite: options.polite ?? false })
  const stop = (): void => void child.kill()
  options.signal?.addEventListener('abort', stop)
  let stderr = ''
  child.stderr.on('data', (chunk: Buffer) => (stderr = (stderr + chunk.toString()).slice(-4000)))
  let made = 0
  try {
    for await (const block of blocks(patient(child.stdout), bytes, options.spare)) {
      made++
      yield { data: dataOf(block, width * height), width, height }
    }
    const result = await child
    options.signal?.throwIfAborted()
    if (made < options.count)
      throw new Fault(
        'media',
        `Only ${made} of ${options.count} frames from frame ${options.first} on could be read${result.failed || stderr ? ` (${lastLine(stderr)})` : ''}.`,
      )
  } finally {
    options.signal?.removeEventListener('abort', stop)
    child.kill()
  }
}

/** Whether pictures have a channel for what shows through. */
export const hasAlpha = ({ pixelFormat, stored, reading }: MediaInfo): boolean =>
  /^(rgba|bgra|argb|abgr|gbrap|yuva|ya\d)/.test(pixelFormat) && !stored && Object.keys(reading ?? {}).length === 0

/** The alpha of frames in order, one number a pixel: of the kind that their colours have. */
export async function* decodeAlpha(
  source: Source,
  info: MediaInfo,
  { first, count, signal, polite = false }: DecodeOptions,
): AsyncGenerator<FrameData> {
  const start = startOf(info, first)
  // The plane itself is taken: a conversion of floats would cut off what is above 1.
  const [plane, format] = info.float
    ? ['format=gbrapf32le,mergeplanes=0x03:grayf32le', 'grayf32le']
    : ['format=gbrap16le,extractplanes=a', 'gray16le']
  const lead = start.lead > 0 ? `select=gte(n\\,${start.lead}),` : ''
  const args = [
    ...[...SAFE_INPUT, ...seekArgs(start), ...inputArgs(source), '-map', '0:v:0', '-fps_mode', 'passthrough'],
    ...['-frames:v', String(count), '-vf', `${lead}${plane}`, '-f', 'rawvideo', '-pix_fmt', format, 'pipe:1'],
  ]
  const child = ffmpeg(args, { memory: MOST_MEMORY, polite })
  const stop = (): void => void child.kill()
  signal?.addEventListener('abort', stop)
  try {
    for await (const block of blocks(patient(child.stdout), info.width * info.height * (info.float ? 4 : 2)))
      yield info.float ? new Float32Array(block.buffer, block.byteOffset, block.length / 4) : words(block)
  } finally {
    signal?.removeEventListener('abort', stop)
    child.kill()
  }
}

/** A stream that fails when it gives nothing for long; while nobody reads on it is not waited for. */
async function* patient<T>(stream: AsyncIterable<T>): AsyncGenerator<T> {
  const reader = stream[Symbol.asyncIterator]()
  for (;;) {
    let late: NodeJS.Timeout | undefined
    const tooLong = new Promise<never>((_, reject) => {
      const fault = new Fault('media', `The footage gave no picture for ${PATIENCE_MS / 1000} s; it cannot be read.`)
      late = setTimeout(() => reject(fault), PATIENCE_MS)
    })
    const next = await Promise.race([reader.next(), tooLong]).finally(() => clearTimeout(late))
    if (next.done) return
    yield next.value
  }
}

/** Cuts a byte stream into blocks of one length. @param spare where they may lie */
async function* blocks(
  stream: AsyncIterable<Uint8Array>,
  length: number,
  spare: ArrayBuffer[] = [],
): AsyncGenerator<Uint8Array> {
  const empty = (): Uint8Array => {
    const buffer = spare.pop()
    return new Uint8Array(buffer?.byteLength === length ? buffer : new ArrayBuffer(length))
  }
  let block = empty()
  let filled = 0
  for await (const chunk of stream) {
    for (let at = 0; at < chunk.length;) {
      const part = Math.min(length - filled, chunk.length - at)
      block.set(chunk.subarray(at, at + part), filled)
      filled += part
      at += part
      if (filled === length) {
        yield block
        block = empty()
        filled = 0
      }
    }
  }
}

const words = (block: Uint8Array): Uint16Array => new Uint16Array(block.buffer, block.byteOffset, block.length / 2)

/** Planes in the order G, B, R become interleaved RGB. */
function fromPlanes(block: Uint8Array, n: number): Float32Array {
  const planes = new Float32Array(block.buffer, block.byteOffset, 3 * n)
  const out = new Float32Array(3 * n)
  for (let i = 0; i < n; i++) {
    out[3 * i] = planes[2 * n + i]!
    out[3 * i + 1] = planes[i]!
    out[3 * i + 2] = planes[n + i]!
  }
  return out
}
