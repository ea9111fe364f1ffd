import { fit, mix, mixHeld } from './colour'
import { curves, ramp } from './curves'
import { fieldPixels } from './field'
import { grainPixels } from './grain'
import { lay } from './lay'
import { CHUNK, PLANE, REGISTER, loadPixels, storePixels } from './registers'
import { chromaTimes, hues, shade } from './shade'
import { loadStretched, storeShrunk } from './shrunk'
import { open, solid } from './solid'

// A run is a list of steps on single pixels. A step is its number, its length in bytes, and what it needs. Two registers
// hold the pixels: `line`, what the line has made so far, and `own`, what is being made. Names of numbers: cpu/numbers.ts.

/** Selects by distance from picked colours; the first channel becomes the share, 0..1. */
function select(at: usize, fours: i32, given: usize): void {
  const range = v128.load32_splat(given, 0)
  const perSoft = v128.load32_splat(given, 4)
  const count = load<i32>(given, 8)
  const zero = f32x4.splat(0)
  const one = f32x4.splat(1)
  for (let i = 0; i < fours; i++, at += 16) {
    let nearest = f32x4.splat(Infinity)
    let pick = given + 12
    for (let p = 0; p < count; p++, pick += 12) {
      const x = f32x4.sub(v128.load(at), v128.load32_splat(pick, 0))
      const y = f32x4.sub(v128.load(at, PLANE), v128.load32_splat(pick, 4))
      const z = f32x4.sub(v128.load(at, 2 * PLANE), v128.load32_splat(pick, 8))
      nearest = f32x4.pmin(nearest, f32x4.add(f32x4.mul(x, x), f32x4.add(f32x4.mul(y, y), f32x4.mul(z, z))))
    }
    const rise = f32x4.add(one, f32x4.mul(f32x4.sub(range, f32x4.sqrt(nearest)), perSoft))
    const t = f32x4.pmin(one, f32x4.pmax(zero, rise))
    const smooth = f32x4.sub(f32x4.splat(3), f32x4.add(t, t))
    v128.store(at, f32x4.mul(f32x4.mul(t, t), smooth))
  }
}

function copy(from: usize, to: usize, bytes: usize): void {
  memory.copy(to, from, bytes)
}

/** All steps over up to {@link CHUNK} pixels from pixel `start` on. @param fresh whether they are the first of their tile */
function chunk(program: usize, start: usize, some: i32, fresh: bool, line: usize): void {
  const fours = (some + 3) >> 2
  const own = line + REGISTER
  const work = own + REGISTER
  const bytes: usize = <usize>fours << 4
  for (;;) {
    const given = program + 8
    switch (load<i32>(program)) {
      case STEP_LOAD:
        loadPixels(load<u32>(given) + (start << 4), load<i32>(given, 4) ? line : own, fours)
        break
      case STEP_STORE:
        storePixels(load<i32>(given, 4) ? line : own, load<u32>(given) + (start << 4), fours)
        break
      case STEP_KEEP:
        copy(own, line, REGISTER)
        break
      case STEP_TAKE:
        copy(line, own, REGISTER)
        break
      case STEP_MIX:
        mix(own, fours, given)
        break
      case STEP_HELD:
        mixHeld(own, fours, given)
        break
      case STEP_CURVES:
        curves(own, fours, given, work)
        break
      case STEP_SOLID:
        solid(own, fours, given, work)
        open(own, fours)
        break
      case STEP_RAMP:
        ramp(own, fours, given)
        break
      case STEP_FIT:
        fit(own, fours, work)
        break
      case STEP_LAY: {
        const mask = load<u32>(given, 12)
        const over = mask ? mask + (start << 2) : 0
        lay(line, own, fours, load<i32>(given), load<i32>(given, 4) !== 0, load<f32>(given, 8), over)
        copy(line, own, REGISTER)
        break
      }
      case STEP_SELECT:
        select(own, fours, given)
        break
      case STEP_STORE_PLANE:
        copy(own, load<u32>(given) + (start << 2), bytes)
        break
      case STEP_TABLE:
        solid(own, fours, given, work)
        break
      case STEP_SHADE:
        shade(own, fours, given, work)
        break
      case STEP_HUES:
        hues(own, fours, given, work)
        break
      case STEP_STORE_SHRUNK:
        storeShrunk(own, given, <i32>start, some)
        break
      case STEP_LOAD_STRETCHED:
        loadStretched(given, own, <i32>start, some)
        break
      case STEP_FIELD:
        fieldPixels(own, given, <i32>start, some, work)
        break
      case STEP_GRAIN:
        grainPixels(own, given, <i32>start, some, fresh, line)
        break
      case STEP_CHROMA:
        chromaTimes(own, fours, given, work)
        break
      default:
        return
    }
    program += load<u32>(program, 4)
  }
}

/**
 * Runs a program over pixels.
 * @param start,count pixels; start is a multiple of four, and pictures and planes are padded to one
 * @param scratch room for two registers and what steps work with, see cpu/program.ts
 */
export function runProgram(program: usize, start: i32, count: i32, scratch: usize): void {
  for (let done = 0; done < count; done += CHUNK)
    chunk(program, <usize>(start + done), min(CHUNK, count - done), done == 0, scratch)
}
