import { WASM_BASE64 } from './wasm-binary'

/** The kernels of wasm/kernels.ts; addresses are bytes in the instance's own memory. */
export interface WasmKernels {
  readonly memory: ArrayBuffer
  readonly project: (
    pairs: number,
    count: number,
    amounts: number,
    spectra: number,
    weights: number,
    out: number,
  ) => void
  readonly applyLut: (
    n: number,
    pixels: number,
    mix: number,
    table: number,
    firstBits: number,
    lastBits: number,
    scale: number,
    nodes: number,
    size: number,
  ) => void
}

let compiled: WebAssembly.Module | undefined

/** Bytes at the start of the memory that the module may use itself. */
export const RESERVED = 1024

/**
 * A fresh instance with `bytes` of memory behind {@link RESERVED}. Each LUT and each projector owns one, so that no
 * memory has to be shared out or given back: it goes when its owner goes.
 */
export function wasmKernels(bytes: number): WasmKernels {
  compiled ??= new WebAssembly.Module(Uint8Array.from(atob(WASM_BASE64), (c) => c.charCodeAt(0)))
  const memory = new WebAssembly.Memory({ initial: Math.ceil((RESERVED + bytes) / 65536) })
  const { exports } = new WebAssembly.Instance(compiled, { env: { memory } })
  return { ...(exports as unknown as WasmKernels), memory: memory.buffer }
}
