import { RESERVED, instantiate, makeMemory, type WasmKernels } from './wasm'

/**
 * The one WebAssembly memory of a thread and its helpers. A page is given only some hundred memories, and each takes
 * gigabytes of addresses, so everything that kernels work on shares this one: pictures stay until they are given back,
 * tables and solids until their room is needed for others, working rows are borrowed for the length of a call.
 */

/** A stretch of the memory. */
export interface Room {
  /** Address of the first byte; a multiple of 64. */
  readonly at: number
  readonly bytes: number
}

interface OwnRoom extends Room {
  /** When it was last used; Infinity for what may not be thrown out. */
  used: number
  thrownOut: boolean
}

/** Bytes that tables and solids may hold before the ones used longest ago make room: some eighty processes. */
const BUDGET = 48e6
const PAGE = 65536
const ALIGN = 64
/** Bytes behind the module's own for control, jobs and programs; never moved. See cpu/jobs.ts. */
export const FIXED = 131072
export const FIXED_AT = RESERVED
const FIRST = FIXED_AT + FIXED

export class KernelMemory {
  readonly kernels: WasmKernels
  /** In the order of their addresses. */
  private readonly rooms: OwnRoom[] = []
  private clock = 0
  private kept = 0

  /** @param budget bytes, see {@link BUDGET}; one thing that is larger than it still fits when it is alone */
  constructor(
    private readonly budget = BUDGET,
    readonly memory = makeMemory(Math.ceil(FIRST / PAGE)),
  ) {
    this.kernels = instantiate(memory)
  }

  /** Bytes of the memory as it is now; it never shrinks. */
  get size(): number {
    return this.memory.buffer.byteLength
  }

  /** Bytes of it that are in use. */
  get inUse(): number {
    return this.rooms.reduce((sum, room) => sum + room.bytes, FIRST)
  }

  /** Numbers of the memory, to be looked at at once: where the memory is not shared, growing moves it. */
  floats(at: number, length: number): Float32Array {
    return new Float32Array(this.memory.buffer, at, length)
  }
  ints(at: number, length: number): Int32Array {
    return new Int32Array(this.memory.buffer, at, length)
  }

  /**
   * A place for something that can be laid out again. It keeps its contents from use to use, unless it was thrown out
   * meanwhile; then `lay` is called once more.
   * @param lay fills the place at an address
   * @returns what gives the address, to be called anew for every use
   */
  keptPlace(bytes: number, lay: (at: number) => void): () => number {
    let room: OwnRoom | undefined
    return () => {
      if (!room || room.thrownOut) {
        this.makeRoom(bytes)
        room = this.take(bytes)
        this.kept += room.bytes
        lay(room.at)
      }
      room.used = ++this.clock
      return room.at
    }
  }

  /** Room that stays until it is given back. Its contents are left over from others. */
  pin(bytes: number): Room {
    const room = this.take(bytes)
    room.used = Infinity
    return room
  }

  giveBack(room: Room): void {
    const index = this.rooms.indexOf(room as OwnRoom)
    if (index >= 0) this.rooms.splice(index, 1)
  }

  /** Working room for the length of a call; its contents are left over from others. */
  borrow<T>(bytes: number, work: (at: number) => T): T {
    const room = this.pin(bytes)
    try {
      return work(room.at)
    } finally {
      this.giveBack(room)
    }
  }

  private makeRoom(bytes: number): void {
    while (this.kept + bytes > this.budget && this.dropOldest());
  }

  private take(wanted: number): OwnRoom {
    const bytes = Math.ceil(wanted / ALIGN) * ALIGN
    for (;;) {
      const index = this.gap(bytes)
      const before = this.rooms[index - 1]
      const at = before ? before.at + before.bytes : FIRST
      if (this.growTo(at + bytes)) {
        const room = { at, bytes, used: ++this.clock, thrownOut: false }
        this.rooms.splice(index, 0, room)
        return room
      }
      if (!this.dropOldest())
        throw new Error(`The memory for pictures is full: ${(bytes / 1e6).toFixed(1)} MB more do not fit.`)
    }
  }

  /** Index of the first room behind a gap that is large enough; the number of rooms where only the end is. */
  private gap(bytes: number): number {
    let end = FIRST
    for (let i = 0; i < this.rooms.length; i++) {
      const room = this.rooms[i]!
      if (room.at - end >= bytes) return i
      end = room.at + room.bytes
    }
    return this.rooms.length
  }

  private growTo(end: number): boolean {
    if (end <= this.size) return true
    try {
      this.memory.grow(Math.ceil((end - this.size) / PAGE))
      return true
    } catch {
      return false
    }
  }

  /** Throws out what was used longest ago and may go. @returns whether there was anything */
  private dropOldest(): boolean {
    const oldest = this.rooms.reduce<OwnRoom | undefined>((a, b) => (b.used < (a?.used ?? Infinity) ? b : a), undefined)
    if (!oldest) return false
    oldest.thrownOut = true
    this.kept -= oldest.bytes
    this.giveBack(oldest)
    return true
  }
}

/** That of this thread, made when first needed. */
let own: KernelMemory | undefined
export const kernelMemory = (): KernelMemory => (own ??= new KernelMemory())
