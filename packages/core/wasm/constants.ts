// Constants that loops over pixels use are read from memory before the loop: written out where they are used, each use
// would be put together from two 64-bit halves, which costs more than the arithmetic around it.

const FLOATS = memory.data<f32>(
  [
    0, 1, 8388608, 1.0 / 131072, 1e-20, LUMA_RED, LUMA_GREEN, LUMA_BLUE, 0.03, 0.03 / 6, 0.03 / 120,
    255, 65535,
  ],
  16,
)
const BITS = memory.data<i32>([0x7fffff, 0x1ffff, <i32>0xff000000], 16)

export namespace K {
  // @ts-ignore: decorator
  @inline
  export function zero(): v128 {
    return v128.load32_splat(FLOATS, 0)
  }
  // @ts-ignore: decorator
  @inline
  export function one(): v128 {
    return v128.load32_splat(FLOATS, 4)
  }
  /** 2^23: adding it to a whole float leaves the whole number in the low 23 bits. */
  // @ts-ignore: decorator
  @inline
  export function whole(): v128 {
    return v128.load32_splat(FLOATS, 8)
  }
  /** One bit below those that number the nodes of a table over octaves. */
  // @ts-ignore: decorator
  @inline
  export function fraction(): v128 {
    return v128.load32_splat(FLOATS, 12)
  }
  // @ts-ignore: decorator
  @inline
  export function smallest(): v128 {
    return v128.load32_splat(FLOATS, 16)
  }
  /** Luminance of linear BT.709, see colour/spaces.ts. */
  // @ts-ignore: decorator
  @inline
  export function lumaR(): v128 {
    return v128.load32_splat(FLOATS, 20)
  }
  // @ts-ignore: decorator
  @inline
  export function lumaG(): v128 {
    return v128.load32_splat(FLOATS, 24)
  }
  // @ts-ignore: decorator
  @inline
  export function lumaB(): v128 {
    return v128.load32_splat(FLOATS, 28)
  }
  /** Factors of w, w³ and w⁵, see stages/held.ts. */
  // @ts-ignore: decorator
  @inline
  export function held1(): v128 {
    return v128.load32_splat(FLOATS, 32)
  }
  // @ts-ignore: decorator
  @inline
  export function held3(): v128 {
    return v128.load32_splat(FLOATS, 36)
  }
  // @ts-ignore: decorator
  @inline
  export function held5(): v128 {
    return v128.load32_splat(FLOATS, 40)
  }
  // @ts-ignore: decorator
  @inline
  export function bytes(): v128 {
    return v128.load32_splat(FLOATS, 44)
  }
  // @ts-ignore: decorator
  @inline
  export function words(): v128 {
    return v128.load32_splat(FLOATS, 48)
  }
  /** The low 23 bits, and the low 17. */
  // @ts-ignore: decorator
  @inline
  export function low23(): v128 {
    return v128.load32_splat(BITS, 0)
  }
  // @ts-ignore: decorator
  @inline
  export function low17(): v128 {
    return v128.load32_splat(BITS, 4)
  }
  // @ts-ignore: decorator
  @inline
  export function opaque(): v128 {
    return v128.load32_splat(BITS, 8)
  }
}
