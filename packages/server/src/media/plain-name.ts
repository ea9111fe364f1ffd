import { mkdtemp, rm, symlink } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { writtenAsExr } from './float-tiff'

/**
 * Runs work on a file under a name without an ending, so that what the file holds decides how it is read and not what
 * it is called (and so that a '%' in its name is no pattern). A TIFF of floats is given as EXR.
 */
export async function withPlainName<T>(path: string, work: (plain: string) => Promise<T>): Promise<T> {
  const folder = await mkdtemp(join(tmpdir(), 'fogbath-'))
  try {
    const plain = join(folder, 'source')
    if (!(await writtenAsExr(path, plain, path))) await symlink(resolve(path), plain)
    return await work(plain)
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}
