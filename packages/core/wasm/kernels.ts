// AssemblyScript, 128-bit SIMD. Compiled into src/cpu/wasm-binary.ts by scripts/build-kernels.mjs.
// The host owns the memory and passes byte addresses; nothing is allocated here.

export { tile } from './tile'
