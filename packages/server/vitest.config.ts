import { defineConfig } from 'vitest/config'
// @ts-expect-error a plain script without types
import { DEFINED } from '../../scripts/lib/edition.mjs'

export default defineConfig({
  define: DEFINED as Record<string, string>,
  test: {
    include: ['test/**/*.test.ts'],
    globalSetup: ['test/global-setup.ts'],
    // No measure of speed: a machine that is busy with other things may take three times as long.
    testTimeout: 300_000,
    hookTimeout: 300_000,
    // Each rig has a database and a folder of its own.
    maxWorkers: 2,
    // Loading the server takes as long as many a file of tests; it is loaded once a worker.
    isolate: false,
  },
})
