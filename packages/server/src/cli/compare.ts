import { bt709ToLab, ciede2000, three, type Triple } from '@fogbath/core/colour'
import { encodingOf, lightOf, type EncodingRef } from '@fogbath/core/encodings'
import type { MediaInfo } from '@fogbath/contract'
import { Fault } from '../errors'
import { decodeFrames, type Frame } from '../media/decode'
import { openWriter } from '../media/encode'
import { withInput, type Input } from './inputs'
import { probe } from '../media/probe'

export interface Compared {
  readonly same: boolean
  readonly frames: number
  readonly width: number
  readonly height: number
  /** CIEDE2000 of pixels, and where it is worst: pixels from the upper left. */
  readonly difference: Figures & { readonly where: { readonly frame: number; readonly x: number; readonly y: number } }
  /** Of the channel that differs most, codes of 16 bits; of floats their numbers times 65535. */
  readonly codes: Figures
}
interface Figures {
  readonly mean: number
  readonly p99: number
  readonly worst: number
}

/** A heat map is white from here on, CIEDE2000. */
const WHITE = 5

/** How differences are spread, without keeping them: bins of an even width, and the last for all above. */
class Spread {
  private readonly counts: Float64Array
  private count = 0
  private sum = 0
  worst = 0

  constructor(
    private readonly step: number,
    bins: number,
  ) {
    this.counts = new Float64Array(bins)
  }
  /** @param n how often */
  add(value: number, n = 1): void {
    this.count += n
    this.sum += n * value
    this.worst = Math.max(this.worst, value)
    this.counts[Math.min(this.counts.length - 1, Math.floor(value / this.step))]! += n
  }
  figures(): Figures {
    let left = 0.99 * this.count
    let bin = 0
    for (; bin < this.counts.length - 1 && left > this.counts[bin]!; bin++) left -= this.counts[bin]!
    const p99 = Math.min(this.worst, bin * this.step)
    return { mean: this.sum / Math.max(1, this.count), p99, worst: this.worst }
  }
}

interface Options {
  /** What both are taken for; what each says of itself when left out. */
  readonly encoding?: EncodingRef
  /** A PNG of the worst frame, black where both are the same. */
  readonly heatMap?: string
  readonly signal: AbortSignal
  readonly onFrame: (done: number, of: number) => void
}

/** Holds two pictures, clips or sequences against each other, frame by frame. */
export const compareFiles = (a: string, b: string, options: Options): Promise<Compared> =>
  withInput([a], '24', (one) => withInput([b], '24', (two) => compare(one, two, options)))

async function compare(one: Input, two: Input, options: Options): Promise<Compared> {
  const [a, b] = [await probe(one.source, one.label), await probe(two.source, two.label)]
  checkAlike(one.label, a, two.label, b)
  const { width, height, frames } = a
  const [labA, labB] = [a, b].map((info) => labOf(options.encoding ?? info.profile ?? info.encoding)) as [ToLab, ToLab]
  const difference = new Spread(0.001, 100_000)
  const codes = new Spread(1, 65_536)
  let where = { frame: 0, x: 0, y: 0 }
  let worst: Uint16Array | null = null
  const all = { first: 0, count: frames, signal: options.signal }
  const others = decodeFrames(two.source, b, all)
  let frame = 0
  for await (const { data } of decodeFrames(one.source, a, all)) {
    const other = (await others.next()).value as Frame
    const map = options.heatMap ? new Uint16Array(3 * width * height) : null
    const before = difference.worst
    let same = 0
    for (let i = 0; i < width * height; i++) {
      const apart = codesApart(data, other.data, i)
      if (apart === 0) {
        same++
        continue
      }
      codes.add(apart)
      const dE = ciede2000(labA(data, i), labB(other.data, i))
      if (dE > difference.worst) where = { frame, x: i % width, y: Math.floor(i / width) }
      difference.add(dE)
      map?.fill(Math.round(65_535 * Math.min(1, dE / WHITE)), 3 * i, 3 * i + 3)
    }
    codes.add(0, same)
    difference.add(0, same)
    if (map && (worst === null || difference.worst > before)) worst = map
    options.onFrame(++frame, frames)
  }
  if (options.heatMap && worst) await writeMap(options.heatMap, worst, width, height)
  return {
    same: codes.worst === 0,
    frames,
    width,
    height,
    difference: { ...difference.figures(), where },
    codes: codes.figures(),
  }
}

function checkAlike(one: string, a: MediaInfo, two: string, b: MediaInfo): void {
  const size = ({ width, height }: MediaInfo): string => `${width}x${height}`
  if (size(a) !== size(b))
    throw new Fault('media', `${one} is ${size(a)} and ${two} is ${size(b)}; only pictures of one size are compared.`)
  if (a.frames !== b.frames)
    throw new Fault('media', `${one} has ${a.frames} frames and ${two} has ${b.frames}; only as many are compared.`)
}

type Codes = Frame['data']
const scaleOf = (data: Codes): number => (data instanceof Float32Array ? 65_535 : 1)

function codesApart(a: Codes, b: Codes, pixel: number): number {
  const [s, t] = [scaleOf(a), scaleOf(b)]
  let most = 0
  for (let k = 3 * pixel; k < 3 * pixel + 3; k++) most = Math.max(most, Math.abs(a[k]! * s - b[k]! * t))
  return most
}

type ToLab = (data: Codes, pixel: number) => Triple
/** Seen beside white of the encoding's screen, or of the scene. */
function labOf(encoding: EncodingRef): ToLab {
  const light = lightOf(encodingOf(encoding))
  const out = three()
  return (data, pixel) => {
    const scale = data instanceof Float32Array ? 1 : 1 / 65_535
    light(data[3 * pixel]! * scale, data[3 * pixel + 1]! * scale, data[3 * pixel + 2]! * scale, out)
    return bt709ToLab(out as unknown as Triple)
  }
}

async function writeMap(path: string, map: Uint16Array, width: number, height: number): Promise<void> {
  const target = { delivery: { format: 'png' }, path, start: 0, width, height, fps: '24', encoding: 'bt1886' } as const
  const writer = await openWriter(target)
  await writer.write(map)
  await writer.end()
}
