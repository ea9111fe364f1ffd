import { lstat, readdir } from 'node:fs/promises'
import { join } from 'node:path'

/** Names in a folder; none where there is no folder. */
export const namesIn = (folder: string): Promise<string[]> => readdir(folder).catch(() => [])

/** Bytes of a file, or of all files below a folder. What goes meanwhile counts nothing. */
export async function bytesOf(path: string): Promise<number> {
  const found = await lstat(path).catch(() => null)
  if (!found) return 0
  if (!found.isDirectory()) return found.size
  let sum = 0
  for (const name of await namesIn(path)) sum += await bytesOf(join(path, name))
  return sum
}

/** Milliseconds since a thing was last changed; 0 where it is gone. */
export async function ageOf(path: string): Promise<number> {
  const found = await lstat(path).catch(() => null)
  return found ? Date.now() - found.mtimeMs : 0
}
