import { createHash } from 'node:crypto'
import type { FileHandle } from 'node:fs/promises'

/** So much of a file's beginning tells it apart from others of its length, bytes. */
const HEAD_BYTES = 1e6

/** SHA-256 of a file's beginning; the file is closed. */
export async function headOf(opening: Promise<FileHandle>): Promise<string> {
  const handle = await opening
  try {
    const { buffer, bytesRead } = await handle.read(Buffer.alloc(HEAD_BYTES), 0, HEAD_BYTES, 0)
    return createHash('sha256').update(buffer.subarray(0, bytesRead)).digest('hex')
  } finally {
    await handle.close()
  }
}
