import type { FrameData } from '@fogbath/core'
import { mkdir } from 'node:fs/promises'
import { basename, dirname } from 'node:path'
import { Fault } from '../errors'
import { ffmpeg, writeFailure } from './ffmpeg'
import { soundInput, soundOutput, type Sound } from './sound'

/** What can be written, and how deep. */
export const TARGETS = {
  png: { bits: 16, float: false, moving: false },
  tif: { bits: 16, float: false, moving: false },
  exr: { bits: 32, float: true, moving: false },
  mp4: { bits: 10, float: false, moving: true },
  mov: { bits: 10, float: false, moving: true },
} as const
export type TargetFormat = keyof typeof TARGETS

export interface Target {
  readonly format: TargetFormat
  /** A file, or for stills a pattern with %d, numbered from `start`. */
  readonly path: string
  readonly start: number
  readonly width: number
  readonly height: number
  readonly fps: string
  /** Encoding id of the code values. */
  readonly encoding: string
  /** Goes into a clip; stills have none. */
  readonly sound?: Sound | null
  /** Gives way to everything else on this machine. */
  readonly polite?: boolean
}

export interface Writer {
  readonly write: (frame: FrameData) => Promise<void>
  /** Ends the file; throws when it could not be written. */
  readonly end: () => Promise<void>
  /** Stops at once; what lies there is not whole. */
  readonly abort: () => Promise<void>
}

export async function openWriter(target: Target): Promise<Writer> {
  await mkdir(dirname(target.path), { recursive: true })
  const float = TARGETS[target.format].float
  const args = [
    ...['-y', '-f', 'rawvideo', '-pixel_format', float ? 'gbrpf32le' : 'rgb48le'],
    ...['-video_size', `${target.width}x${target.height}`, '-framerate', target.fps, '-i', 'pipe:0'],
    ...(target.sound ? soundInput(target.sound) : []),
    ...outputArgs(target),
    `file:${target.path}`,
  ]
  const child = ffmpeg(args, { polite: target.polite ?? false })
  let stderr = ''
  child.stderr.on('data', (chunk: Buffer) => (stderr = (stderr + chunk.toString()).slice(-4000)))
  // A closed pipe shows itself as ffmpeg's own exit below; without a listener it would end the process.
  child.stdin.on('error', () => undefined)
  const failed = () =>
    new Fault('program', `${basename(target.path)} could not be written: ${writeFailure(stderr) || 'ffmpeg stopped'}.`)
  return {
    write: (frame) =>
      new Promise((resolve, reject) => {
        if (child.exitCode !== null) return reject(failed())
        const bytes = float ? toPlanes(frame as Float32Array) : frame
        child.stdin.write(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), (error) =>
          error ? reject(failed()) : resolve(),
        )
      }),
    end: async () => {
      child.stdin.end()
      if ((await child).failed) throw failed()
    },
    abort: async () => {
      child.kill('SIGKILL')
      await child
    },
  }
}

function toPlanes(rgb: Float32Array): Float32Array {
  const n = rgb.length / 3
  const planes = new Float32Array(3 * n)
  for (let i = 0; i < n; i++) {
    planes[2 * n + i] = rgb[3 * i]!
    planes[i] = rgb[3 * i + 1]!
    planes[n + i] = rgb[3 * i + 2]!
  }
  return planes
}

function outputArgs(t: Target): string[] {
  const stills = ['-f', 'image2', ...(t.path.includes('%') ? ['-start_number', String(t.start)] : ['-update', '1'])]
  switch (t.format) {
    case 'png':
      return [...stills, '-c:v', 'png', '-pix_fmt', 'rgb48be']
    case 'tif':
      return [...stills, '-c:v', 'tiff', '-pix_fmt', 'rgb48le', '-compression_algo', 'lzw']
    case 'exr':
      return [...stills, '-c:v', 'exr', '-pix_fmt', 'gbrpf32le', '-format', 'float', '-compression', 'zip16']
    default:
      return movingArgs(t)
  }
}

function movingArgs(t: Target): string[] {
  const wide = t.encoding === 'bt2020'
  const matrix = wide ? '2020_ncl' : '709'
  // Subsampled chroma needs even sides; odd pictures keep full chroma instead of losing a column.
  const odd = t.width % 2 === 1 || t.height % 2 === 1
  const format = odd ? 'yuv444p10le' : t.format === 'mp4' ? 'yuv420p10le' : 'yuv422p10le'
  const convert = `zscale=matrixin=gbr:rangein=full:matrix=${matrix}:range=limited:dither=none,format=${format}`
  const tags = [
    ...['-colorspace', wide ? 'bt2020nc' : 'bt709', '-color_primaries', wide ? 'bt2020' : 'bt709'],
    ...['-color_trc', t.encoding === 'srgb' ? 'iec61966-2-1' : wide ? 'bt2020-10' : 'bt709', '-color_range', 'tv'],
  ]
  const codec =
    t.format === 'mp4'
      ? [
          '-c:v',
          'libx264',
          '-preset',
          'medium',
          '-crf',
          '12',
          ...(odd ? [] : ['-profile:v', 'high10']),
          '-movflags',
          '+faststart+write_colr',
          '-f',
          'mp4',
        ]
      : [
          '-c:v',
          'prores_ks',
          '-profile:v',
          odd ? '4444' : 'hq',
          '-vendor',
          'apl0',
          '-movflags',
          '+write_colr',
          '-f',
          'mov',
        ]
  const sound = t.sound ? soundOutput(t.format === 'mp4' ? 'mp4' : 'mov') : []
  return ['-vf', convert, '-pix_fmt', format, ...tags, ...sound, ...codec]
}
