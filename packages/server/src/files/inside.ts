import { constants, type Dirent } from 'node:fs'
import { open, readdir, readlink, realpath, stat, type FileHandle } from 'node:fs/promises'
import { basename, join, relative, sep } from 'node:path'
import type { Readable } from 'node:stream'
import { Fault } from '../errors'
import { checkText } from '../outside/texts'

/**
 * The one way into files that the program did not make itself: the watched folder, the shared folder, what is named on the
 * command line. Only regular files are opened, and nothing is waited for that may never come: a pipe, a socket or a device
 * would hold up a thread for as long as it likes.
 */

/** Why a path could not be opened, in words. */
const REASONS: Record<string, string> = {
  EACCES: 'may not be read by the server',
  EPERM: 'may not be read by the server',
  ENOENT: 'does not exist',
  ENXIO: 'is not a file',
  ENOTDIR: 'is not a file',
  ENAMETOOLONG: 'has a name that is too long',
  ELOOP: 'is a link',
  EMFILE: 'could not be opened: too many files are open',
}

/** A regular file under a path that somebody may name, links followed. */
export async function openRegular(path: string, more = 0): Promise<FileHandle> {
  const label = basename(path)
  const flags = constants.O_RDONLY | constants.O_NONBLOCK | more
  const handle = await open(path, flags).catch((error: NodeJS.ErrnoException) => {
    throw new Fault('media', `${label} ${REASONS[error.code ?? ''] ?? `could not be opened (${error.code})`}.`)
  })
  if ((await handle.stat()).isFile()) return handle
  await handle.close()
  throw new Fault('media', `${label} is not a file.`)
}

/** A folder whose files are read, and what it is called in messages. */
export interface Folder {
  readonly path: string
  /** Such as `the watched folder`. */
  readonly name: string
}

/** A file that really lies in a folder: no link is followed on the way, and none that is put there meanwhile. */
export async function openInside(folder: Folder, path: string): Promise<FileHandle> {
  const whole = await placeInside(folder, path)
  const handle = await openRegular(whole, constants.O_NOFOLLOW)
  const opened = await readlink(`/proc/self/fd/${handle.fd}`).catch(() => whole)
  if (opened === whole) return handle
  await handle.close()
  throw linked(path, folder)
}

const linked = (path: string, { name }: Folder): Fault =>
  new Fault('denied', `${path} is a link, or goes through one; only files that lie in ${name} itself are read.`)

async function placeInside(folder: Folder, path: string): Promise<string> {
  checkText(path, 'A path')
  const root = await realpath(folder.path).catch(() => {
    throw new Fault('not-found', `${capital(folder.name)} ${folder.path} cannot be read.`)
  })
  const whole = join(root, path)
  if (!whole.startsWith(root + sep)) throw new Fault('denied', `${path} lies outside ${folder.name}.`)
  const real = await realpath(whole).catch(() => null)
  if (real === null) throw new Fault('not-found', `${path} is not in ${folder.name}.`)
  if (real !== whole) throw linked(path, folder)
  return whole
}

const capital = (text: string): string => text.charAt(0).toUpperCase() + text.slice(1)

/** Runs work on what a file holds, and closes it whatever becomes of the work. */
export async function withHandle<T>(opening: Promise<FileHandle>, work: (file: Readable) => Promise<T>): Promise<T> {
  const handle = await opening
  const file = handle.createReadStream({ autoClose: false })
  // Whoever reads it is told; where nobody reads yet, it must not end the program.
  file.on('error', () => undefined)
  try {
    return await work(file)
  } finally {
    file.destroy()
    await handle.close()
  }
}

export const withFile = <T>(path: string, work: (file: Readable) => Promise<T>): Promise<T> =>
  withHandle(openRegular(path), work)

/** How long a text may take to come, ms: a disk far away may never answer. */
const PATIENCE_MS = 10_000

/** What a file holds as text. @param most bytes that are read; a larger one is refused before */
export async function readText(opening: Promise<FileHandle>, most: number, label: string): Promise<string> {
  const handle = await opening
  try {
    const { size } = await handle.stat()
    if (size > most)
      throw new Fault('invalid', `${label} is larger than ${most / 1e6} MB, the most that is read of it.`)
    let late: NodeJS.Timeout | undefined
    const tooLong = new Promise<never>((_, reject) => {
      const fault = new Fault('media', `${label} gave nothing for ${PATIENCE_MS / 1000} s; it cannot be read.`)
      late = setTimeout(() => reject(fault), PATIENCE_MS)
    })
    return await Promise.race([textOf(handle, most, label), tooLong]).finally(() => clearTimeout(late))
  } finally {
    await handle.close()
  }
}

/** Not all at once: a file may say that it is empty and go on without end. */
async function textOf(handle: FileHandle, most: number, label: string): Promise<string> {
  const parts: Buffer[] = []
  let size = 0
  for await (const part of handle.createReadStream({ autoClose: false }) as AsyncIterable<Buffer>) {
    size += part.length
    if (size > most)
      throw new Fault('invalid', `${label} is larger than ${most / 1e6} MB, the most that is read of it.`)
    parts.push(part)
  }
  return Buffer.concat(parts).toString('utf8')
}

interface Listed {
  /** Below the folder. */
  readonly path: string
  readonly size: number
  readonly mtimeMs: number
}

/**
 * Regular files below a folder, by name, links left out.
 * @param deep whether folders in it are looked through too
 * @param most how many entries are looked at
 * @returns and how many entries were left
 */
export async function listInside(
  folder: Folder,
  { deep, most, chosen = () => true }: { deep: boolean; most: number; chosen?: (path: string) => boolean },
): Promise<{ files: Listed[]; left: number }> {
  const entries = await entriesOf(folder.path, deep).catch(() => {
    throw new Fault('not-found', `${capital(folder.name)} ${folder.path} cannot be read.`)
  })
  const paths = entries
    .map((entry) => ({ entry, path: relative(folder.path, join(entry.parentPath, entry.name)) }))
    .filter(({ path }) => chosen(path))
    .sort((a, b) => (a.path < b.path ? -1 : 1))
  const files = await Promise.all(
    paths.slice(0, most).map(async ({ entry, path }) => {
      const found = entry.isFile() ? await stat(join(folder.path, path)).catch(() => null) : null
      return found ? [{ path, size: found.size, mtimeMs: found.mtimeMs }] : []
    }),
  )
  return { files: files.flat(), left: Math.max(0, paths.length - most) }
}

/** A folder below that is closed to us hides what it holds, and nothing else. */
async function entriesOf(path: string, deep: boolean): Promise<Dirent[]> {
  const found = await readdir(path, { withFileTypes: true })
  if (!deep) return found
  const inner = found
    .filter((entry) => entry.isDirectory())
    .map((entry) => entriesOf(join(path, entry.name), true).catch(() => []))
  return [...found, ...(await Promise.all(inner)).flat()]
}
