import { constants } from 'node:fs'
import { access, stat } from 'node:fs/promises'
import { Fault, sentenceOf } from '../errors'
import { decodeFrames } from './decode'
import { MOST_MEMORY, SAFE_INPUT, ffprobe, lastLine, runFfmpeg } from './ffmpeg'
import { inputArgs, type Source } from './source'
import { STILL_CODECS, bitsOf, colourOf, frameRate, guessEncoding, warningsFor, type Stream } from './tags'

/** What a file holds, as far as it concerns us. */
export interface MediaInfo {
  readonly kind: 'clip' | 'still' | 'sequence'
  readonly width: number
  readonly height: number
  readonly frames: number
  /** Frames per second as a fraction, e.g. `24000/1001`; `0/1` for a still. */
  readonly fps: string
  readonly codec: string
  readonly pixelFormat: string
  readonly bits: number
  readonly float: boolean
  /** Y'CbCr matrix in zscale's words, or `gbr`. */
  readonly matrix: string
  readonly range: 'limited' | 'full'
  /** Where chroma samples lie against luma, in ffmpeg's words; footage taken in long ago does not say. */
  readonly chromaAt?: string
  /** The encoding that the file's tags and kind suggest; the user decides. */
  readonly encoding: string
  readonly warnings: readonly string[]
}

/** Largest picture that is accepted. */
const MOST_SIDE = 16384
/** A little over 8K; a picture takes some 100 bytes a pixel while it is worked on. */
const MOST_PIXELS = 36_000_000

/**
 * Probes a file or sequence and proves that it can be read: packets counted, first and last frame decoded, the first one
 * brought to what the program works with.
 * Throws a sentence that names the file.
 * @param label the name to use in messages
 */
export async function probe(source: Source, label: string): Promise<MediaInfo> {
  if (source.type === 'file' && (await sizeOf(source.path, label)) === 0)
    throw new Fault('media', `${label} is empty (0 bytes).`)
  const { stream, format } = await readStream(source, label)
  const width = stream.width ?? 0
  const height = stream.height ?? 0
  checkSize(label, width, height)
  const codec = stream.codec_name ?? 'unknown'
  const pixelFormat = stream.pix_fmt ?? 'unknown'
  const still =
    source.type === 'file' && (format.endsWith('_pipe') || format === 'image2') && STILL_CODECS.includes(codec)
  const frames = source.type === 'sequence' ? source.frames : still ? 1 : countFrames(stream, label)
  await proveWhole(source, stream, frames, label)
  const turned = Math.abs(stream.side_data_list?.find((d) => d.rotation !== undefined)?.rotation ?? 0) % 180 === 90
  const info = {
    kind: source.type === 'sequence' ? ('sequence' as const) : still ? ('still' as const) : ('clip' as const),
    width: turned ? height : width,
    height: turned ? width : height,
    frames,
    fps: source.type === 'sequence' ? source.fps : still ? '0/1' : frameRate(stream),
    codec,
    pixelFormat,
    bits: bitsOf(pixelFormat, Number(stream.bits_per_raw_sample ?? 0)),
    float: pixelFormat.includes('f32') || pixelFormat.includes('f16'),
    ...colourOf(stream, codec, height),
    chromaAt: stream.chroma_location ?? 'unspecified',
    encoding: guessEncoding(stream, codec, label),
  }
  const whole = { ...info, warnings: warningsFor(info, stream) }
  await proveUsable(source, whole, label)
  return whole
}

/** The first frame by the very chain that will be used, so that nothing is taken in which could not be shown later. */
async function proveUsable(source: Source, info: MediaInfo, label: string): Promise<void> {
  try {
    for await (const _ of decodeFrames(source, info, { first: 0, count: 1 }));
  } catch (error) {
    throw new Fault('media', `${label} cannot be brought to RGB: ${sentenceOf(error)}`)
  }
}

