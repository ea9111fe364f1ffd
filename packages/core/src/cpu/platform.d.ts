/** The few things of the platform that the fast kernels need; pages, workers and Node all have them. */
declare function atob(text: string): string
declare function btoa(bytes: string): string
declare namespace WebAssembly {
  class Module {
    constructor(bytes: Uint8Array<ArrayBuffer>)
  }
  class Memory {
    constructor(options: { initial: number; maximum: number; shared: boolean })
    readonly buffer: ArrayBufferLike
    grow(pages: number): number
  }
  class Instance {
    constructor(module: Module, imports: Record<string, Record<string, unknown>>)
    readonly exports: Record<string, unknown>
  }
}
