import { type FrameData } from '@fogbath/core/cpu'
import { deliveryFormat } from '@fogbath/core/delivery'
import { profileOfEncoding } from '@fogbath/core/encodings'
import { mkdir } from 'node:fs/promises'
import { basename, dirname } from 'node:path'
import { Fault } from '../errors'
import { numbered } from '../files/numbered'
import { encoderArgs, pictureFilters, rawFormat, type Shape } from './encode-args'
import { ffmpeg, isFullDisk, writeFailure } from './ffmpeg'
import { addProfile } from './jpeg-profile'
import { soundInput, soundOutput, type Sound } from './sound'

export interface Target extends Shape {
  /** A file, or for stills a pattern with %d, numbered from `start`. */
  readonly path: string
  readonly start: number
  readonly fps: string
  /** Goes into a clip; stills have none. */
  readonly sound?: Sound | null
  readonly notes?: ClipNotes
  /** Gives way to everything else on this machine. */
  readonly polite?: boolean
}

/** What a clip says of itself where its container has a place for it. */
export interface ClipNotes {
  /** Of its first frame. */
  readonly timecode?: string | undefined
  /** What made it. */
  readonly made: string
}
/** What would make each file another (times, random names) is left out: the same pictures are the same file. */
export const REPEATABLE = ['-fflags', '+bitexact'] as const
export const noteArgs = ({ timecode, made }: ClipNotes): string[] => [
  ...(timecode ? ['-timecode', timecode] : []),
  ...['-metadata', `comment=${made}`],
]

export interface Writer {
  /** Frames of black, where there is a slate, come of themselves. @param alpha one number a pixel, of the same kind, where the target has alpha */
  readonly write: (frame: FrameData, alpha?: FrameData) => Promise<void>
  /** Ends the file; throws when it could not be written. */
  readonly end: () => Promise<void>
  /** Stops at once; what lies there is not whole. */
  readonly abort: () => Promise<void>
}

export async function openWriter(target: Target): Promise<Writer> {
  await mkdir(dirname(target.path), { recursive: true })
  const { float, ending } = deliveryFormat(target.delivery.format)
  const profile = ending === 'jpg' ? profileOfEncoding(target.encoding) : null
  let written = 0
  const args = [
    ...['-y', '-f', 'rawvideo', '-pixel_format', rawFormat(target)],
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
    new Fault(
      isFullDisk(stderr) ? 'full' : 'program',
      `${basename(target.path)} could not be written: ${writeFailure(stderr) || 'ffmpeg stopped'}.`,
    )
  const write: Writer['write'] = (frame, alpha) =>
    new Promise((resolve, reject) => {
      if (child.exitCode !== null) return reject(failed())
      const bytes = float ? toPlanes(frame as Float32Array, alpha as Float32Array | undefined) : joined(frame, alpha)
      written++
      child.stdin.write(Buffer.from(bytes.buffer, bytes.byteOffset, bytes.byteLength), (error) =>
        error ? reject(failed()) : resolve(),
      )
    })
  if (target.slate) await write(...blackFrame(target))
  return {
    write,
    end: async () => {
      child.stdin.end()
      if ((await child).failed) throw failed()
      if (profile) for (const path of pathsOf(target, written)) await addProfile(path, profile)
    },
    abort: async () => {
      child.kill('SIGKILL')
      await child
    },
  }
}

/** A black frame that nothing shines through. Formats of floats have no slate. */
function blackFrame({ width, height, alpha }: Target): [Uint16Array, Uint16Array | undefined] {
  const pixels = width * height
  return [new Uint16Array(3 * pixels), alpha ? new Uint16Array(pixels).fill(65_535) : undefined]
}

/** Files of the stills that were written. */
const pathsOf = ({ path, start }: Target, count: number): string[] =>
  path.includes('%') ? Array.from({ length: count }, (_, i) => numbered(path, start + i)) : [path]

/** Green, blue, red and alpha, one after the other. */
function toPlanes(rgb: Float32Array, alpha?: Float32Array): Float32Array {
  const n = rgb.length / 3
  const planes = new Float32Array((alpha ? 4 : 3) * n)
  for (let i = 0; i < n; i++) {
    planes[2 * n + i] = rgb[3 * i]!
    planes[i] = rgb[3 * i + 1]!
    planes[n + i] = rgb[3 * i + 2]!
  }
  if (alpha) planes.set(alpha, 3 * n)
  return planes
}

function joined(rgb: FrameData, alpha?: FrameData): FrameData {
  if (!alpha) return rgb
  const n = rgb.length / 3
  const out = new Uint16Array(4 * n)
  for (let i = 0; i < n; i++) {
    out[4 * i] = rgb[3 * i]!
    out[4 * i + 1] = rgb[3 * i + 1]!
    out[4 * i + 2] = rgb[3 * i + 2]!
    out[4 * i + 3] = alpha[i]!
  }
  return out
}

function outputArgs(target: Target): string[] {
  const format = deliveryFormat(target.delivery.format)
  const filters = pictureFilters(target)
  const encoder = [...(filters.length ? ['-vf', filters.join(',')] : []), ...encoderArgs(target)]
  if (!format.moving) {
    const numbered = target.path.includes('%') ? ['-start_number', String(target.start)] : ['-update', '1']
    return ['-f', 'image2', ...numbered, ...encoder]
  }
  const { container } = format
  const sound = target.sound ? soundOutput(container.sound, target.sound) : []
  const notes = target.notes ? noteArgs(target.notes) : []
  return [...sound, ...encoder, ...notes, ...REPEATABLE, ...container.flags, '-f', container.muxer]
}
