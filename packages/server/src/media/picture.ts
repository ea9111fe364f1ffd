import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import PQueue from 'p-queue'
import { Fault } from '../errors'
import { readOwn } from '../files/own'
import { MOST_MEMORY, SAFE_INPUT, lastLine, runFfmpeg } from './ffmpeg'
import { inputArgs, type Source } from './source'

/** Width of a small picture, pixels. */
const WIDTH = 240
const PATIENCE_MS = 30_000
/** Made at once; a list asks for many. */
const AT_ONCE = 2
const makers = new PQueue({ concurrency: AT_ONCE })

/** The first frame of footage as a small JPEG as the file would be shown, to know it again by. */
export function smallPicture(source: Source, name: string): Promise<Buffer> {
  return makers.add(async () => {
    const folder = await mkdtemp(join(tmpdir(), 'fogbath-small-'))
    try {
      const path = join(folder, 'small.jpg')
      const scale = ['-frames:v', '1', '-vf', `scale='min(${WIDTH},iw)':-2`, '-q:v', '3', '-update', '1']
      const args = ['-y', ...SAFE_INPUT, ...inputArgs(source), '-map', '0:v:0', ...scale, path]
      const failed = await runFfmpeg(args, PATIENCE_MS, { memory: MOST_MEMORY, polite: true })
      if (failed) throw new Fault('media', `${name} gives no picture (${lastLine(failed)}).`)
      return await readOwn(path)
    } finally {
      await rm(folder, { recursive: true, force: true })
    }
  })
}
