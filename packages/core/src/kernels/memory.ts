import { instantiate, RESERVED, type WasmKernels } from './wasm'

/**
 * The one WebAssembly memory of a thread. A page is given only some hundred memories, and each takes gigabytes of
 * addresses, so everything that kernels work on shares this one: tables and LUTs stay in it until their room is needed
 * for others, working rows are borrowed for the length of a call.
 */

/** A stretch of the memory. `memory` is only good until the next place is asked for: growing makes a new one. */
export interface Place {
  /** Address of the first byte; a multiple of 64. */
  readonly at: number
  readonly memory: ArrayBuffer
}

interface Room {
  readonly at: number
  readonly bytes: number
  /** When it was last used; borrowed rooms are never thrown out. */
  used: number
  thrownOut: boolean
}

/** Bytes that tables and LUTs may hold at most before the ones used longest ago make room: some 14 LUTs of 129 nodes. */
const BUDGET = 512e6
const PAGE = 65536
const ALIGN = 64
/** Bytes behind the module's own that {@link fixedPlace} gives out; never moved. */
const FIXED = 16384
const FIRST = RESERVED + FIXED

export class KernelMemory {
  private readonly memory = new WebAssembly.Memory({ initial: Math.ceil(FIRST / PAGE) })
  readonly kernels: WasmKernels = instantiate(this.memory)
  /** In the order of their addresses. */
  private readonly rooms: Room[] = []
  /** Everything from here on is still zero. */
  private untouched = FIRST
  private clock = 0

  /** @param budget bytes, see {@link BUDGET}; one thing that is larger than it still fits when it is alone */
  constructor(private readonly budget = BUDGET) {}

  /** Bytes of the memory as it is now; it never shrinks. */
  get size(): number {
    return this.memory.buffer.byteLength
  }

  /** The stretch at the start that is always there, {@link FIXED} bytes long; shared by those who use it in turn. */
  fixedPlace(): Place {
    return { at: RESERVED, memory: this.memory.buffer }
  }

  /**
   * A place for something that can be laid out again. It keeps its contents from use to use, unless it was thrown out
   * meanwhile; then `lay` is called once more.
   * @param lay fills the place; `clean` says that it is all zero
   * @returns what gives the place, to be called anew for every use
   */
  keptPlace(bytes: number, lay: (place: Place, clean: boolean) => void): () => Place {
    let room: Room | undefined
    return () => {
      if (!room || room.thrownOut) {
        const clean = this.untouched
        room = this.take(bytes)
        const place = { at: room.at, memory: this.memory.buffer }
        lay(place, room.at >= clean)
      }
      room.used = ++this.clock
      return { at: room.at, memory: this.memory.buffer }
    }
  }

  /** Working room for the length of a call; its contents are left over from others. */
  borrow<T>(bytes: number, work: (place: Place) => T): T {
    const room = this.take(bytes)
    room.used = Infinity
    try {
      return work({ at: room.at, memory: this.memory.buffer })
    } finally {
      this.drop(room)
    }
  }

  private take(wanted: number): Room {
    const bytes = Math.ceil(wanted / ALIGN) * ALIGN
    for (;;) {
      const index = this.gap(bytes)
      const before = this.rooms[index - 1]
      const at = before ? before.at + before.bytes : FIRST
      const within = index < this.rooms.length || at + bytes <= FIRST + this.budget || !this.oldest()
      if (within && this.growTo(at + bytes)) {
        const room = { at, bytes, used: ++this.clock, thrownOut: false }
        this.rooms.splice(index, 0, room)
        this.untouched = Math.max(this.untouched, at + bytes)
        return room
      }
      const oldest = this.oldest()
      if (!oldest) throw new Error(`The memory for pictures is full: ${(bytes / 1e6).toFixed(1)} MB more do not fit.`)
      this.drop(oldest)
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

  /** What was used longest ago and is not borrowed. */
  private oldest(): Room | undefined {
    return this.rooms.reduce<Room | undefined>((a, b) => (b.used < (a?.used ?? Infinity) ? b : a), undefined)
  }

  private drop(room: Room): void {
    room.thrownOut = true
    this.rooms.splice(this.rooms.indexOf(room), 1)
  }
}

/** That of this thread, made when first needed. */
let own: KernelMemory | undefined
export const kernelMemory = (): KernelMemory => (own ??= new KernelMemory())
