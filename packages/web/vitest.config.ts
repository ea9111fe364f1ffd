import vue from '@vitejs/plugin-vue'
import { defineConfig } from 'vitest/config'

export default defineConfig({
  plugins: [vue()],
  test: {
    include: ['test/**/*.test.ts'],
    environment: 'happy-dom',
    maxWorkers: 2,
    // No measure of speed: a machine may be five times slower than another.
    testTimeout: 300_000,
    // Loading the page's modules takes longer than its tests; they are loaded once a worker.
    isolate: false,
  },
})
