import { constants } from 'node:fs'
import { mkdtemp, open, rm, symlink, type FileHandle } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { basename, join, resolve } from 'node:path'
import type { Readable } from 'node:stream'
import { Fault } from '../errors'

/** Where pictures come from: one file (clip or still), or numbered files. */
export type Source =
  | { readonly type: 'file'; readonly path: string }
  | {
      readonly type: 'sequence'
      readonly pattern: string
      readonly start: number
      readonly frames: number
      readonly fps: string
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

/**
 * Runs work on a file under a name without an ending, so that what the file holds decides how it is read and not what
 * it is called (and so that a '%' in its name is no pattern).
 */
export async function withPlainName<T>(path: string, work: (plain: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'fogbath-'))
  try {
    const plain = join(folder, 'source')
    await symlink(resolve(path), plain)
    return await work(plain)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** Why a path could not be opened, in words. */
const REASONS: Record<string, string> = {
  EACCES: 'may not be read by the server',
  EPERM: 'may not be read by the server',
  ENOENT: 'does not exist',
  ENXIO: 'is not a file',
  ELOOP: 'is a link that goes in a circle',
  EMFILE: 'could not be opened: too many files are open',
}

/**
 * Reads a file as a stream that is closed whatever becomes of the work. Only regular files are read: a pipe, a socket or a
 * device would hold up a thread for as long as it likes.
 */
export async function withFile<T>(path: string, work: (file: Readable) => Promise<T>): Promise<T> {
  const handle = await openRegular(path)
  const file = handle.createReadStream({ autoClose: false })
  try {
    return await work(file)
  } finally {
    file.destroy()
    await handle.close()
  }
}

async function openRegular(path: string): Promise<FileHandle> {
  const label = basename(path)
  // Opening does not wait for anybody at the other end of a pipe.
  const handle = await open(path, constants.O_RDONLY | constants.O_NONBLOCK).catch((error: NodeJS.ErrnoException) => {
    throw new Fault('media', `${label} ${REASONS[error.code ?? ''] ?? `could not be opened (${error.code})`}.`)
  })
  if ((await handle.stat()).isFile()) return handle
  await handle.close()
  throw new Fault('media', `${label} is not a file.`)
}

/** Fails in words unless a path leads to a regular file that can be read. */
export const checkFile = (path: string): Promise<void> => withFile(path, async () => undefined)

/** Links several stills as one numbered sequence in a folder of its own; the caller removes the folder. */
export async function linkSequence(paths: readonly string[], folder: string, fps: string): Promise<Source> {
  const ending = /\.[a-z0-9]+$/i.exec(paths[0] ?? '')?.[0].toLowerCase() ?? '.png'
  await Promise.all(paths.map((p, i) => symlink(resolve(p), join(folder, `${String(i).padStart(6, '0')}${ending}`))))
  return { type: 'sequence', pattern: join(folder, `%06d${ending}`), start: 0, frames: paths.length, fps }
}
