import { execa, type ResultPromise } from 'execa'
import { Fault } from '../errors'

/** Only local files and pipes are ever opened, and only formats that hold pictures: no playlists, no scripts. */
const FORMATS = [
  'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mxf,mpegts,mpeg,nut,ogg,yuv4mpegpipe,gif,dv,rawvideo',
  'image2,png_pipe,tiff_pipe,jpeg_pipe,exr_pipe,dpx_pipe,bmp_pipe,webp_pipe,jpegxl_pipe,j2k_pipe,pgm_pipe,ppm_pipe',
].join(',')
export const SAFE_INPUT = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', FORMATS]

const QUIET = ['-hide_banner', '-nostdin', '-loglevel', 'error']

/** The last line that a program wrote to stderr, without its own prefixes. */
export const lastLine = (stderr: string): string =>
  (stderr.trim().split('\n').pop() ?? '').replace(/^\[[^\]]*\]\s*/, '').slice(0, 200)

/** Why a file could not be written, from what ffmpeg said. */
export const writeFailure = (stderr: string): string =>
  /No space left on device/.test(stderr) ? 'the disk is full; make room and try again' : lastLine(stderr)

/** Runs ffprobe and gives its JSON. */
export async function ffprobe(args: readonly string[]): Promise<unknown> {
  const all = ['-v', 'error', ...SAFE_INPUT, '-of', 'json', ...args]
  const { stdout } = await execa('ffprobe', all, { timeout: 120_000, maxBuffer: 64e6 }).catch(notInstalled)
  return JSON.parse(stdout)
}

/** Starts ffmpeg with raw pipes; never through a shell. */
export function ffmpeg(args: readonly string[]): ResultPromise<typeof RAW> {
  return execa('ffmpeg', [...QUIET, ...args], RAW)
}

const RAW = { encoding: 'buffer', buffer: false, reject: false, forceKillAfterDelay: 2000 } as const

/** Runs ffmpeg to its end; gives stderr when it failed, else null. */
export async function runFfmpeg(args: readonly string[], timeout: number): Promise<string | null> {
  const result = await execa('ffmpeg', [...QUIET, ...args], { reject: false, timeout, maxBuffer: 16e6 })
  if (result.code === 'ENOENT') notInstalled(result)
  return result.failed ? result.stderr || result.shortMessage || 'stopped' : null
}

function notInstalled(error: unknown): never {
  if ((error as { code?: string }).code === 'ENOENT')
    throw new Fault('program', 'ffmpeg is not installed; run `npm start` once, or install Debian’s package ffmpeg.')
  throw error
}
