// Draws the demo footage: npm run demo:draw [-- scene ...] [--still] writes demo/footage/*.
import { spawn } from 'node:child_process'
import { once } from 'node:events'
import { availableParallelism } from 'node:os'
import { Worker, isMainThread, parentPort } from 'node:worker_threads'
import { three } from '@fogbath/core/colour'
import { encodingById, numbersOf } from '@fogbath/core/encodings'
import { straightView } from '@fogbath/core/film'
import { bunting } from './bunting'
import { faces } from './faces'
import { dawnFog } from './fog'
import { lockGate } from './lock'
import type { Light } from './march'
import { lantern } from './night'

interface Scene {
  readonly draw: (u: number, v: number, time: number, aspect: number) => Light
  readonly file: string
  readonly encoding: 'acescct' | 'bt1886'
  readonly exposure: number
  readonly frames: number
}

const SCENES: Record<string, Scene> = {
  lock: { draw: lockGate, file: 'lock-gate-acescct.mp4', encoding: 'acescct', exposure: 0.9, frames: 48 },
  faces: { draw: faces, file: 'keeper-and-apprentice.mp4', encoding: 'bt1886', exposure: 0.64, frames: 48 },
  lantern: { draw: lantern, file: 'night-lantern-acescct.mp4', encoding: 'acescct', exposure: 1, frames: 48 },
  fog: { draw: dawnFog, file: 'dawn-fog.mp4', encoding: 'bt1886', exposure: 0.62, frames: 48 },
  bunting: { draw: bunting, file: 'regatta-bunting.mp4', encoding: 'bt1886', exposure: 0.75, frames: 48 },
}

const WIDTH = 1280
const HEIGHT = 720
const FPS = 24

interface Order {
  readonly scene: string
  readonly frame: number
}

/** One frame of a scene as 16-bit R'G'B' code values of its encoding. */
function drawFrame({ scene, frame }: Order): Uint16Array {
  const { draw, encoding, exposure } = SCENES[scene]!
  const light = drawLight((u, v) => draw(u, v, frame / FPS, WIDTH / HEIGHT))
  const numbers = numbersOf(encodingById(encoding))
  const seen = (v: number): number => (encoding === 'bt1886' ? straightView(v) : v)
  const codes = three()
  const out = new Uint16Array(3 * WIDTH * HEIGHT)
  for (let at = 0; at < out.length; at += 3) {
    const [r, g, b] = [light[at]! * exposure, light[at + 1]! * exposure, light[at + 2]! * exposure]
    numbers(seen(r), seen(g), seen(b), codes)
    codes.forEach((v, k) => (out[at + k] = Math.round(Math.min(1, Math.max(0, v)) * 65535)))
  }
  return out
}

/** Light so bright that no film tells it apart, so that one spark does not outshine all rays of its pixel. */
const BRIGHTEST = 60

/** One ray a pixel, then three more where a pixel differs from its neighbours. */
function drawLight(draw: (u: number, v: number) => Light): Float32Array {
  const picture = new Float32Array(3 * WIDTH * HEIGHT)
  const ray = (x: number, y: number): Light => draw(x / WIDTH, y / HEIGHT)
  for (let y = 0, at = 0; y < HEIGHT; y++)
    for (let x = 0; x < WIDTH; x++, at += 3)
      picture.set(
        ray(x + 0.25, y + 0.25).map((c) => Math.min(BRIGHTEST, c)),
        at,
      )
  const first = picture.slice()
  const seen = (at: number, k: number): number => Math.sqrt(Math.min(1.5, first[at + k]!))
  for (let y = 0, at = 0; y < HEIGHT; y++) {
    for (let x = 0; x < WIDTH; x++, at += 3) {
      const right = x < WIDTH - 1 ? at + 3 : at - 3
      const below = y < HEIGHT - 1 ? at + 3 * WIDTH : at - 3 * WIDTH
      let edge = 0
      for (let k = 0; k < 3; k++)
        edge = Math.max(edge, Math.abs(seen(at, k) - seen(right, k)), Math.abs(seen(at, k) - seen(below, k)))
      if (edge < 0.05) continue
      const more = [ray(x + 0.75, y + 0.25), ray(x + 0.25, y + 0.75), ray(x + 0.75, y + 0.75)]
      for (let k = 0; k < 3; k++)
        picture[at + k] = more.reduce((sum, c) => sum + Math.min(BRIGHTEST, c[k]!), first[at + k]!) / 4
    }
  }
  return picture
}

if (!isMainThread) {
  parentPort!.on('message', (order: Order) => {
    const data = drawFrame(order)
    parentPort!.postMessage({ frame: order.frame, data }, [data.buffer as ArrayBuffer])
  })
}

/** Draws frames on all cores and hands them out in order. */
async function* drawAll(scene: string, frames: readonly number[]): AsyncGenerator<Uint16Array> {
  const workers = Array.from({ length: availableParallelism() }, () => new Worker(new URL(import.meta.url)))
  const done = new Map<number, Uint16Array>()
  let next = 0
  let wake: () => void = () => undefined
  for (const worker of workers) {
    const give = (): void => {
      const frame = frames[next++]
      if (frame !== undefined) worker.postMessage({ scene, frame })
    }
    worker.on('message', ({ frame, data }: { frame: number; data: Uint16Array }) => {
      done.set(frame, data)
      give()
      wake()
    })
    give()
  }
  for (const frame of frames) {
    while (!done.has(frame)) await new Promise<void>((resolve) => (wake = resolve))
    yield done.get(frame)!
    done.delete(frame)
  }
  await Promise.all(workers.map((w) => w.terminate()))
}

async function write(scene: string, still: boolean): Promise<void> {
  const { file, encoding } = SCENES[scene]!
  const target = still ? `demo/footage/${scene}.png` : `demo/footage/${file}`
  const trc = encoding === 'bt1886' ? ['-color_trc', 'bt709', '-color_primaries', 'bt709'] : []
  const clip = [
    '-vf',
    'zscale=matrixin=gbr:rangein=full:matrix=709:range=limited:dither=error_diffusion,format=yuv420p10le',
    '-colorspace',
    'bt709',
    '-color_range',
    'tv',
    ...trc,
  ]
  const codec = [
    '-c:v',
    'libx264',
    '-preset',
    'veryslow',
    '-crf',
    '16',
    '-profile:v',
    'high10',
    '-movflags',
    '+faststart+write_colr',
  ]
  const args = [
    '-v',
    'error',
    '-y',
    '-f',
    'rawvideo',
    '-pixel_format',
    'rgb48le',
    '-video_size',
    `${WIDTH}x${HEIGHT}`,
    '-framerate',
    String(FPS),
    '-i',
    'pipe:0',
  ]
  const ffmpeg = spawn('ffmpeg', [...args, ...(still ? ['-pix_fmt', 'rgb48be'] : [...clip, ...codec]), target], {
    stdio: ['pipe', 'inherit', 'inherit'],
  })
  const count = SCENES[scene]!.frames
  const frames = still ? [count / 2] : Array.from({ length: count }, (_, i) => i)
  for await (const data of drawAll(scene, frames)) {
    if (!ffmpeg.stdin.write(Buffer.from(data.buffer))) await once(ffmpeg.stdin, 'drain')
  }
  ffmpeg.stdin.end()
  await once(ffmpeg, 'exit')
  console.log(target)
}

if (isMainThread) {
  const wanted = process.argv.slice(2).filter((a) => !a.startsWith('--'))
  for (const scene of wanted.length ? wanted : Object.keys(SCENES)) await write(scene, process.argv.includes('--still'))
}
