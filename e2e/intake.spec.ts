import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { benchOfCopy, differs, pictureReady, restedPicture, sameAs } from './helpers'

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
  await page.keyboard.type('sRGB')
  await page.keyboard.press('Enter')
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

const CONFIG = `ocio_profile_version: 2
roles:
  aces_interchange: ap0
colorspaces:
  - !<ColorSpace>
    name: ap0
  - !<ColorSpace>
    name: House log
    to_scene_reference: !<BuiltinTransform> {style: ACEScct_to_ACES2065-1}
  - !<ColorSpace>
    name: Lamp log
    to_scene_reference: !<FileTransform> {src: luts/lamp.cube}
  - !<ColorSpace>
    name: Lost
    to_scene_reference: !<FileTransform> {src: gone.cube}
`
const file = (name: string, text: string) => ({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })

test('encodings of one’s own: from a config with its files, by numbers, chosen, worked with, removed', async ({
  page,
}) => {
  const { production, shot } = await benchOfCopy(page, 'Night lantern')
  const shipped = await restedPicture(page)
  await page.goto(`/productions/${production}`)
  await page.getByRole('button', { name: 'Encodings' }).click()
  const sheet = page.getByRole('dialog', { name: 'Encodings of your own' })
  const cube = 'LUT_1D_SIZE 3\n0 0 0\n0.1 0.1 0.1\n1 1 1\n'
  await page.locator('[data-test=encoding-files]').setInputFiles([file('c.ocio', CONFIG), file('lamp.cube', cube)])
  const found = sheet.getByRole('list', { name: 'Found encodings' })
  await expect(found.getByText("Lost: It needs the file 'gone.cube', which is not there.")).toBeVisible()
  for (const name of ['House log', 'Lamp log']) await found.getByText(name, { exact: true }).click()
  await sheet.getByRole('button', { name: 'Take 2' }).click()
  const kept = sheet.getByRole('list', { name: 'Kept encodings' })
  await expect(kept).toContainText('House log')

  await sheet.getByText('By numbers').click()
  await sheet.getByRole('textbox', { name: 'Name of the encoding' }).fill('Plain power')
  await sheet.getByRole('textbox', { name: 'Red, x' }).fill('0.265')
  await sheet.getByRole('textbox', { name: 'Red, y' }).fill('0.69')
  await sheet.getByRole('textbox', { name: 'Red, y' }).blur()
  await expect(sheet.getByRole('alert')).toContainText('span no triangle')
  await sheet.getByRole('textbox', { name: 'Red, x' }).fill('0.7')
  await sheet.getByRole('textbox', { name: 'Red, y' }).fill('0.3')
  await sheet.getByRole('textbox', { name: 'Red, y' }).blur()
  await expect(sheet.getByRole('alert')).toHaveCount(0)
  await sheet.getByRole('button', { name: 'Keep' }).click()
  await expect(kept).toContainText('Plain power')
  await sheet.getByRole('button', { name: 'Remove Plain power' }).click()
  await expect(kept).not.toContainText('Plain power')
  await sheet.getByRole('button', { name: 'close' }).click()

  // The same encoding by another road gives the same picture; another one another.
  const chosen = page
    .locator('article.shot')
    .filter({ hasText: 'night-lantern' })
    .getByLabel('Encoding', { exact: true })
  const takes = async (name: string): Promise<void> => {
    await chosen.first().click()
    await page.keyboard.type(name)
    await page.keyboard.press('Enter')
    await expect(page.getByText(`The colour space '${name}' of an OpenColorIO config.`)).toBeVisible()
  }
  await takes('House log')
  await page.goto(`/bench/${shot}`)
  await pictureReady(page)
  await sameAs(page, shipped)
  await page.goto(`/productions/${production}`)
  await takes('Lamp log')
  await page.goto(`/bench/${shot}`)
  await pictureReady(page)
  await differs(page, shipped)
})

test('a log clip that is taken for video is asked about', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  await page.goto(`/productions/${production}`)
  const shot = page.locator('article.shot').filter({ hasText: 'lock-gate' })
  await expect(shot).toBeVisible()
  // Nothing of the demo is doubted as it comes.
  await expect(page.getByText(/Its codes run from/)).toHaveCount(0)
  await shot.getByLabel('Encoding', { exact: true }).first().click()
  await page.keyboard.type('Video, BT.709 colours')
  await page.keyboard.press('Enter')
  await expect(shot.getByText(/Its codes run from \d+ to \d+ %, as those of a camera’s log curve do/)).toBeVisible()
})

test('high range has a knee of the shot’s own', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  await page.goto(`/productions/${production}`)
  const shot = page.locator('article.shot').filter({ hasText: 'dawn-fog' })
  await shot.getByLabel('Encoding', { exact: true }).first().click()
  await page.keyboard.type('HLG, BT')
  await page.keyboard.press('Enter')
  await expect(shot.getByText(/203 cd\/m² is white, a knee of 50 % holds/)).toBeVisible()
  const knee = shot.getByRole('slider', { name: 'Knee' })
  await knee.focus()
  await page.keyboard.press('Home')
  await expect(shot.getByText(/a knee of 0 % holds/)).toBeVisible()
  await page.reload()
  await expect(shot.getByText(/a knee of 0 % holds/)).toBeVisible()
})
