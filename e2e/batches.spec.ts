import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, renameSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-e2e-'))

test('a folder is taken in: clips, a sequence with a gap, what is here already, what cannot be read', async ({
  page,
}) => {
  const scans = join(folder, 'reel', 'scans')
  mkdirSync(scans, { recursive: true })
  const ffmpeg = (...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', ...args])
  ffmpeg('-i', 'testsrc2=s=96x54:r=24:d=0.25', join(scans, 'gate.%03d.png'))
  renameSync(join(scans, 'gate.003.png'), join(folder, 'away.png'))
  ffmpeg('-i', 'mandelbrot=s=96x54:r=24', '-t', '0.5', '-pix_fmt', 'yuv420p', join(folder, 'reel', 'one.mp4'))
  writeFileSync(join(folder, 'reel', 'notes.mov'), 'no clip')
  writeFileSync(join(folder, 'reel', '.hidden'), 'left by a system')

  await page.goto('/')
  await page.getByLabel('Name of a new production').fill(`Folder ${Date.now()}`)
  await page.getByRole('button', { name: 'Make' }).click()
  await page.locator('[data-test=folder]').setInputFiles(join(folder, 'reel'))
  const way = page.getByRole('region', { name: 'Files on their way in' })
  await expect(way.getByRole('status')).toHaveText('2 taken in, 1 not taken in')
  await expect(way.getByRole('alert')).toContainText('notes.mov is not a picture or clip')
  const rows = page.locator('article.shot')
  await expect(rows).toHaveCount(2)
  const sequence = rows.filter({ hasText: 'gate.001.png' })
  await expect(sequence).toContainText('6 frames at 24')
  await expect(sequence).toContainText('Frames are missing: 3; the one before is shown there.')

  // The same again is not sent: it is here.
  const sent: string[] = []
  page.on(
    'request',
    (r) => void (r.method() === 'POST' && /\/(media|sequence)\b(?!\/known)/.test(r.url()) && sent.push(r.url())),
  )
  await page.locator('[data-test=folder]').setInputFiles(scans)
  await expect(way.getByRole('status')).toHaveText('1 here already')
  await page.locator('[data-test=files]').setInputFiles(join(folder, 'reel', 'one.mp4'))
  await expect(rows).toHaveCount(4)
  expect(sent).toEqual([])
})
