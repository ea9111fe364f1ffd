import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { pictureReady } from './helpers'

test('a clip of one’s own is taken in, broken files are refused by name', async ({ page }) => {
  const folder = mkdtempSync(join(tmpdir(), 'fogbath-e2e-'))
  const at = (name: string): string => join(folder, name)
  execFileSync('ffmpeg', [
    '-v',
    'error',
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=320x180:r=24:d=1',
    '-pix_fmt',
    'yuv420p',
    '-c:v',
    'libx264',
    at('own.mp4'),
  ])
  writeFileSync(at('empty.png'), '')
  writeFileSync(at('text.mp4'), 'no clip')
  writeFileSync(at('cut.mp4'), readFileSync(at('own.mp4')).subarray(0, 4000))

  await page.goto('/')
  await page.getByLabel('Name of a new production').fill('Own footage')
  await page.getByRole('button', { name: 'Make' }).click()
  await expect(page.getByText('No footage yet.')).toBeVisible()
  await page.locator('[data-test=files]').setInputFiles(['own.mp4', 'empty.png', 'text.mp4', 'cut.mp4'].map(at))
  await expect(page.getByText('empty.png is empty (0 bytes).')).toBeVisible()
  await expect(page.getByText(/text.mp4 is not a picture or clip/)).toBeVisible()
  await expect(page.getByText(/cut.mp4 (is not a picture|is cut short|cannot be decoded)/)).toBeVisible()
  await expect(page.locator('article.shot')).toHaveCount(1)
  await expect(page.getByText(/Only 8 bits deep/)).toBeVisible()
  await page.getByLabel('Encoding', { exact: true }).first().click()
  await page.getByText('sRGB', { exact: true }).click()
  await expect(page.getByText(/chosen by you/)).toBeVisible()
  await page.getByRole('link', { name: 'bench', exact: true }).click()
  await pictureReady(page)
})

test('productions are copied and deleted', async ({ page }) => {
  const name = `Sluice notes ${Date.now()}`
  expect((await page.request.post('/api/productions', { data: { name } })).status()).toBe(201)
  await page.goto('/')
  const own = page.locator('article', { hasText: name })
  await own.getByRole('button', { name: 'copy' }).click()
  await expect(own).toHaveCount(2)
  const copy = page.locator('article', { hasText: `${name} (copy)` })
  await copy.getByRole('button', { name: 'delete' }).click()
  await page.getByRole('button', { name: 'Delete', exact: true }).click()
  await expect(own).toHaveCount(1)
  await expect(copy).toHaveCount(0)
})
