import { defineConfig } from 'vitest/config'

export default defineConfig({
  test: {
    include: ['test/**/*.test.ts'],
    globalSetup: ['test/global-setup.ts'],
    testTimeout: 120_000,
    hookTimeout: 120_000,
    // Each rig has a database and a folder of its own.
    maxWorkers: 2,
    // Loading the server takes as long as many a file of tests; it is loaded once a worker.
    isolate: false,
  },
})
