import { lstat, open, readFile, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import type { Readable } from 'node:stream'

/** Files that the program made itself, in its data folder or among temporary ones; what others put somewhere is read by `inside.ts`. */

export const readOwn = (path: string): Promise<Buffer> => readFile(path)

/** A file as a stream, opened before it is handed on: one that is missing is told here and not by the stream later. */
export async function streamOwn(path: string): Promise<Readable> {
  const handle = await open(path)
  return handle.createReadStream()
}

/** Names in a folder; none where there is no folder. */
export const namesIn = (folder: string): Promise<string[]> => readdir(folder).catch(() => [])

/** Files below a folder, with their sizes and times; none where there is no folder, and what goes meanwhile is left out. */
export async function filesBelow(folder: string): Promise<{ path: string; size: number; time: number }[]> {
  const entries = await readdir(folder, { recursive: true, withFileTypes: true }).catch(() => [])
  const found = await Promise.all(
    entries
      .filter((entry) => !entry.isDirectory())
      .map(async (entry) => {
        const path = join(entry.parentPath, entry.name)
        const at = await lstat(path).catch(() => null)
        return at ? [{ path, size: at.size, time: at.mtimeMs }] : []
      }),
  )
  return found.flat()
}

/** Bytes of a file, or of all files below a folder. */
export async function bytesOf(path: string): Promise<number> {
  const found = await lstat(path).catch(() => null)
  if (!found) return 0
  if (!found.isDirectory()) return found.size
  return (await filesBelow(path)).reduce((sum, file) => sum + file.size, 0)
}

/** Milliseconds since a thing, or anything in it, was last written; 0 where it is gone. */
export async function ageOf(path: string): Promise<number> {
  const found = await lstat(path).catch(() => null)
  if (!found) return 0
  const inner = found.isDirectory() ? await filesBelow(path) : []
  return Date.now() - inner.reduce((latest, file) => Math.max(latest, file.time), found.mtimeMs)
}
