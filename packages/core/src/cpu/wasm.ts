import { WASM_BASE64 } from './wasm-binary'

/** The kernels of wasm/kernels.ts; addresses are bytes in the memory that they were made with. */
export interface WasmKernels {
  /** Works on one tile of a job; see cpu/jobs.ts. */
  readonly tile: (job: number, index: number, scratch: number) => void
}

/** Bytes at the start of the memory that the module may use itself. */
export const RESERVED = 4096

/** Pages of 64 KB that the memory may grow to: all that 32 bits can address. */
const MOST_PAGES = 65536

/** Whether threads can share a memory here: in a page only where it is isolated from other origins. */
export const canShare = (): boolean =>
  typeof SharedArrayBuffer !== 'undefined' &&
  (globalThis as { crossOriginIsolated?: boolean }).crossOriginIsolated !== false

export const makeMemory = (pages: number): WebAssembly.Memory =>
  new WebAssembly.Memory({ initial: pages, maximum: MOST_PAGES, shared: canShare() })

const compiled = new Map<boolean, WebAssembly.Module>()

/** The kernels, working in a memory. See {@link KernelMemory} for the one that a thread has. */
export function instantiate(memory: WebAssembly.Memory): WasmKernels {
  const shared = !(memory.buffer instanceof ArrayBuffer)
  let module = compiled.get(shared)
  if (!module) compiled.set(shared, (module = new WebAssembly.Module(binary(shared))))
  return new WebAssembly.Instance(module, { env: { memory } }).exports as unknown as WasmKernels
}

/** What stands in the module before the flags of the memory that it imports: its names and that it is one. */
const IMPORT = [3, ...bytesOf('env'), 6, ...bytesOf('memory'), 2]
const [WITH_LIMIT, SHARED] = [1, 2]

/** The module says whether its memory is shared; but for that the kernels are the same. */
function binary(shared: boolean): Uint8Array<ArrayBuffer> {
  const bytes = Uint8Array.from(atob(WASM_BASE64), (c) => c.charCodeAt(0))
  const at = bytes.findIndex((_, i) => IMPORT.every((b, k) => bytes[i + k] === b)) + IMPORT.length
  bytes[at] = shared ? WITH_LIMIT | SHARED : WITH_LIMIT
  return bytes
}

function bytesOf(text: string): number[] {
  return [...text].map((c) => c.charCodeAt(0))
}
