// Frames of the demo, treated, for the pictures of the documentation.
import { execFileSync } from 'node:child_process'
import { NOTHING_AROUND, type Recipe } from '@fogbath/core/line'
import { Treatment } from '@fogbath/core/treat'

const ffmpeg = (args: string, input?: Buffer): Buffer =>
  execFileSync('ffmpeg', ['-v', 'error', ...args.split(' ')], { maxBuffer: 1e8, ...(input ? { input } : {}) })

/** A frame of a demo clip, 16-bit code values, interleaved RGB. */
export function demoFrame(file: string, frame: number, width: number, height: number): Uint16Array {
  const filter = `select=eq(n\\,${frame}),zscale=w=${width}:h=${height}:matrixin=709:rangein=limited:matrix=gbr:range=full:dither=none,format=gbrp16le`
  const raw = ffmpeg(`-i demo/footage/${file} -frames:v 1 -vf ${filter} -f rawvideo -pix_fmt rgb48le -`)
  return new Uint16Array(raw.buffer, raw.byteOffset, raw.length / 2)
}

/** A picture to be put together from treated frames, 8 bits. */
export class Sheet {
  private readonly bytes: Buffer
  constructor(
    readonly width: number,
    readonly height: number,
  ) {
    this.bytes = Buffer.alloc(3 * width * height, 255)
  }

  /** Lays a frame, treated, with its upper left corner at x, y. */
  put(recipe: Recipe, codes: Uint16Array, size: readonly [number, number], from: string, x: number, y: number): void {
    const [w, h] = size
    const frame = { data: codes, format: 'u16', width: w, height: h, frame: 0 } as const
    const { pixels } = new Treatment().run(frame, { ...NOTHING_AROUND, recipe, encoding: from }, 'bt1886')
    for (let i = 0; i < w * h; i++) {
      const at = 3 * ((y + Math.floor(i / w)) * this.width + x + (i % w))
      for (let k = 0; k < 3; k++) this.bytes[at + k] = Math.round(255 * Math.min(1, Math.max(0, pixels[4 * i + k]!)))
    }
  }
  /** @param path its ending says how it is written */
  write(path: string): void {
    const size = `${this.width}x${this.height}`
    ffmpeg(`-y -f rawvideo -pixel_format rgb24 -video_size ${size} -i - -q:v 3 ${path}`, this.bytes)
  }
}
