// Files that a start cannot do without: never half there.
import { closeSync, fsyncSync, openSync, renameSync, rmSync, writeSync } from 'node:fs'

/** Writes a file beside its place, down to the disk, and moves it there. */
export function writeWhole(path, text, mode = 0o666) {
  const half = `${path}.part`
  try {
    const file = openSync(half, 'w', mode)
    try {
      writeSync(file, text)
      fsyncSync(file)
    } finally {
      closeSync(file)
    }
    renameSync(half, path)
  } finally {
    rmSync(half, { force: true })
  }
}
