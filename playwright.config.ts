import { defineConfig, type LaunchOptions } from '@playwright/test'
// @ts-expect-error a plain script without types
import { CHROMIUM } from './scripts/lib/chromium.mjs'

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  // Tests work on copies of the demo production, so that files may run beside each other.
  globalSetup: './e2e/demo-untouched.ts',
  workers: 2,
  // How long a thing takes says nothing here: a machine may be five times slower than another, and is told by the bench.
  timeout: 600_000,
  expect: { timeout: 90_000 },
  outputDir: '.fogbath-test/playwright',
  reporter: [['line'], ['json', { outputFile: '.fogbath-test/e2e.json' }]],
  use: {
    baseURL: process.env['FOGBATH_URL'] ?? 'http://127.0.0.1:4680',
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM as LaunchOptions,
    acceptDownloads: true,
    // What cannot be clicked is told like what is not seen, instead of standing still until the test's own end.
    actionTimeout: 90_000,
    // A click that meets a menu while it still grows can go down on one entry and up on the next, and choose nothing.
    contextOptions: { reducedMotion: 'reduce' },
  },
})
