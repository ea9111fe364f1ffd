import { FIXED, FIXED_AT, kernelMemory, type KernelMemory } from './memory'
import { JOB } from './numbers'
import { instantiate, type WasmKernels } from './wasm'

/** A word of a job that is a real number; all others are whole. */
export interface Real {
  readonly real: number
}
export const real = (value: number): Real => ({ real: value })

export interface Job {
  readonly kind: keyof typeof JOB
  /** Units of work: pixels, rows or colours, and how many make a tile. */
  readonly units: number
  readonly per: number
  readonly words: readonly (number | Real)[]
  /** Bytes of room that a thread needs of its own. */
  readonly scratch?: number
}

/**
 * The fixed stretch of the memory: control words, the job, then programs.
 *
 * | word | meaning |
 * |---|---|
 * | 0 | number of jobs begun, by which helpers are woken |
 * | 1 | tiles of the job that nobody has taken yet |
 * | 2 | tiles of the job that are done |
 * | 3 | tiles that failed |
 * | 4 | where the threads' own rooms begin, word 5: bytes of one |
 * | 6 | helpers that have begun to help |
 */
const CONTROL = { begun: 0, left: 1, done: 2, failed: 3, scratch: 4, scratchBytes: 5, helpers: 6 } as const
const CONTROL_BYTES = 64
const JOB_BYTES = 128
const toProgram = CONTROL_BYTES + JOB_BYTES

/** Where a program may be written, and how many bytes of it there may be. */
export const PROGRAM = {
  at: FIXED_AT + toProgram,
  bytes: FIXED - toProgram,
} as const

/** How many threads work on a job, this one included. */
let threads = 1
export const threadCount = (): number => threads

/** How many helpers have begun to help since the memory was made. */
export const helpersSeen = (): number => Atomics.load(controlOf(kernelMemory().memory), CONTROL.helpers)

/** Told by those who have started helpers, see {@link helpWithTiles}. */
export const useThreads = (count: number): void => void (threads = count)

/** Does a job, tile by tile, with all threads there are; returns when it is done. */
export function runJob({ kind, units, per, words, scratch = 0 }: Job): void {
  const memory = kernelMemory()
  const tiles = Math.ceil(units / per)
  if (tiles === 0) return
  const each = Math.ceil(scratch / 64) * 64
  memory.borrow(Math.max(64, each * threads), (room) => {
    const job = FIXED_AT + CONTROL_BYTES
    writeJob(memory, job, [JOB[kind], units, per, ...words])
    if (threads === 1 || tiles === 1) for (let i = 0; i < tiles; i++) memory.kernels.tile(job, i, room)
    else shareOut(memory, tiles, room, each)
  })
}

function writeJob(memory: KernelMemory, at: number, words: readonly (number | Real)[]): void {
  const whole = memory.ints(at, words.length)
  const reals = memory.floats(at, words.length)
  words.forEach((word, i) => {
    if (typeof word === 'number') whole[i] = word
    else reals[i] = word.real
  })
}

function shareOut(memory: KernelMemory, tiles: number, room: number, each: number): void {
  const control = controlOf(memory.memory)
  control[CONTROL.scratch] = room
  control[CONTROL.scratchBytes] = each
  Atomics.store(control, CONTROL.done, 0)
  Atomics.store(control, CONTROL.failed, 0)
  // This gives the job out: whoever finds tiles left finds all that was written before.
  Atomics.store(control, CONTROL.left, tiles)
  Atomics.add(control, CONTROL.begun, 1)
  Atomics.notify(control, CONTROL.begun)
  takeTiles(memory.kernels.tile, control, 0)
  for (let done = -1; done !== tiles; done = Atomics.load(control, CONTROL.done))
    if (done >= 0) Atomics.wait(control, CONTROL.done, done)
  if (Atomics.load(control, CONTROL.failed) > 0) throw new Error('A thread could not do its part of a picture.')
}

const controlOf = (memory: WebAssembly.Memory): Int32Array =>
  new Int32Array(memory.buffer, FIXED_AT, CONTROL_BYTES / Int32Array.BYTES_PER_ELEMENT)

/** Takes tiles until none is left. @param thread 0 for the one that gave the job out */
function takeTiles(tile: WasmKernels['tile'], control: Int32Array, thread: number): void {
  for (;;) {
    const index = Atomics.sub(control, CONTROL.left, 1) - 1
    if (index < 0) return
    const scratch = (control[CONTROL.scratch]! >>> 0) + thread * control[CONTROL.scratchBytes]!
    try {
      tile(FIXED_AT + CONTROL_BYTES, index, scratch)
    } catch {
      Atomics.add(control, CONTROL.failed, 1)
    }
    Atomics.add(control, CONTROL.done, 1)
    Atomics.notify(control, CONTROL.done)
  }
}

/**
 * What a helping thread does as long as it lives: sleeps, and takes tiles when a job is begun.
 * @param memory that of the thread that gives jobs out @param thread 1 .. threads - 1
 */
export function helpWithTiles(memory: WebAssembly.Memory, thread: number): void {
  const { tile } = instantiate(memory)
  const control = controlOf(memory)
  Atomics.add(control, CONTROL.helpers, 1)
  for (let seen = 0; ; seen = Atomics.load(control, CONTROL.begun)) {
    Atomics.wait(control, CONTROL.begun, seen)
    takeTiles(tile, control, thread)
  }
}
