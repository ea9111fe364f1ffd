import { execFileSync } from 'node:child_process'
import { mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { pictureReady } from './helpers'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-e2e-'))
const made = (name: string, ...args: string[]): string => {
  const source = ['-f', 'lavfi', '-i', 'testsrc2=s=720x480:r=30000/1001:d=1']
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...source, ...args, join(folder, name)])
  return join(folder, name)
}
async function takeIn(page: Page, ...files: string[]): Promise<void> {
  await page.goto('/')
  await page.getByLabel('Name of a new production').fill(`Readings ${Date.now()}`)
  await page.getByRole('button', { name: 'Make' }).click()
  await page.locator('[data-test=files]').setInputFiles(files)
  await expect(page.locator('article.shot')).toHaveCount(files.length)
}
async function choose(page: Page, setting: string, choice: string | RegExp): Promise<void> {
  await page.getByRole('dialog').getByLabel(setting).click()
  await page.locator('.n-base-select-option', { hasText: choice }).click()
}

test('fields, pixels and timecode of a tape are shown, set, and counted on the bench', async ({ page }) => {
  const tape = [
    '-vf',
    'setsar=8/9,setfield=tff',
    '-c:v',
    'libx264',
    '-flags',
    '+ilme+ildct',
    '-timecode',
    '01:00:59;28',
  ]
  await takeIn(page, made('tape.mov', ...tape))
  const row = page.locator('article.shot')
  await expect(row).toContainText('720 × 480')
  await expect(row).toContainText('from 01:00:59;28')
  await expect(row).toContainText('Its pixels are 8:9')
  await expect(row).toContainText('Interlaced')
  await expect(row).toContainText('guessed: matrix from its height of 480 lines')
  await page.getByRole('button', { name: 'How tape is read' }).click()
  await choose(page, 'Fields', 'upper field first')
  await choose(page, 'Pixels', '8:9 as the file says')
  await page.getByRole('button', { name: 'Apply' }).click()
  await expect(row).toContainText('720 × 540')
  await expect(row).toContainText('fields made one picture, pixels of 8:9 made square')
  await expect(row).not.toContainText('Interlaced')

  await page.getByRole('link', { name: 'bench', exact: true }).click()
  await pictureReady(page)
  const time = page.locator('[data-test=time]')
  for (const [typed, shown, frame] of [
    ['01:01:00;02', '01:01:00;02', '2'],
    ['+1', '01:01:00;03', '3'],
  ] as const) {
    await time.click()
    await page.getByLabel('Timecode').fill(typed)
    await page.keyboard.press('Enter')
    await expect(time).toHaveText(shown)
    await expect(page.getByRole('slider', { name: 'Frame', exact: true })).toHaveAttribute('aria-valuenow', frame)
  }
  // A number that drop-frame timecode leaves out.
  await time.click()
  await page.getByLabel('Timecode').fill('01:01:00;00')
  await page.keyboard.press('Enter')
  await expect(page.getByText(/'01:01:00;00' is no timecode at 30 frames a second with dropped numbers/)).toBeVisible()
})

test('two likely other encodings stand beside the frame; several shots are read anew at once', async ({ page }) => {
  const tagged = ['-pix_fmt', 'yuv420p10le', '-c:v', 'libx264', '-color_range', 'tv', '-colorspace', 'bt709']
  await takeIn(page, made('one.mp4', ...tagged), made('two.mp4', ...tagged, '-t', '0.5'))
  const rows = page.locator('article.shot')
  await page.getByRole('button', { name: 'How one is read' }).click()
  const tiles = page.getByRole('group', { name: /^Encoding: as it is/ }).getByRole('button')
  await expect(tiles).toHaveCount(3)
  await expect(tiles.first()).toHaveAttribute('aria-pressed', 'true')
  for (const name of ['As', 'Waveform as'])
    await expect(tiles.getByRole('img', { name: new RegExp(`^${name} `) })).toHaveCount(3)
  const other = await tiles.nth(1).locator('span').nth(-2).innerText()
  await tiles.nth(1).click()
  await expect(tiles.first()).toContainText(other)
  await page.keyboard.press('Escape')
  await expect(rows.first()).toContainText('(chosen by you)')

  for (const name of ['one', 'two']) await page.getByRole('checkbox', { name: `Choose ${name}` }).check()
  await page.getByRole('button', { name: 'Read 2 chosen' }).click()
  await choose(page, 'Range', /^full/)
  await page.getByRole('button', { name: 'Apply' }).click()
  for (const at of [0, 1]) await expect(rows.nth(at)).toContainText('BT.709, full range')
  // What was not touched stays.
  await expect(rows.first()).toContainText('(chosen by you)')
})
