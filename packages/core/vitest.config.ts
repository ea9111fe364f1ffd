import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    // No measure of speed: a machine may be five times slower than another.
    testTimeout: 300_000,
    maxWorkers: 2,
    // All is pure functions but for the kernels' memory, which is shared in the application as well: loading core once for
    // all files of a worker takes a third of the time away.
    isolate: false,
  },
})
