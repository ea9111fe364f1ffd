import { kernelMemory, type KernelMemory, type Room } from './memory'

/** Floats behind the last one of a picture or plane, so that kernels may work on four pixels at a time. */
const PADDING = 16

/** A picture in the kernels' memory: interleaved RGBA float32. */
export interface Picture {
  /** Address of the first pixel. */
  readonly at: number
  /** Number of pixels. */
  readonly n: number
  /** The pixels, to be looked at at once: where the memory is not shared, growing moves it. */
  readonly pixels: Float32Array
}

/** One number a pixel in the kernels' memory. */
export interface Values {
  readonly at: number
  readonly n: number
  readonly values: Float32Array
}

/** Pictures and planes under names, reused from frame to frame; what they hold is left from last time. */
export class Pictures {
  private readonly rooms = new Map<string | number, { readonly room: Room; readonly floats: number }>()

  constructor(private readonly memory: KernelMemory = kernelMemory()) {}

  take(name: string | number, n: number): Picture {
    const { memory } = this
    const at = this.room(name, 4 * n)
    return {
      at,
      n,
      get pixels() {
        return memory.floats(at, 4 * n)
      },
    }
  }

  takePlane(name: string | number, n: number): Values {
    const { memory } = this
    const at = this.room(name, n)
    return {
      at,
      n,
      get values() {
        return memory.floats(at, n)
      },
    }
  }

  /** A picture with the pixels of an array. */
  copy(name: string | number, pixels: Float32Array): Picture {
    const picture = this.take(name, pixels.length / 4)
    picture.pixels.set(pixels)
    return picture
  }

  /** Gives one back; what was handed out under the name must not be used any more. */
  giveBack(name: string | number): void {
    const known = this.rooms.get(name)
    if (known) this.memory.giveBack(known.room)
    this.rooms.delete(name)
  }

  /** Gives everything back. */
  release(): void {
    for (const name of [...this.rooms.keys()]) this.giveBack(name)
  }

  /** A room of the wished length; one of another length is given back first, so that nothing lies about unused. */
  private room(name: string | number, floats: number): number {
    const known = this.rooms.get(name)
    if (known?.floats === floats) return known.room.at
    this.giveBack(name)
    const room = this.memory.pin(4 * (floats + PADDING))
    this.rooms.set(name, { room, floats })
    return room.at
  }
}
