import { type FrameData } from '@fogbath/core/cpu'
import { encodingOf, type EncodingRef } from '@fogbath/core/encodings'
import { deliveryFormat, type DeliveryFormat, type DeliveryId, type Packing } from '@fogbath/core/delivery'
import { mkdir } from 'node:fs/promises'
import { basename, dirname } from 'node:path'
import { Fault } from '../errors'
import { ffmpeg, writeFailure } from './ffmpeg'
import { soundInput, soundOutput, type Sound } from './sound'

export interface Target {
  readonly format: DeliveryId
  /** A file, or for stills a pattern with %d, numbered from `start`. */
  readonly path: string
  readonly start: number
  readonly width: number
  readonly height: number
  readonly fps: string
  /** Encoding of the code values. */
  readonly encoding: EncodingRef
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
  const float = deliveryFormat(target.format).float
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
  const format = deliveryFormat(t.format)
  if (format.moving) return clipArgs(t, format)
  const numbered = t.path.includes('%') ? ['-start_number', String(t.start)] : ['-update', '1']
  return ['-f', 'image2', ...numbered, '-c:v', ...format.codec, ...packed(format.packing)]
}

const packed = ({ pixelFormat, options }: Packing): string[] => ['-pix_fmt', pixelFormat, ...options]

function clipArgs(t: Target, format: Extract<DeliveryFormat, { moving: true }>): string[] {
  const packing = t.width % 2 === 1 || t.height % 2 === 1 ? format.packing.odd : format.packing.even
  const tags = encodingOf(t.encoding).tags ?? { primaries: 'bt709', transfer: 'bt709' }
  const wide = tags.primaries === 'bt2020'
  const marks = ['-color_primaries', tags.primaries, '-color_trc', tags.transfer]
  const matrix = wide ? '2020_ncl' : '709'
  const convert = `zscale=matrixin=gbr:rangein=full:matrix=${matrix}:range=limited:dither=none,format=${packing.pixelFormat}`
  const colour =
    format.colour === 'ycbcr'
      ? ['-vf', convert, '-colorspace', wide ? 'bt2020nc' : 'bt709', '-color_range', 'tv']
      : ['-colorspace', 'rgb', '-color_range', 'pc']
  const sound = t.sound ? soundOutput(format.sound) : []
  const container = [...format.flags, '-f', format.container]
  return [...colour, ...marks, ...sound, '-c:v', ...format.codec, ...packed(packing), ...container]
}
