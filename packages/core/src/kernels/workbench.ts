/** Working pictures, interleaved RGBA float32, reused from frame to frame. */
export class Workbench {
  private readonly buffers = new Map<string, Float32Array>()

  /** A picture of n pixels under a name; its contents are left from last time. */
  take(name: string, n: number): Float32Array {
    return this.room(name, 4 * n)
  }

  /** One number a pixel, likewise. */
  takePlane(name: string, n: number): Float32Array {
    return this.room(name, n)
  }

  /** Whether a picture lies in one of the buffers. */
  holds(picture: Float32Array): boolean {
    return [...this.buffers.values()].some((b) => b.buffer === picture.buffer)
  }

  private room(name: string, length: number): Float32Array {
    const known = this.buffers.get(name)
    if (known && known.length >= length) return known.length === length ? known : known.subarray(0, length)
    const fresh = new Float32Array(length)
    this.buffers.set(name, fresh)
    return fresh
  }
}
