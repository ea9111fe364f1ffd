import { constants } from 'node:fs'
import { access, stat } from 'node:fs/promises'
import { MOST_SIDE, type MediaInfo } from '@fogbath/contract'
import { idOfEncoding } from '@fogbath/core/encodings'
import { Fault, sentenceOf } from '../errors'
import { decodeFrames } from './decode'
import { ffprobe, lastLine } from './ffmpeg'
import { inputArgs, type Source } from './source'
import { isFloatTiff, markedEncoding } from './marks'
import { proveWhole } from './proving'
import { rateOf } from './rate'
import {
  STILL_CODECS,
  bitsOf,
  colourOf,
  encodingSaid,
  shapeOf,
  timecodeSaid,
  warningsFor,
  type Stream,
  type Tags,
} from './tags'

/** A little over 8K; a picture takes some 100 bytes a pixel while it is worked on. */
export const MOST_PIXELS = 36_000_000

/**
 * Probes a file or sequence and proves that it can be read: packets counted, first and last frame decoded, the first one
 * brought to what the program works with.
 * Throws a sentence that names the file.
 * @param label the name to use in messages
 */
export async function probe(source: Source, label: string): Promise<MediaInfo> {
  if (source.type === 'file' && (await sizeOf(source.path, label)) === 0)
    throw new Fault('media', `${label} is empty (0 bytes).`)
  const { stream, times, format, tags } = await readStream(source, label)
  const width = stream.width ?? 0
  const height = stream.height ?? 0
  checkSize(label, width, height)
  const codec = stream.codec_name ?? 'unknown'
  const pixelFormat = stream.pix_fmt ?? 'unknown'
  const still = isStill(source, codec, format, tags)
  const frames = source.type === 'sequence' ? source.frames : still ? 1 : countFrames(stream, label)
  await proveWhole(source, stream, frames, label)
  const turned = isTurned(stream.side_data_list) || (still && (await stillIsTurned(source)))
  const colour = colourOf(stream, codec, height)
  const marked = still && source.type === 'file' ? await markedEncoding(source.path, codec) : null
  const said = encodingSaid(stream, codec, label, { still, marked })
  const info = {
    kind: source.type === 'sequence' ? ('sequence' as const) : still ? ('still' as const) : ('clip' as const),
    width: turned ? height : width,
    height: turned ? width : height,
    ...(source.type === 'sequence'
      ? { frames, fps: source.fps }
      : still
        ? { frames, fps: '0/1' }
        : rateOf(stream, frames, times)),
    codec,
    pixelFormat,
    bits: bitsOf(pixelFormat, Number(stream.bits_per_raw_sample ?? 0)),
    float: pixelFormat.includes('f32') || pixelFormat.includes('f16'),
    ...colour,
    chromaAt: stream.chroma_location ?? 'unspecified',
    encoding: idOfEncoding(said.encoding),
    ...(typeof said.encoding === 'string' ? {} : { profile: said.encoding }),
    guessed: { ...colour.guessed, ...said.guessed },
    ...shapeOf(stream),
    ...(still || source.type === 'sequence' ? {} : await soundSaid(source)),
    ...timecodeSaid(stream.tags?.timecode ?? tags.timecode),
  }
  const warnings = [...warningsFor(info, stream), ...(typeof marked === 'string' ? [marked] : [])]
  const whole = { ...info, warnings }
  await proveUsable(source, whole, label)
  return whole
}

/** Of clips: how many channels the first track of sound has. */
async function soundSaid(source: Source): Promise<Pick<MediaInfo, 'sound'>> {
  const wanted = ['-select_streams', 'a:0', '-show_entries', 'stream=channels']
  const { streams } = (await ffprobe([...wanted, ...inputArgs(source)])) as { streams?: { channels?: number }[] }
  const channels = streams?.[0]?.channels
  return channels ? { sound: channels } : {}
}

const isStill = ({ type }: Source, codec: string, format: string, { major_brand }: Tags): boolean =>
  type === 'file' &&
  (major_brand === 'avif' || ((format.endsWith('_pipe') || format === 'image2') && STILL_CODECS.includes(codec)))

/** What a file's header says, without a proof that it can be read: for stills that come by the hundred. */
export async function headerOf(
  source: Source,
  label: string,
): Promise<{ readonly width: number; readonly height: number; readonly still: boolean }> {
  const { stream, format, tags } = await readStream(source, label)
  const still = isStill(source, stream.codec_name ?? '', format, tags)
  const turned =
    isTurned(stream.side_data_list) || (still && stream.codec_name === 'mjpeg' && (await stillIsTurned(source)))
  const { width = 0, height = 0 } = stream
  return { width: turned ? height : width, height: turned ? width : height, still }
}

const isTurned = (sides: Stream['side_data_list']): boolean =>
  Math.abs(sides?.find((d) => d.rotation !== undefined)?.rotation ?? 0) % 180 === 90

/** Cameras write how a still was held into its EXIF, which shows itself when it is decoded; ffmpeg turns it then. */
async function stillIsTurned(source: Source): Promise<boolean> {
  const first = ['-select_streams', 'v:0', '-read_intervals', '%+#1', '-show_frames']
  const { frames } = (await ffprobe([...first, ...inputArgs(source)])) as { frames?: Stream[] }
  return isTurned(frames?.[0]?.side_data_list)
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

async function readStream(
  source: Source,
  label: string,
): Promise<{ stream: Stream; times: number[]; format: string; tags: Tags }> {
  const whole = ['-count_packets', '-show_streams', '-show_format', '-show_entries', 'packet=pts_time']
  const wanted = ['-select_streams', 'v:0', ...whole]
  let answer: { packets?: { pts_time?: string }[]; streams?: Stream[]; format?: { format_name?: string; tags?: Tags } }
  try {
    answer = (await ffprobe([...wanted, ...inputArgs(source)])) as typeof answer
  } catch (error) {
    if (error instanceof Fault) throw error
    const reason = lastLine((error as { stderr?: string }).stderr ?? '').replace(/file:\S*:\s*/, '')
    throw new Fault('media', `${label} is not a picture or clip that can be read${reason ? ` (${reason})` : ''}.`)
  }
  const stream = answer.streams?.[0]
  if (!stream?.width || !stream.height) {
    if (source.type === 'file' && (await isFloatTiff(source.path)))
      throw new Fault(
        'media',
        `${label} is a TIFF of floats, which is read as one still and in no sequence; save it as EXR, which holds the same light.`,
      )
    throw new Fault('media', `${label} holds no picture.`)
  }
  const times = (answer.packets ?? []).flatMap(({ pts_time }) => (pts_time === undefined ? [] : Number(pts_time)))
  return { stream, times, format: answer.format?.format_name ?? '', tags: answer.format?.tags ?? {} }
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
