import { symlink } from 'node:fs/promises'
import { join, resolve } from 'node:path'
import type { MediaInfo } from '@fogbath/contract'

/** Where pictures come from: one file (clip or still), or numbered files. */
export type Source =
  | {
      readonly type: 'file'
      readonly path: string
      /** A small copy for looking: the key of the reading that it was made with, and whether it holds light. */
      readonly proxy?: { readonly of: string; readonly light: boolean }
    }
  | {
      readonly type: 'sequence'
      readonly pattern: string
      readonly start: number
      readonly frames: number
      readonly fps: string
    }

/** Footage at a place of its own. */
export function sourceAt(
  path: string,
  { sequence, info }: { sequence: string; info: Pick<MediaInfo, 'frames' | 'fps'> },
): Source {
  if (!sequence) return { type: 'file', path }
  const pattern = join(path, `%06d${sequence}`)
  return { type: 'sequence', pattern, start: 0, frames: info.frames, fps: info.fps }
}

/** Input arguments for ffmpeg and ffprobe. */
export function inputArgs(source: Source): string[] {
  if (source.type === 'file') return ['-i', `file:${source.path}`]
  return [
    '-f',
    'image2',
    '-framerate',
    source.fps,
    '-start_number',
    String(source.start),
    '-i',
    `file:${source.pattern}`,
  ]
}

/** Links several stills as one numbered sequence in a folder of its own; the caller removes the folder. */
export async function linkSequence(paths: readonly string[], folder: string, fps: string): Promise<Source> {
  const ending = /\.[a-z0-9]+$/i.exec(paths[0] ?? '')?.[0].toLowerCase() ?? '.png'
  await Promise.all(paths.map((p, i) => symlink(resolve(p), join(folder, `${String(i).padStart(6, '0')}${ending}`))))
  return { type: 'sequence', pattern: join(folder, `%06d${ending}`), start: 0, frames: paths.length, fps }
}
