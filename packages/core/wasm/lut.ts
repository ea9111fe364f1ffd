// @ts-ignore: decorator
@inline
function entry(table: usize, node: i32): v128 {
  return v128.load64_zero(table + (<usize>node << 2))
}

/** Places of four values on the grid: by a table over the bits of the float, or value · scale where there is none. */
// @ts-ignore: decorator
@inline
function placeOf(v: v128, table: usize, firstBits: i32, lastBits: i32, scale: f32, top: f32): v128 {
  // pmax and pmin keep the bound where the value is not a number.
  if (!table) return f32x4.pmin(f32x4.splat(top), f32x4.pmax(f32x4.splat(0), f32x4.mul(v, f32x4.splat(scale))))
  // Floats order like their bits, and negative floats have negative bits.
  const held = i32x4.max_s(v, i32x4.splat(firstBits))
  const bits = i32x4.min_s(i32x4.sub(held, i32x4.splat(firstBits)), i32x4.splat(lastBits))
  const node = i32x4.shr_s(bits, 16)
  const share = f32x4.mul(f32x4.convert_i32x4_s(v128.and(bits, i32x4.splat(0xffff))), f32x4.splat(1.0 / 65536))
  const e0 = entry(table, i32x4.extract_lane(node, 0))
  const e1 = entry(table, i32x4.extract_lane(node, 1))
  const e2 = entry(table, i32x4.extract_lane(node, 2))
  const e3 = entry(table, i32x4.extract_lane(node, 3))
  const left = v128.shuffle<f32>(e0, e1, 0, 4, 1, 5)
  const right = v128.shuffle<f32>(e2, e3, 0, 4, 1, 5)
  const low = v128.shuffle<f32>(left, right, 0, 1, 4, 5)
  const high = v128.shuffle<f32>(left, right, 2, 3, 6, 7)
  return f32x4.add(low, f32x4.mul(f32x4.sub(high, low), share))
}

// @ts-ignore: decorator
@inline
function mixed(mix: usize, r: v128, g: v128, b: v128): v128 {
  return f32x4.add(
    f32x4.mul(v128.load32_splat(mix), r),
    f32x4.add(f32x4.mul(v128.load32_splat(mix, 4), g), f32x4.mul(v128.load32_splat(mix, 8), b)),
  )
}

/** Notes a node that is not worked out yet, once. */
// @ts-ignore: decorator
@inline
function want(node: usize, list: usize): usize {
  if (load<f32>(node, 12) != 0) return list
  store<f32>(node, 1, 12)
  store<u32>(list, <u32>node)
  return list + 4
}

/**
 * Both kernels in one: `listing` is a constant where this is put in, so that each of them keeps only its own half.
 * A node's fourth number is 1 when the node is worked out and 0 when it is not yet, so that the bits that all of them
 * share tell whether all nodes of a colour were there.
 */
