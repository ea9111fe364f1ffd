import { Fault } from '../errors'
import { AN_HOUR, MOST_MEMORY, SAFE_INPUT, ffmpeg, lastLine, runFfmpeg, writeFailure } from './ffmpeg'
import type { MediaInfo } from '@fogbath/contract'
import { secondsOf } from '@fogbath/core/numbers'
import { inputArgs, type Source } from './source'

/** The sound that belongs to a run of frames. */
export interface Sound {
  readonly source: Source
  /** Seconds from the start of the footage, and how many. */
  readonly from: number
  readonly length: number
  /** Seconds of silence before it. */
  readonly after?: number
}

/** Clips may have sound; stills and sequences have none. */
export function soundOf(source: Source, info: MediaInfo, first: number, count: number): Sound | null {
  if (info.kind !== 'clip') return null
  return { source, from: secondsOf(first, info.fps), length: secondsOf(count, info.fps) }
}

/** Seconds before a piece at which reading begins: packets of sound are longer than the piece is exact. */
const LEAD = 1

/** A piece of footage's sound as it is listened to, see the route. */
export async function heard(source: Source, from: number, length: number): Promise<Buffer> {
  const at = Math.max(0, from - LEAD)
  const read = ['-ss', at.toFixed(6), '-t', (from - at + length + LEAD).toFixed(6), ...SAFE_INPUT, ...inputArgs(source)]
  const cut = `aresample=48000:async=1:first_pts=0,atrim=start=${(from - at).toFixed(6)}:duration=${length.toFixed(6)}`
  const child = ffmpeg([...read, '-map', '0:a:0', '-af', cut, '-ac', '2', '-f', 's16le', 'pipe:1'], {
    memory: MOST_MEMORY,
  })
  const [parts, said] = await Promise.all([allOf(child.stdout), allOf(child.stderr)])
  if ((await child).failed) throw new Fault('media', `The sound could not be read (${lastLine(said.toString())}).`)
  return parts
}

async function allOf(stream: AsyncIterable<Buffer>): Promise<Buffer> {
  const parts: Buffer[] = []
  for await (const part of stream) parts.push(part)
  return Buffer.concat(parts)
}

/** As a second input, behind that of the pictures. */
export const soundInput = (sound: Sound): string[] => [
  ...['-ss', sound.from.toFixed(6), '-t', sound.length.toFixed(6)],
  ...SAFE_INPUT,
  ...inputArgs(sound.source),
]

/** Pictures of the first input with the sound of the second, where it has any. It is only cut. @param codec what it becomes */
export const soundOutput = (codec: readonly string[], { after = 0 }: Pick<Sound, 'after'>): string[] => [
  ...['-map', '0:v:0', '-map', '1:a:0?', '-c:a'],
  ...codec,
  ...(after > 0 ? ['-af', `adelay=delays=${(1000 * after).toFixed(3)}:all=1`] : []),
]

/** Samples a second of sound that is put together of pieces. */
const RATE = 48_000

/** Sounds end to end as one, in two channels: each as long as its pictures to the sample, silence where it has none. */
export async function joinSound(
  pieces: readonly (Sound | null)[],
  lengths: readonly number[],
  file: string,
): Promise<void> {
  const inputs: string[] = []
  const cuts: string[] = []
  let end = 0
  for (const [i, sound] of pieces.entries()) {
    const [from, to] = [Math.round(end * RATE), Math.round((end += lengths[i]!) * RATE)]
    const cut = `apad,atrim=end_sample=${to - from},asetpts=N/SR/TB`
    if (sound) {
      cuts.push(
        `[${inputs.filter((a) => a === '-i').length}:a:0]aresample=${RATE}:async=1:first_pts=0,aformat=channel_layouts=stereo,${cut}[s${i}]`,
      )
      inputs.push(...soundInput(sound))
    } else cuts.push(`anullsrc=r=${RATE}:cl=stereo,${cut}[s${i}]`)
  }
  const all = pieces.map((_, i) => `[s${i}]`).join('')
  const filter = `${cuts.join(';')};${all}concat=n=${pieces.length}:v=0:a=1[out]`
  const failed = await runFfmpeg(
    ['-y', ...inputs, '-filter_complex', filter, '-map', '[out]', '-c:a', 'pcm_s24le', '-f', 'mov', `file:${file}`],
    AN_HOUR,
    { polite: true },
  )
  if (failed) throw new Fault('program', `The sounds could not be joined: ${writeFailure(failed)}.`)
}
