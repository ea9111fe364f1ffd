/** The two things of the platform that the fast kernels need; pages, workers and Node all have them. */
declare function atob(text: string): string
declare namespace WebAssembly {
  class Module {
    constructor(bytes: Uint8Array)
  }
  class Memory {
    constructor(options: { initial: number })
    readonly buffer: ArrayBuffer
    grow(pages: number): number
  }
  class Instance {
    constructor(module: Module, imports: Record<string, Record<string, unknown>>)
    readonly exports: Record<string, unknown>
  }
}
