import { describe, expect, it, vi } from 'vitest'
import { KernelMemory, kernelMemory } from '../src/cpu'
import { changeSettings } from '../src/line'
import { PlanRunner } from '../src/plan'
import { blurRecords } from '../src/cpu/blur'
import { inMemory, shipped, treated } from './helpers'

const MB = 1e6

const bytesOf = (memory: KernelMemory, at: number, bytes: number) => new Uint8Array(memory.memory.buffer, at, bytes)

/** Something that remembers what was written to it and how often it was laid out. */
function keeper(memory: KernelMemory, bytes: number, value: number) {
  let laid = 0
  const place = memory.keptPlace(bytes, (at) => {
    laid++
    bytesOf(memory, at, bytes).fill(value)
  })
  const intact = (): boolean => Buffer.from(bytesOf(memory, place(), bytes)).equals(Buffer.alloc(bytes, value))
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

  it('stays near its budget, whatever comes and goes, and grows no more', () => {
    const memory = new KernelMemory(8 * MB)
    const sizes = [0.2, 1.9, 0.7, 3.1, 0.05, 2.3]
    const round = (): void => {
      for (let i = 0; i < 150; i++) {
        const bytes = Math.round(sizes[i % sizes.length]! * MB)
        expect(keeper(memory, bytes, i & 255).intact()).toBe(true)
      }
    }
    round()
    const size = memory.size
    // Gaps between rooms of unlike size come on top of the budget.
    expect(size).toBeLessThan(10 * MB)
    round()
    expect(memory.size).toBe(size)
  })

  it('does not move or overwrite borrowed room, however much else is laid out', () => {
    const memory = new KernelMemory(2 * MB)
    memory.borrow(1.8 * MB, (at) => {
      bytesOf(memory, at, 1.8 * MB).fill(7)
      for (let i = 0; i < 5; i++) expect(keeper(memory, 1.5 * MB, 9).intact()).toBe(true)
      expect(bytesOf(memory, at, 1.8 * MB).every((v) => v === 7)).toBe(true)
    })
    memory.borrow(1.8 * MB, () => undefined)
    expect(memory.size).toBeLessThan(3.8 * MB)
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

describe('what lies in the memory', () => {
  const light = Float32Array.from({ length: 4 * 400 }, (_, i) => ((i * 37) % 101) / 100)
  const dragged = (bleachPrint: number) => changeSettings(shipped('bleach-bypass'), 'bath-1', { bleachPrint })

  it('does not grow however many settings are tried, and gives the same picture when they come back', () => {
    const runner = new PlanRunner()
    const show = (bleach: number) => treated(dragged(bleach), light, 20, 20, { runner })
    const before = show(17)
    for (let i = 0; i < 100; i++) show(i / 2)
    const full = kernelMemory().size
    for (let i = 0; i < 100; i++) show(50 + i / 2)
    expect(kernelMemory().size).toBe(full)
    expect(show(17)).toEqual(before)
  })

  it('stays right when a blur grows the memory between two uses', () => {
    const before = treated(dragged(30), light, 20, 20)
    inMemory(new Float32Array(4 * 7000 * 400), (at) => blurRecords([3, 3, 3], at, 7000, 400))
    expect(treated(dragged(30), light, 20, 20)).toEqual(before)
  })

  it('asks for no memory of its own, whatever is dragged', () => {
    treated(dragged(1), light, 20, 20)
    const asked = vi.spyOn(WebAssembly, 'Memory')
    try {
      for (let i = 0; i < 50; i++) treated(dragged(i / 10), light, 20, 20)
      expect(asked).not.toHaveBeenCalled()
    } finally {
      asked.mockRestore()
    }
  })
})
