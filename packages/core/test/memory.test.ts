import { describe, expect, it, vi } from 'vitest'
import {
  DISPLAY,
  KernelMemory,
  SCENE,
  Workbench,
  applyLut3d,
  bt709ToLab,
  compileLine,
  kernelMemory,
  makeLut,
  readLut3d,
  runPlan,
} from '../src'
import { blurRecords } from '../src/kernels/blur'
import { shipped } from './helpers'

const MB = 1e6

/** Something that remembers what was written to it and how often it was laid out. */
function keeper(memory: KernelMemory, bytes: number, value: number) {
  let laid = 0
  const place = memory.keptPlace(bytes, ({ at, memory: all }) => {
    laid++
    new Uint8Array(all, at, bytes).fill(value)
  })
  const intact = (): boolean => {
    const { at, memory: all } = place()
    return Buffer.from(all, at, bytes).equals(Buffer.alloc(bytes, value))
  }
  return { intact, laid: () => laid }
}

describe('memory of the kernels', () => {
  it('keeps what fits, throws out what was used longest ago, and lays it out again', () => {
    const memory = new KernelMemory(4 * MB)
    const [a, b, c] = [1, 2, 3].map((v) => keeper(memory, 1.5 * MB, v)) as ReturnType<typeof keeper>[]
    expect([a, b, a, c].map((k) => k!.intact())).toEqual([true, true, true, true])
    // b had to go for c: a was used after it.
    expect([a, b, c].map((k) => k!.laid())).toEqual([1, 1, 1])
    expect(a!.intact() && c!.intact()).toBe(true)
    expect([a, c].map((k) => k!.laid())).toEqual([1, 1])
    expect(b!.intact()).toBe(true)
    expect(b!.laid()).toBe(2)
  })

  it('never grows beyond its budget, whatever comes and goes', () => {
    const memory = new KernelMemory(8 * MB)
    const sizes = [0.2, 1.9, 0.7, 3.1, 0.05, 2.3]
    for (let i = 0; i < 300; i++) {
      const bytes = Math.round(sizes[i % sizes.length]! * MB)
      expect(keeper(memory, bytes, i & 255).intact()).toBe(true)
    }
    expect(memory.size).toBeLessThan(8.2 * MB)
  })

  it('does not move or overwrite borrowed room, even when that takes more than the budget', () => {
    const memory = new KernelMemory(2 * MB)
    memory.borrow(1.8 * MB, ({ at, memory: all }) => {
      new Uint8Array(all, at, 1.8 * MB).fill(7)
      expect(keeper(memory, 1.5 * MB, 9).intact()).toBe(true)
      const grown = memory.fixedPlace().memory
      expect(new Uint8Array(grown, at, 1.8 * MB).every((v) => v === 7)).toBe(true)
    })
    memory.borrow(1.8 * MB, () => undefined)
    expect(memory.size).toBeLessThan(3.6 * MB)
  })

  it('gives borrowed room back when the work fails', () => {
    const memory = new KernelMemory(2 * MB)
    for (let i = 0; i < 20; i++)
      expect(() =>
        memory.borrow(1.5 * MB, () => {
          throw new Error('no')
        }),
      ).toThrow('no')
    expect(memory.size).toBeLessThan(2.2 * MB)
  })
})

describe('LUTs in the memory', () => {
  const colours = Float32Array.from({ length: 4 * 64 }, (_, i) => ((i * 37) % 101) / 100)
  const run = (lut: ReturnType<typeof makeLut>): Float32Array => {
    const out = new Float32Array(colours.length)
    applyLut3d(lut, colours, out, 64)
    return out
  }

  it('give the same picture after they were thrown out for others', () => {
    const first = makeLut((r, g, b, out) => out.set([r * r, g * g, b * b]), DISPLAY, 33)
    const before = run(first)
    // 129 nodes a side take 34 MB: thirty of them are twice the budget.
    for (let i = 0; i < 30; i++) {
      const other = makeLut((r, g, b, out) => out.set([r / (i + 2), g, b]), SCENE, 129)
      expect(run(other).every(Number.isFinite)).toBe(true)
    }
    expect(run(first)).toEqual(before)
    expect(readLut3d(first, [0.5, 0.25, 0.125])[0]).toBeCloseTo(0.25, 6)
    expect(kernelMemory().size).toBeLessThan(600 * MB)
  })

  it('stay right when a blur grows the memory between two uses', () => {
    const lut = makeLut((r, g, b, out) => out.set(bt709ToLab([r, g, b])), DISPLAY, 17)
    const before = run(lut)
    blurRecords([3, 3, 3], new Float32Array(4 * 7000 * 8), 7000, 8)
    expect(run(lut)).toEqual(before)
  })

  it('a slider dragged over 300 steps asks for no memory of its own', () => {
    const picture = new Float32Array(4 * 400).fill(0.2)
    const bench = new Workbench()
    const asked = vi.spyOn(WebAssembly, 'Memory')
    try {
      for (let i = 0; i < 300; i++) {
        const [bath] = shipped('bleach-bypass').baths
        const dragged = { ...bath!, settings: { ...bath!.settings, bleachPrint: i / 10 } }
        runPlan(compileLine({ ...shipped('plain'), baths: [dragged] }, { size: 17 }), picture, 400, 1, bench)
        blurRecords([2, 9, 0], picture, 20, 20)
      }
      expect(asked).not.toHaveBeenCalled()
    } finally {
      asked.mockRestore()
    }
  })
})
