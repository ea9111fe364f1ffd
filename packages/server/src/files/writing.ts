import { randomUUID } from 'node:crypto'
import { constants } from 'node:fs'
import { copyFile, link, open, rename, rm } from 'node:fs/promises'
import { basename, dirname, join } from 'node:path'
import { Fault } from '../errors'

interface WriteOptions {
  readonly mode?: number
  /** Fails with EEXIST where something has the name already. */
  readonly fresh?: boolean
}

/**
 * Writes a file so that under its name there is all of it or what was there before: beside it first, down to the disk, then
 * moved. On a full disk nothing is left.
 */
export async function writeWhole(
  path: string,
  content: string | Uint8Array,
  options: WriteOptions = {},
): Promise<void> {
  const { mode = 0o666, fresh = false } = options
  const half = join(dirname(path), `.${basename(path).slice(0, 100)}.${randomUUID().slice(0, 8)}.part`)
  try {
    const handle = await open(half, 'wx', mode)
    try {
      await handle.writeFile(content)
      await handle.sync()
    } finally {
      await handle.close()
    }
    await (fresh ? publishFresh(half, path) : rename(half, path))
  } catch (error) {
    throw fullDisk(error, basename(path)) ?? error
  } finally {
    await rm(half, { force: true })
  }
}

/** Copies a file so that under its name there is all of it or what was there before. @throws EEXIST as above, where it is to be fresh */
export async function copyWhole(from: string, path: string, { fresh = false } = {}): Promise<void> {
  const half = join(dirname(path), `.${basename(path).slice(0, 100)}.${randomUUID().slice(0, 8)}.part`)
  try {
    await copyFile(from, half, constants.COPYFILE_EXCL)
    await (fresh ? publishFresh(half, path) : rename(half, path))
  } catch (error) {
    throw fullDisk(error, basename(path)) ?? error
  } finally {
    await rm(half, { force: true })
  }
}

/** Moving would replace what is there; a link is made only where nothing is. Where a disk knows no links it is copied. */
async function publishFresh(half: string, path: string): Promise<void> {
  await link(half, path).catch(async (error: NodeJS.ErrnoException) => {
    if (!['EPERM', 'ENOTSUP', 'EOPNOTSUPP', 'EMLINK'].includes(error.code ?? '')) throw error
    await copyFile(half, path, constants.COPYFILE_EXCL).catch(async (copying: NodeJS.ErrnoException) => {
      if (copying.code !== 'EEXIST') await rm(path, { force: true })
      throw copying
    })
  })
}

/** What to say of an error that a full disk made, or null for any other. */
export function fullDisk(error: unknown, what: string): Fault | null {
  const code = (error as { code?: string }).code ?? ''
  return code === 'ENOSPC' || code === 'EDQUOT'
    ? new Fault('full', `The disk is full: ${what} could not be stored. Make room and try again.`)
    : null
}
