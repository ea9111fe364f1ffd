import { WASM_BASE64 } from './wasm-binary'

type LutArguments = [
  fours: number,
  pixels: number,
  mix: number,
  table: number,
  firstBits: number,
  lastBits: number,
  scale: number,
  nodes: number,
  size: number,
]

/** The kernels of wasm/kernels.ts; addresses are bytes in the memory that they were made with. */
export interface WasmKernels {
  readonly project: (
    fours: number,
    count: number,
    amounts: number,
    spectra: number,
    weights: number,
    out: number,
  ) => void
  readonly applyLut: (...where: LutArguments) => number
  readonly missingNodes: (...where: [...LutArguments, list: number]) => number
  readonly emit8: (pixels: number, out: number, fours: number, noise: number) => void
  readonly ingest16: (codes: number, pixels: number, n: number, table: number, mix: number) => void
  readonly fieldRow: (pixels: number, n: number, grid: number, columns: number, step: number) => void
  readonly blurRow: (src: number, dst: number, fours: number, weights: number, reach: number) => void
  readonly sumRows: (rows: number, dst: number, fours: number, weights: number, reach: number) => void
  readonly shrinkRow: (src: number, dst: number, n: number, factor: number, share: number) => void
  readonly mixRows: (a: number, b: number, dst: number, n: number, share: number) => void
  readonly stretchRow: (src: number, dst: number, n: number, factor: number, mask: number) => void
}

let compiled: WebAssembly.Module | undefined

/** Bytes at the start of the memory that the module may use itself. */
export const RESERVED = 1024

/** The kernels, working in a memory. See {@link KernelMemory} for the one that a thread has. */
export function instantiate(memory: WebAssembly.Memory): WasmKernels {
  compiled ??= new WebAssembly.Module(Uint8Array.from(atob(WASM_BASE64), (c) => c.charCodeAt(0)))
  return new WebAssembly.Instance(compiled, { env: { memory } }).exports as unknown as WasmKernels
}
