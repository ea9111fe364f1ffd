import { ACESCCT } from '@fogbath/core/colour'
import type { FrameData } from '@fogbath/core/cpu'
import { Fault } from '../errors'
import { ffmpeg, writeFailure } from './ffmpeg'

/** Light lies in a proxy as ACEScct: 10 bits hold its range as they do that of a camera's log curve. */
const STEPS = 65536
let lights: Float32Array | undefined
export const lightOfProxy = (codes: Uint16Array): Float32Array => {
  lights ??= Float32Array.from({ length: STEPS }, (_, i) => ACESCCT.decode(i / (STEPS - 1)))
  const table = lights
  return Float32Array.from(codes, (code) => table[code]!)
}
const codesOf = (data: FrameData): Uint16Array =>
  data instanceof Float32Array
    ? Uint16Array.from(data, (v) => Math.min(1, Math.max(0, ACESCCT.encode(v))) * (STEPS - 1))
    : data

/** Writes frames as a clip that decodes and seeks quickly: H.264 of 10 bits, a key frame each half second. */
export async function writeProxy(
  path: string,
  { width, height, fps }: { width: number; height: number; fps: string },
  frames: AsyncIterable<{ readonly data: FrameData }>,
  tell: (done: number) => void,
): Promise<void> {
  const raw = ['-f', 'rawvideo', '-pixel_format', 'rgb48le', '-video_size', `${width}x${height}`, '-framerate', fps]
  const colours = 'zscale=matrixin=gbr:rangein=full:matrix=709:range=limited:dither=none,format=yuv420p10le'
  const codec = ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '12', '-g', '12', '-bf', '0']
  const marks = ['-colorspace', 'bt709', '-color_range', 'tv', '-movflags', '+faststart', '-f', 'mp4']
  const child = ffmpeg(['-y', ...raw, '-i', 'pipe:0', '-vf', colours, ...codec, ...marks, `file:${path}`], {
    polite: true,
  })
  let stderr = ''
  child.stderr.on('data', (chunk: Buffer) => (stderr = (stderr + chunk.toString()).slice(-4000)))
  child.stdin.on('error', () => undefined)
  const failed = (): Fault =>
    new Fault('program', `A proxy could not be written: ${writeFailure(stderr) || 'ffmpeg stopped'}.`)
  let done = 0
  try {
    for await (const { data } of frames) {
      const codes = codesOf(data)
      const bytes = Buffer.from(codes.buffer, codes.byteOffset, codes.byteLength)
      await new Promise<void>((go, fail) => child.stdin.write(bytes, (error) => (error ? fail(failed()) : go())))
      tell(++done)
    }
    child.stdin.end()
    if ((await child).failed) throw failed()
  } finally {
    child.kill()
  }
}