// @ts-ignore: decorator
@inline
function work(
  fours: i32,
  pixels: usize,
  mix: usize,
  table: usize,
  firstBits: i32,
  lastBits: i32,
  scale: f32,
  nodes: usize,
  size: i32,
  list: usize,
  listing: bool,
): usize {
  const stepG = size << 4
  const stepB = stepG * size
  const all: usize = <usize>(16 + stepG + stepB)
  const steps = i32x4.splat(16 + stepG + stepB)
  const alongR = i32x4.splat(16)
  const alongG = i32x4.splat(stepG)
  const alongB = i32x4.splat(stepB)
  const start = i32x4.splat(<i32>nodes)
  const top: f32 = <f32>(size - 1)
  const edge = f32x4.splat(<f32>(size - 2))
  const acrossG = f32x4.splat(<f32>size)
  const acrossB = f32x4.splat(<f32>(size * size))
  // Lane 3 keeps the bits of 1.0 as long as every node that was read is worked out, however little it counts.
  let there = i32x4.splat(-1)
  for (let i = 0; i < fours; i++, pixels += 64) {
    const a0 = v128.load(pixels)
    const a1 = v128.load(pixels, 16)
    const a2 = v128.load(pixels, 32)
    const a3 = v128.load(pixels, 48)
    const rg0 = v128.shuffle<f32>(a0, a1, 0, 4, 1, 5)
    const rg1 = v128.shuffle<f32>(a2, a3, 0, 4, 1, 5)
    let r = v128.shuffle<f32>(rg0, rg1, 0, 1, 4, 5)
    let g = v128.shuffle<f32>(rg0, rg1, 2, 3, 6, 7)
    let b = v128.shuffle<f32>(v128.shuffle<f32>(a0, a1, 2, 6, 2, 6), v128.shuffle<f32>(a2, a3, 2, 6, 2, 6), 0, 1, 4, 5)
    if (mix) {
      const x = mixed(mix, r, g, b)
      const y = mixed(mix + 12, r, g, b)
      b = mixed(mix + 24, r, g, b)
      r = x
      g = y
    }
    r = placeOf(r, table, firstBits, lastBits, scale, top)
    g = placeOf(g, table, firstBits, lastBits, scale, top)
    b = placeOf(b, table, firstBits, lastBits, scale, top)
    const cellR = f32x4.pmin(edge, f32x4.floor(r))
    const cellG = f32x4.pmin(edge, f32x4.floor(g))
    const cellB = f32x4.pmin(edge, f32x4.floor(b))
    const fr = f32x4.sub(r, cellR)
    const fg = f32x4.sub(g, cellG)
    const fb = f32x4.sub(b, cellB)
    // Numbers of nodes are whole floats below 2^23; adding 2^23 leaves them in the low bits.
    const node = f32x4.add(cellR, f32x4.add(f32x4.mul(cellG, acrossG), f32x4.mul(cellB, acrossB)))
    const number = v128.and(f32x4.add(node, f32x4.splat(8388608)), i32x4.splat(0x7fffff))
    const base = i32x4.add(start, i32x4.shl(number, 4))
    // From the low corner along the axis with the greatest fraction; to the high corner along the one with the least.
    const rg = f32x4.ge(fr, fg)
    const gb = f32x4.ge(fg, fb)
    const rb = f32x4.ge(fr, fb)
    const one = v128.bitselect(alongR, v128.bitselect(alongG, alongB, v128.andnot(gb, rg)), v128.and(rg, rb))
    const last = v128.bitselect(alongB, v128.bitselect(alongG, alongR, rg), v128.and(gb, rb))
    const two = i32x4.sub(steps, last)
    const greater = f32x4.pmax(fr, fg)
    const lesser = f32x4.pmin(fr, fg)
    const high = f32x4.pmax(greater, fb)
    const w3 = f32x4.pmin(lesser, fb)
    const middle = f32x4.pmax(lesser, f32x4.pmin(greater, fb))
    const w0 = f32x4.sub(f32x4.splat(1), high)
    const w1 = f32x4.sub(high, middle)
    const w2 = f32x4.sub(middle, w3)
    {
      const p0 = <usize>i32x4.extract_lane(base, 0)
      const p1 = p0 + <usize>i32x4.extract_lane(one, 0)
      const p2 = p0 + <usize>i32x4.extract_lane(two, 0)
      const p3 = p0 + all
      if (listing) list = want(p3, want(p2, want(p1, want(p0, list))))
      else {
        const n0 = v128.load(p0)
        const n1 = v128.load(p1)
        const n2 = v128.load(p2)
        const n3 = v128.load(p3)
        there = v128.and(there, v128.and(v128.and(n0, n1), v128.and(n2, n3)))
        const near = f32x4.add(
          f32x4.mul(n0, v128.shuffle<f32>(w0, w0, 0, 0, 0, 0)),
          f32x4.mul(n1, v128.shuffle<f32>(w1, w1, 0, 0, 0, 0)),
        )
        const far = f32x4.add(
          f32x4.mul(n2, v128.shuffle<f32>(w2, w2, 0, 0, 0, 0)),
          f32x4.mul(n3, v128.shuffle<f32>(w3, w3, 0, 0, 0, 0)),
        )
        const sum = f32x4.add(near, far)
        v128.store(pixels, v128.shuffle<f32>(sum, a0, 0, 1, 2, 7), 0)
      }
    }
    {
      const p0 = <usize>i32x4.extract_lane(base, 1)
      const p1 = p0 + <usize>i32x4.extract_lane(one, 1)
      const p2 = p0 + <usize>i32x4.extract_lane(two, 1)
      const p3 = p0 + all
      if (listing) list = want(p3, want(p2, want(p1, want(p0, list))))
      else {
        const n0 = v128.load(p0)
        const n1 = v128.load(p1)
        const n2 = v128.load(p2)
        const n3 = v128.load(p3)
        there = v128.and(there, v128.and(v128.and(n0, n1), v128.and(n2, n3)))
        const near = f32x4.add(
          f32x4.mul(n0, v128.shuffle<f32>(w0, w0, 1, 1, 1, 1)),
          f32x4.mul(n1, v128.shuffle<f32>(w1, w1, 1, 1, 1, 1)),
        )
        const far = f32x4.add(
          f32x4.mul(n2, v128.shuffle<f32>(w2, w2, 1, 1, 1, 1)),
          f32x4.mul(n3, v128.shuffle<f32>(w3, w3, 1, 1, 1, 1)),
        )
        const sum = f32x4.add(near, far)
        v128.store(pixels, v128.shuffle<f32>(sum, a1, 0, 1, 2, 7), 16)
      }
    }
    {
      const p0 = <usize>i32x4.extract_lane(base, 2)
      const p1 = p0 + <usize>i32x4.extract_lane(one, 2)
      const p2 = p0 + <usize>i32x4.extract_lane(two, 2)
      const p3 = p0 + all
      if (listing) list = want(p3, want(p2, want(p1, want(p0, list))))
      else {
        const n0 = v128.load(p0)
        const n1 = v128.load(p1)
        const n2 = v128.load(p2)
        const n3 = v128.load(p3)
        there = v128.and(there, v128.and(v128.and(n0, n1), v128.and(n2, n3)))
        const near = f32x4.add(
          f32x4.mul(n0, v128.shuffle<f32>(w0, w0, 2, 2, 2, 2)),
          f32x4.mul(n1, v128.shuffle<f32>(w1, w1, 2, 2, 2, 2)),
        )
        const far = f32x4.add(
          f32x4.mul(n2, v128.shuffle<f32>(w2, w2, 2, 2, 2, 2)),
          f32x4.mul(n3, v128.shuffle<f32>(w3, w3, 2, 2, 2, 2)),
        )
        const sum = f32x4.add(near, far)
        v128.store(pixels, v128.shuffle<f32>(sum, a2, 0, 1, 2, 7), 32)
      }
    }
    {
      const p0 = <usize>i32x4.extract_lane(base, 3)
      const p1 = p0 + <usize>i32x4.extract_lane(one, 3)
      const p2 = p0 + <usize>i32x4.extract_lane(two, 3)
      const p3 = p0 + all
      if (listing) list = want(p3, want(p2, want(p1, want(p0, list))))
      else {
        const n0 = v128.load(p0)
        const n1 = v128.load(p1)
        const n2 = v128.load(p2)
        const n3 = v128.load(p3)
        there = v128.and(there, v128.and(v128.and(n0, n1), v128.and(n2, n3)))
        const near = f32x4.add(
          f32x4.mul(n0, v128.shuffle<f32>(w0, w0, 3, 3, 3, 3)),
          f32x4.mul(n1, v128.shuffle<f32>(w1, w1, 3, 3, 3, 3)),
        )
        const far = f32x4.add(
          f32x4.mul(n2, v128.shuffle<f32>(w2, w2, 3, 3, 3, 3)),
          f32x4.mul(n3, v128.shuffle<f32>(w3, w3, 3, 3, 3, 3)),
        )
        const sum = f32x4.add(near, far)
        v128.store(pixels, v128.shuffle<f32>(sum, a3, 0, 1, 2, 7), 48)
      }
    }
  }
  if (listing) return list
  return i32x4.extract_lane(there, 3) === 0 ? 1 : 0
}

/**
 * Looks colours up in a 3D LUT with tetrahedral interpolation, four at a time, in place. Alpha is kept.
 * @param fours groups of four pixels @param mix nine f32: the premix matrix by rows, or 0
 * @param table shaper table over float bits to places on the grid, or 0: then the place is value · scale
 * @returns 1 when a node was missing, else 0
 */
export function applyLut(
  fours: i32,
  pixels: usize,
  mix: usize,
  table: usize,
  firstBits: i32,
  lastBits: i32,
  scale: f32,
  nodes: usize,
  size: i32,
): usize {
  return work(fours, pixels, mix, table, firstBits, lastBits, scale, nodes, size, 0, false)
}

/**
 * Lists the missing nodes of the same colours, each once; the pixels stay.
 * @param list where the nodes' addresses are written, room for 16 a group @returns the end of the list
 */
export function missingNodes(
  fours: i32,
  pixels: usize,
  mix: usize,
  table: usize,
  firstBits: i32,
  lastBits: i32,
  scale: f32,
  nodes: usize,
  size: i32,
  list: usize,
): usize {
  return work(fours, pixels, mix, table, firstBits, lastBits, scale, nodes, size, list, true)
}
