import { FogBathError } from '../errors'

/** Frames are compared at about this width, px: what moves a little stays where it is. */
export const CUT_WIDTH = 64
const BINS = 32
const [ACROSS, DOWN] = [8, 6]
/** Frames on each side that a change is held against, and within which a flash is over. */
const AROUND = 8
const FLASH = 6

export interface CutOptions {
  /** How different two frames must be to be of two shots, 0..100 per cent of black against white. */
  readonly threshold: number
  /** Frames that a shot has at least; a shorter one counts to the one before it. */
  readonly least: number
}
export const CUT_DEFAULTS: CutOptions = { threshold: 6, least: 6 }

/** How often a change must stand out of those around it; dissolves, pans and shakes change as much in every frame. */
const STANDS_OUT = 2.2
/** As alike as this share of a change, what was before it is back: a flash, not a cut. */
const BACK = 0.45

/** What a frame is compared by. */
interface Look {
  /** How much of each channel is at most so bright, of all pixels. */
  readonly spread: Float32Array
  /** Mean colours of fields. */
  readonly fields: Float32Array
}

/**
 * Finds the cuts of footage from its frames, one after the other (own design: the distance of frames by how their codes are
 * spread, which moving leaves alone, and by where they are, held against the frames around).
 */
export class CutFinder {
  private readonly recent: Look[] = []
  /** Of each frame from the one before it. */
  private readonly changes: number[] = []
  /** How near one of the frames soon after is to the one before, and how near the frame is to those before a flash. */
  private readonly back: number[] = []

  /** @param pixels RGB code values, rows from above @param full the code of white */
  add(pixels: ArrayLike<number>, width: number, height: number, full: number): void {
    const look = lookOf(pixels, width, height, full)
    const n = this.changes.length
    this.changes.push(n === 0 ? 0 : distance(this.recent.at(-1)!, look))
    this.back.push(Infinity)
    // The frame before a change is as many frames back as the change, and one more.
    for (let k = 1; k <= FLASH && k < this.recent.length; k++) {
      const before = this.recent[this.recent.length - 1 - k]!
      const apart = distance(before, look)
      // Back after a change at n - k, and by one at n.
      this.back[n - k] = Math.min(this.back[n - k]!, apart)
      this.back[n] = Math.min(this.back[n]!, apart)
    }
    this.recent.push(look)
    if (this.recent.length > FLASH + 2) this.recent.shift()
  }

  /** First frames of the shots, the first of all with them; empty without frames. Throws for options that are none. */
  end({ threshold, least }: CutOptions): number[] {
    check('threshold', threshold, 0, 100)
    check('least', least, 1, 1e6)
    const shots: number[] = this.changes.length > 0 ? [0] : []
    for (let n = 1; n < this.changes.length; n++)
      if (this.isCut(n, threshold / 100) && n - shots.at(-1)! >= least) shots.push(n)
    // What is left behind the last cut is a shot as well.
    if (shots.length > 1 && this.changes.length - shots.at(-1)! < least) shots.pop()
    return shots
  }

  private isCut(n: number, threshold: number): boolean {
    const change = this.changes[n]!
    if (change < threshold || this.back[n]! < BACK * change) return false
    const around: number[] = []
    for (let k = 1; k <= AROUND; k++)
      for (const m of [n - k, n + k]) if (m > 0 && m < this.changes.length) around.push(this.changes[m]!)
    around.sort((a, b) => a - b)
    const usual = around[Math.floor(0.6 * around.length)] ?? 0
    const beside = Math.max(this.changes[n - 1]!, this.changes[n + 1] ?? 0)
    return change > STANDS_OUT * usual && change > STANDS_OUT * beside
  }
}

function check(name: string, value: number, least: number, most: number): void {
  if (!(value >= least && value <= most))
    throw new FogBathError('range', name, `The ${name} of cuts is ${value}; it must be from ${least} to ${most}.`)
}

function lookOf(pixels: ArrayLike<number>, width: number, height: number, full: number): Look {
  const spread = new Float32Array(3 * BINS)
  const fields = new Float32Array(3 * ACROSS * DOWN)
  const counts = new Float32Array(ACROSS * DOWN)
  for (let y = 0, i = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const field = Math.floor((y * DOWN) / height) * ACROSS + Math.floor((x * ACROSS) / width)
      counts[field]!++
      for (let k = 0; k < 3; k++, i++) {
        const v = Math.min(1, Math.max(0, pixels[i]! / full))
        spread[k * BINS + Math.min(BINS - 1, Math.floor(v * BINS))]!++
        fields[3 * field + k]! += v
      }
    }
  for (let k = 0; k < 3; k++)
    for (let b = 0, sum = 0; b < BINS; b++) {
      sum += spread[k * BINS + b]! / (width * height)
      spread[k * BINS + b] = sum
    }
  for (let i = 0; i < fields.length; i++) fields[i]! /= Math.max(1, counts[Math.floor(i / 3)]!)
  return { spread, fields }
}

/** 0..1: half by how codes are spread (the earth mover's distance of one channel is the area between two sums), half by where they are. */
const distance = (a: Look, b: Look): number => (apart(a.spread, b.spread) + apart(a.fields, b.fields)) / 2

function apart(a: Float32Array, b: Float32Array): number {
  let sum = 0
  for (let i = 0; i < a.length; i++) sum += Math.abs(a[i]! - b[i]!)
  return sum / a.length
}
