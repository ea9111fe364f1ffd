import { SAFE_INPUT } from './ffmpeg'
import type { MediaInfo } from './probe'
import { inputArgs, type Source } from './source'

/** The sound that belongs to a run of frames. */
export interface Sound {
  readonly source: Source
  /** Seconds from the start of the footage, and how many. */
  readonly from: number
  readonly length: number
}

/** Clips may have sound; stills and sequences have none. */
export function soundOf(source: Source, info: MediaInfo, first: number, count: number): Sound | null {
  if (info.kind !== 'clip') return null
  const [num, den] = info.fps.split('/').map(Number) as [number, number]
  return { source, from: (first * den) / num, length: (count * den) / num }
}

/** As a second input, behind that of the pictures. */
export const soundInput = (sound: Sound): string[] => [
  ...['-ss', sound.from.toFixed(6), '-t', sound.length.toFixed(6)],
  ...SAFE_INPUT,
  ...inputArgs(sound.source),
]

/** Pictures of the first input with the sound of the second, where it has any. It is not changed, only cut. */
export const soundOutput = (format: 'mp4' | 'mov'): string[] => [
  ...['-map', '0:v:0', '-map', '1:a:0?', '-c:a'],
  ...(format === 'mp4' ? ['aac', '-b:a', '256k'] : ['pcm_s24le']),
]
