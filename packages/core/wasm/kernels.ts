// AssemblyScript, 128-bit SIMD. Compiled into src/kernels/wasm-binary.ts by scripts/build-kernels.mjs.
// The host owns the memory and passes byte addresses; nothing is allocated here.

export { project } from './project'
export { applyLut, missingNodes } from './lut'
export { blurRow, mixRows, shrinkRow, stretchRow, sumRows } from './blur'
export { fieldRow } from './field'
export { emit8, ingest16 } from './ends'
