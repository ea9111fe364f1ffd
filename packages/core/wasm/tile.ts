import { bakeRows } from './bake'
import { blurAlong, blurDown, shrinkRows, stretchRows } from './blur'
import { emit16, emit8, emitFloats, ingest16 } from './ends'
import { planesToCodes, resampleAlong, resampleDown } from './planes'
import { runProgram } from './run'
import { shiftRows } from './shift'
import { clearVeil, joinUp, leastOf, sumOf } from './spread'

// A job is a piece of work on a whole picture, described by words of four bytes: its number, how many units (pixels, rows
// or colours) there are, how many make a tile, and what it needs. Tiles are independent of each other, so any number of
// threads may share them out. Names of numbers: cpu/numbers.ts.

// @ts-ignore: decorator
@inline
function word(job: usize, i: usize): i32 {
  return load<i32>(job + (i << 2))
}

// @ts-ignore: decorator
@inline
function address(job: usize, i: usize): usize {
  return <usize>load<u32>(job + (i << 2))
}

// @ts-ignore: decorator
@inline
function real(job: usize, i: usize): f32 {
  return load<f32>(job + (i << 2))
}

/** Works on one tile of a job. @param scratch room of the thread's own */
export function tile(job: usize, index: i32, scratch: usize): void {
  const per = word(job, 2)
  const first = index * per
  const last = min(word(job, 1), first + per)
  const some = last - first
  const a = address(job, 3)
  const b = address(job, 4)
  const before = <usize>first
  switch (word(job, 0)) {
    case JOB_RUN:
      return runProgram(a, first, some, scratch)
    case JOB_BLUR_ALONG:
      return blurAlong(a, b, word(job, 5), first, last, address(job, 6), word(job, 7), scratch)
    case JOB_BLUR_DOWN:
      return blurDown(a, b, word(job, 5), word(job, 6), first, last, address(job, 7), word(job, 8))
    case JOB_SHRINK:
      return shrinkRows(a, b, word(job, 5), word(job, 6), word(job, 7), word(job, 8), first, last)
    case JOB_STRETCH:
      return stretchRows(
        a,
        b,
        word(job, 5),
        word(job, 6),
        word(job, 7),
        word(job, 8),
        first,
        last,
        address(job, 9),
        scratch,
      )
    case JOB_CLEAR_VEIL:
      return clearVeil(a + 16 * before, b + 16 * before, some, real(job, 5))
    case JOB_SHIFT:
      return shiftRows(
        a,
        b,
        word(job, 5),
        word(job, 6),
        first,
        last,
        word(job, 7),
        real(job, 8),
        real(job, 9),
        real(job, 10),
        real(job, 11),
      )
    case JOB_INGEST16:
      return ingest16(a + 6 * before, b + 16 * before, some, address(job, 5))
    case JOB_EMIT8:
      return emit8(a + 16 * before, b + 4 * before, (some + 3) >> 2, noiseOf(job, first))
    case JOB_EMIT16:
      return emit16(a + 16 * before, b + 6 * before, some, noiseOf(job, first), real(job, 7))
    case JOB_EMIT_FLOATS:
      return emitFloats(a + 16 * before, b + 12 * before, some)
    case JOB_BAKE_ROWS:
      return bakeRows(b, word(job, 5), word(job, 6), first, last, a, word(job, 7), scratch)
    case JOB_RESAMPLE_DOWN:
      return resampleDown(a, b, word(job, 5), first, last, address(job, 6), address(job, 7), word(job, 8), real(job, 9), real(job, 10))
    case JOB_RESAMPLE_ALONG:
      return resampleAlong(
        a,
        b,
        word(job, 5),
        word(job, 6),
        first,
        last,
        address(job, 7),
        address(job, 8),
        word(job, 9),
        real(job, 10),
        real(job, 11),
      )
    case JOB_PLANES_TO_CODES: {
      const at = 4 * before
      const codes = address(job, 6) + 6 * before
      return planesToCodes(a + at, b + at, address(job, 5) + at, codes, (some + 3) >> 2, address(job, 7))
    }
    case JOB_SUM_OF:
      return sumOf(a + 16 * before, b + 16 * before, some, real(job, 5), real(job, 6))
    case JOB_JOIN_UP:
      return joinUp(a + 16 * before, b + 16 * before, some, address(job, 5))
    case JOB_LEAST_OF:
      return leastOf(a + 16 * before, b + 16 * before, some)
    default:
      return
  }
}

/** The noise is 65536 floats long and begins once more behind its end, for one tile and a few pixels. */
// @ts-ignore: decorator
@inline
function noiseOf(job: usize, first: i32): usize {
  return address(job, 5) + (<usize>((word(job, 6) + 3 * first) & 65535) << 2)
}
