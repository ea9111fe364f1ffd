import { secondsOf } from '@fogbath/core/numbers'
import { Fault } from '../errors'
import { MOST_MEMORY, SAFE_INPUT, ffprobe, lastLine, runFfmpeg } from './ffmpeg'
import { inputArgs, type Source } from './source'
import { frameRate, type Stream } from './tags'

const PATIENCE_MS = 120_000
/** For all of a long sequence. */
const ALL_PATIENCE_MS = 3_600_000
const CARE = { memory: MOST_MEMORY }

/** Decodes the first frame and the last second strictly; a damaged file shows itself there. */
export async function proveWhole(source: Source, stream: Stream, frames: number, label: string): Promise<void> {
  // The TIFF reader calls every tag that it does not know an error.
  const strict = stream.codec_name === 'tiff' ? [] : ['-err_detect', 'explode']
  const decode = (before: readonly string[], after: readonly string[]): string[] => [
    ...[...strict, ...SAFE_INPUT, ...before, ...inputArgs(source), '-map', '0:v:0', ...after, '-f', 'null', '-'],
  ]
  const first = await runFfmpeg(['-xerror', ...decode([], ['-frames:v', '1'])], PATIENCE_MS, CARE)
  if (first && !(frames === 1 && (await onlyMoreFollows(source, strict))))
    throw new Fault('media', `${label} cannot be decoded: it is damaged or cut short (${lastLine(first)}).`)
  if (source.type === 'sequence' || frames < 2) return
  const lastSecond = decode(['-ss', String(secondsOf(frames - 2, frameRate(stream)))], [])
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

/** Whether all frames decode strictly. */
export async function proveAll(source: Source): Promise<boolean> {
  const args = [
    '-xerror',
    '-err_detect',
    'explode',
    ...SAFE_INPUT,
    ...inputArgs(source),
    '-map',
    '0:v:0',
    '-f',
    'null',
    '-',
  ]
  return (await runFfmpeg(args, ALL_PATIENCE_MS, CARE)) === null
}