async function sizeOf(path: string, label: string): Promise<number> {
  const found = await stat(path).catch(() => null)
  if (!found) throw new Fault('media', `${label} does not exist or cannot be read.`)
  if (!found.isFile()) throw new Fault('media', `${label} is not a file.`)
  await access(path, constants.R_OK).catch(() => {
    throw new Fault('media', `${label} may not be read.`)
  })
  return found.size
}

async function readStream(source: Source, label: string): Promise<{ stream: Stream; format: string }> {
  const wanted = ['-select_streams', 'v:0', '-count_packets', '-show_streams', '-show_format']
  let answer: { streams?: Stream[]; format?: { format_name?: string } }
  try {
    answer = (await ffprobe([...wanted, ...inputArgs(source)])) as typeof answer
  } catch (error) {
    if (error instanceof Fault) throw error
    const reason = lastLine((error as { stderr?: string }).stderr ?? '').replace(/file:\S*:\s*/, '')
    throw new Fault('media', `${label} is not a picture or clip that can be read${reason ? ` (${reason})` : ''}.`)
  }
  const stream = answer.streams?.[0]
  if (!stream?.width || !stream.height) throw new Fault('media', `${label} holds no picture.`)
  return { stream, format: answer.format?.format_name ?? '' }
}

function checkSize(label: string, width: number, height: number): void {
  if (width > MOST_SIDE || height > MOST_SIDE || width * height > MOST_PIXELS)
    throw new Fault(
      'media',
      `${label} is ${width}x${height}; the largest picture is ${MOST_SIDE} a side and ${MOST_PIXELS / 1e6} megapixels.`,
    )
}

function countFrames(stream: Stream, label: string): number {
  const said = Number(stream.nb_frames ?? 0)
  const found = Number(stream.nb_read_packets ?? 0)
  if (said > 0 && found < said) throw new Fault('media', `${label} is cut short: it holds ${found} of ${said} frames.`)
  if (found === 0) throw new Fault('media', `${label} holds no frames.`)
  return found
}

const PATIENCE_MS = 120_000
const CARE = { memory: MOST_MEMORY }

/** Decodes the first frame and the last second strictly; a damaged file shows itself there. */
async function proveWhole(source: Source, stream: Stream, frames: number, label: string): Promise<void> {
  // The TIFF reader calls every tag that it does not know an error.
  const strict = stream.codec_name === 'tiff' ? [] : ['-err_detect', 'explode']
  const decode = (before: readonly string[], after: readonly string[]): string[] => [
    ...[...strict, ...SAFE_INPUT, ...before, ...inputArgs(source), '-map', '0:v:0', ...after, '-f', 'null', '-'],
  ]
  const first = await runFfmpeg(['-xerror', ...decode([], ['-frames:v', '1'])], PATIENCE_MS, CARE)
  if (first && !(frames === 1 && (await onlyMoreFollows(source, strict))))
    throw new Fault('media', `${label} cannot be decoded: it is damaged or cut short (${lastLine(first)}).`)
  if (source.type === 'sequence' || frames < 2) return
  const [num, den] = frameRate(stream).split('/').map(Number) as [number, number]
  const lastSecond = decode(['-ss', String(Math.max(0, ((frames - 2) * den) / num))], [])
  const last = await runFfmpeg(['-xerror', ...lastSecond], PATIENCE_MS, CARE)
  if (last) throw new Fault('media', `${label} is damaged towards its end (${lastLine(last)}).`)
}

/** Whether a still is whole and only something that is no picture stands behind it, as some programs leave there. */
async function onlyMoreFollows(source: Source, strict: readonly string[]): Promise<boolean> {
  const count = ['-count_frames', '-select_streams', 'v:0', '-show_entries', 'stream=nb_read_frames']
  const found = (await ffprobe([...strict, ...count, ...inputArgs(source)]).catch(() => null)) as {
    streams?: { nb_read_frames?: string }[]
  } | null
  return found?.streams?.[0]?.nb_read_frames === '1'
}
