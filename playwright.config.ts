import { defineConfig } from '@playwright/test'
import { CHROMIUM } from './e2e/browser'

export default defineConfig({
  testDir: 'e2e',
  testMatch: '*.spec.ts',
  // Tests work on copies of the demo production, so that files may run beside each other.
  globalSetup: './e2e/demo-untouched.ts',
  workers: 2,
  timeout: 120_000,
  expect: { timeout: 20_000 },
  outputDir: '.fogbath-test/playwright',
  reporter: [['line'], ['json', { outputFile: '.fogbath-test/e2e.json' }]],
  use: {
    baseURL: process.env['FOGBATH_URL'] ?? 'http://127.0.0.1:4680',
    viewport: { width: 1280, height: 800 },
    launchOptions: CHROMIUM,
    acceptDownloads: true,
  },
})
