import { existsSync } from 'node:fs'
import { execa, type ResultPromise } from 'execa'
import { Fault } from '../errors'
import { giveWay } from '../priority'

/** Only local files and pipes are ever opened, and only formats that hold pictures: no playlists, no scripts. */
const FORMATS = [
  'mov,mp4,m4a,3gp,3g2,mj2,matroska,webm,avi,mxf,mpegts,mpeg,nut,ogg,yuv4mpegpipe,gif,dv,rawvideo',
  'image2,png_pipe,tiff_pipe,jpeg_pipe,exr_pipe,dpx_pipe,bmp_pipe,webp_pipe,jpegxl_pipe,j2k_pipe,pgm_pipe,ppm_pipe',
].join(',')
export const SAFE_INPUT = ['-protocol_whitelist', 'file,pipe', '-format_whitelist', FORMATS]

const QUIET = ['-hide_banner', '-nostdin', '-loglevel', 'error']

/**
 * What a program says when it may take no more memory: of a block, of a thread's stack, or of its own libraries (errno(3),
 * ld.so(8)).
 */
const OUT_OF_MEMORY = /Cannot allocate memory|Resource temporarily unavailable|failed to map segment|out of memory/i

/** The last line that a program wrote to stderr, without its own prefixes. */
export const lastLine = (stderr: string): string =>
  OUT_OF_MEMORY.test(stderr)
    ? `it needs more memory than the ${MOST_MEMORY / 2 ** 30} GB it may take`
    : (stderr.trim().split('\n').pop() ?? '').replace(/^\[[^\]]*\]\s*/, '').slice(0, 200)

/** Why a file could not be written, from what ffmpeg said. */
export const isFullDisk = (stderr: string): boolean => /No space left on device/.test(stderr)
export const writeFailure = (stderr: string): string =>
  isFullDisk(stderr) ? 'the disk is full; make room and try again' : lastLine(stderr)

/**
 * What a program that reads somebody's file may hold, bytes. The largest picture that is taken in needs half of it
 * (8K of 10 bits at full size: 2.0 GB on two processors).
 */
export const MOST_MEMORY = 4 * 2 ** 30

/**
 * The system's own programs (util-linux) that set a limit, and that have a program end with the one that started it, however
 * that ended (prctl(2), PR_SET_PDEATHSIG): a killed server must leave nothing behind that still writes to files of its
 * renders. Where they are missing, programs run without.
 */
const LIMITER = '/usr/bin/prlimit'
const BINDER = '/usr/bin/setpriv'

/** As long as putting together what was rendered may take, ms. */
export const AN_HOUR = 3_600_000

export interface Care {
  /** Most bytes of memory; without limit when left out, as for what we write ourselves. */
  readonly memory?: number
  /** Gives way to everything else on this machine, as renders do. */
  readonly polite?: boolean
}

/** A program and its arguments, with what it may use. The limit lies on private writable memory (setrlimit(2), RLIMIT_DATA). */
function bound(name: string, args: readonly string[], { memory }: Care): [string, string[]] {
  const limit = memory && existsSync(LIMITER) ? [LIMITER, `--data=${memory}`, '--'] : []
  const tie = existsSync(BINDER) ? [BINDER, '--pdeathsig', 'KILL', '--'] : []
  const [program, ...rest] = [...tie, ...limit, name, ...args]
  return [program!, rest]
}

/** Runs ffprobe and gives its JSON. */
export async function ffprobe(args: readonly string[]): Promise<unknown> {
  const all = ['-v', 'error', ...SAFE_INPUT, '-of', 'json', ...args]
  const run = execa(...bound('ffprobe', all, { memory: MOST_MEMORY }), { timeout: 120_000, maxBuffer: 64e6 })
  const { stdout } = await run.catch(checkInstalled)
  return JSON.parse(stdout)
}

/** Starts ffmpeg with raw pipes; never through a shell. */
export function ffmpeg(args: readonly string[], care: Care): ResultPromise<typeof RAW> {
  const child = execa(...bound('ffmpeg', [...QUIET, ...args], care), RAW)
  if (care.polite && child.pid) giveWay(child.pid)
  return child
}

const RAW = { encoding: 'buffer', buffer: false, reject: false, forceKillAfterDelay: 2000 } as const

/** Runs ffmpeg to its end; gives stderr when it failed, else null. */
export async function runFfmpeg(args: readonly string[], timeout: number, care: Care): Promise<string | null> {
  const child = execa(...bound('ffmpeg', [...QUIET, ...args], care), { reject: false, timeout, maxBuffer: 16e6 })
  if (care.polite && child.pid) giveWay(child.pid)
  const result = await child
  if (!result.failed) return null
  if (isMissing(result)) throw notInstalled()
  return result.stderr || (result.timedOut ? `it took longer than ${timeout / 1000} s` : 'the decoder stopped')
}

/** Seconds that processors work on what ffmpeg does, its start with it. */
export async function processorSeconds(args: readonly string[]): Promise<number> {
  const told = ['-loglevel', 'info', '-benchmark']
  const all = bound('ffmpeg', [...QUIET, ...told, ...args], { memory: MOST_MEMORY })
  const { stderr } = await execa(...all, { reject: false, timeout: 120_000, maxBuffer: 16e6 })
  const [, user = '0', system = '0'] = /bench: utime=([\d.]+)s stime=([\d.]+)s/.exec(stderr) ?? []
  return Number(user) + Number(system)
}

/** Started by itself a program that is not there is an error of the start; the limiter says so and ends. */
const isMissing = (error: unknown): boolean => {
  const { code, stderr } = error as { code?: string; stderr?: unknown }
  return code === 'ENOENT' || (typeof stderr === 'string' && /^(prlimit|setpriv): failed to execute/.test(stderr))
}

const notInstalled = (): Fault =>
  new Fault('program', 'ffmpeg is not installed; run `npm start` once, or install Debian’s package ffmpeg.')

function checkInstalled(error: unknown): never {
  throw isMissing(error) ? notInstalled() : error
}
