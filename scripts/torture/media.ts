import { execFileSync } from 'node:child_process'
import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROUTES } from '@fogbath/contract'
import { Chance, type Ledger } from './ledger'
import type { Target } from './target'

const CLASS = 'mutated media'

/** Ending and how ffmpeg writes it; small, because what counts is the container. */
const FORMATS: readonly (readonly [string, ...string[]])[] = [
  ['mp4', '-c:v', 'libx264', '-pix_fmt', 'yuv420p10le'],
  ['mov', '-c:v', 'prores_ks', '-pix_fmt', 'yuv422p10le'],
  ['mkv', '-c:v', 'ffv1', '-pix_fmt', 'gbrp16le'],
  ['webm', '-c:v', 'libvpx-vp9', '-pix_fmt', 'yuv420p'],
  ['avi', '-c:v', 'mjpeg', '-pix_fmt', 'yuvj420p'],
  ['mxf', '-c:v', 'mpeg2video', '-pix_fmt', 'yuv420p'],
  ['ts', '-c:v', 'mpeg2video', '-pix_fmt', 'yuv420p'],
  ['nut', '-c:v', 'rawvideo', '-pix_fmt', 'rgb24'],
  ['gif'],
  ['y4m', '-pix_fmt', 'yuv420p', '-f', 'yuv4mpegpipe'],
  ...['png', 'jpg', 'tif', 'dpx', 'webp', 'bmp', 'jp2', 'ppm', 'exr'].map((ending) => [ending] as const),
]
const MOVING = 10

export interface Sample {
  readonly name: string
  readonly bytes: Buffer
}

/** One file of every format that is read. */
export function makeSamples(folder: string): Sample[] {
  mkdirSync(folder, { recursive: true })
  return FORMATS.map(([ending, ...how], i) => {
    const path = join(folder, `sample.${ending}`)
    const frames = i < MOVING ? ['-frames:v', '12'] : ['-frames:v', '1', '-update', '1']
    const input = ['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=24:d=1']
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...input, ...frames, ...how, path])
    return { name: `sample.${ending}`, bytes: readFileSync(path) }
  })
}

/** Numbers that length fields do not expect. */
const ODD_WORDS = [0, 1, 0x7fffffff, 0x80000000, 0xffffffff, 0xfffffffe, 0x10000, 0x00010000]

/** Ways to spoil a file. Most damage is done near its beginning, where its structure stands. */
const MUTATIONS: readonly ((bytes: Buffer, chance: Chance) => Buffer)[] = [
  (b, c) => {
    for (let i = 1 + c.below(30); i > 0; i--) b[place(b, c)]! ^= 1 << c.below(8)
    return b
  },
  (b, c) => b.subarray(0, c.below(b.length)),
  (b, c) => b.fill(0, place(b, c), Math.min(b.length, place(b, c) + c.below(400))),
  (b, c) => {
    const at = place(b, c)
    return Buffer.concat([b.subarray(0, at), b.subarray(c.below(at + 1), at), b.subarray(at)])
  },
  (b, c) => {
    const at = place(b, c)
    return Buffer.concat([b.subarray(0, at), b.subarray(Math.min(b.length, at + 1 + c.below(64)))])
  },
  (b, c) => {
    for (let i = 1 + c.below(4); i > 0; i--)
      if (b.length > 8) b.writeUInt32BE(c.of(ODD_WORDS), Math.min(b.length - 4, place(b, c) & ~3))
    return b
  },
  (b, c) => Buffer.concat([b, Buffer.from(Array.from({ length: c.below(300) }, () => c.below(256)))]),
]
/** A copy that is spoiled in one of these ways. */
export const mutated = (bytes: Buffer, chance: Chance): Buffer => chance.of(MUTATIONS)(Buffer.from(bytes), chance)

/** Uploads of three files each that are made whatever the time. */
const LEAST_ROUNDS = 4
const place = (b: Buffer, c: Chance): number => c.below(c.happens(0.7) ? Math.min(b.length, 600) : b.length)

/** Uploads spoiled files, and looks at whatever was taken in. */
export async function mutateMedia(
  target: Target,
  ledger: Ledger,
  chance: Chance,
  samples: readonly Sample[],
  until: number,
): Promise<void> {
  const id = await target.production(CLASS, 'Spoiled')
  let taken = 0
  let files = 0
  // A slow machine may have no time left: some are tried all the same.
  for (let round = 0; round < LEAST_ROUNDS || Date.now() < until; round++) {
    const spoiled: [string, Buffer][] = []
    for (let i = 0; i < 3; i++, files++) {
      const { name, bytes } = chance.of(samples)
      const changed = mutated(bytes, chance)
      // The name may lie about what is inside.
      spoiled.push([chance.happens(0.1) ? chance.of(samples).name : name, changed])
    }
    const taking = await target.upload(CLASS, id, spoiled)
    if (taking.status !== 201) continue
    const { files: answers, shots } = taking.answer()
    for (const { shotId } of answers) {
      const shot = shots.find((s) => s.id === shotId)
      if (!shot) continue
      taken++
      await look(target, ledger, shot.mediumId, shot.medium.info.frames)
    }
  }
  ledger.note(CLASS, `${files} files, ${taken} of them still whole enough`)
  await target.call(CLASS, ROUTES.deleteProduction, { params: { id }, query: { revision: 1 } })
}

/** What was taken in can be shown; a frame further on that is damaged is refused in words. */
async function look(target: Target, ledger: Ledger, medium: number, frames: number): Promise<void> {
  const url = (frame: number): string => `/api/media/${medium}/frames/${frame}?width=160`
  const first = await target.ask(CLASS, url(0))
  if (first.status !== 200)
    ledger.failed(CLASS, `taken in, but its first frame is refused: ${first.text.slice(0, 200)}`)
  if (frames > 1) await target.ask(CLASS, url(frames - 1))
}
