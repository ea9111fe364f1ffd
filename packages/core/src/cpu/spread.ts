import type { Spread } from '../stages/space'
import { blurRecords } from './blur'
import { applyField } from './field'
import { real, runJob, type Job } from './jobs'
import { kernelMemory } from './memory'

/** Pixels that a thread takes at a time. */
const TILE = 16384

const onPixels = (kind: Job['kind'], n: number, words: Job['words']): void =>
  runJob({ kind, units: n, per: TILE, words })

/** A blurred copy of a picture, in a place beside it. */
function copyTo(place: number, sigma: number, at: number, width: number, height: number): void {
  const memory = kernelMemory()
  const floats = 4 * width * height
  memory.floats(place, floats).set(memory.floats(at, floats))
  blurRecords([sigma, sigma, sigma], place, width, height)
}

/** Joins a picture with blurred copies of itself, in place. */
export function spreadRecords(spread: Spread, at: number, width: number, height: number): void {
  const { copies, keep, amounts, least = 0, over } = spread
  const [first, second] = copies
  const n = width * height
  const memory = kernelMemory()
  const bytes = 16 * n
  // A copy that is not blurred is the picture itself.
  const [plain, blurred] = first.sigma === 0 ? [first, second] : [second, first]
  const both = plain.sigma > 0
  memory.borrow(48 + bytes * (both ? 2 : 1), (given) => {
    const sum = given + 48
    copyTo(sum, blurred.sigma, at, width, height)
    if (both) copyTo(sum + bytes, plain.sigma, at, width, height)
    onPixels('sumOf', n, [both ? sum + bytes : at, sum, real(plain.share), real(blurred.share)])
    if (over) applyField(over, true, sum, width, height)
    const per = least > 0 ? 1 / least : 1e30
    memory.floats(given, 12).set([...keep, 1, ...amounts, 0, per, per, per, per])
    onPixels('joinUp', n, [at, sum, given])
  })
}

/** Takes a share of the veil of light away, in place. @param sigma of the veil @param amount below 0 adds haze */
export function clearHaze(sigma: number, amount: number, at: number, width: number, height: number): void {
  const n = width * height
  kernelMemory().borrow(16 * n, (veil) => {
    onPixels('leastOf', n, [at, veil])
    blurRecords([sigma, sigma, sigma], veil, width, height)
    onPixels('clearVeil', n, [at, veil, real(amount)])
  })
}
