import { execFileSync } from 'node:child_process'
import { mkdirSync, mkdtempSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'
import { benchOfCopy, differs, pictureReady, press, readPicture } from './helpers'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-e2e-edits-'))
const footage = join(folder, 'footage')
mkdirSync(footage)
const clip = (seconds: number, seed: number): string[] => [
  ...['-f', 'lavfi', '-i', `gradients=s=160x90:r=24:d=${seconds}:speed=0.01:seed=${seed}`],
]
const encoded = ['-c:v', 'libx264', '-pix_fmt', 'yuv420p']
const ffmpeg = (...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', ...args])
for (const [name, seed] of [
  ['sluice.mov', 5],
  ['reeds.mov', 6],
] as const)
  ffmpeg(...clip(2, seed), ...encoded, join(footage, name))
writeFileSync(join(footage, 'notes.txt'), 'nothing of the edit')

const line = (n: number, file: string, from: string, to: string, at: string, end: string): string =>
  `00${n}  AX  V  C  00:00:0${from} 00:00:0${to} 01:00:0${at} 01:00:0${end}\n* FROM CLIP NAME: ${file}\n`
const listOf = (name: string, ...lines: string[]): string => {
  writeFileSync(join(folder, name), `TITLE: FENS\n${lines.join('')}`)
  return join(folder, name)
}
const production = async (page: Page, name: string): Promise<number> => {
  const { id } = (await (await page.request.post('/api/productions', { data: { name } })).json()) as { id: number }
  await page.goto(`/productions/${id}`)
  return id
}
const sheet = (page: Page) => page.getByRole('dialog', { name: 'Take in an edit' })
const states = (page: Page) => sheet(page).locator('tbody td:last-child')

test('an edit is taken in with its footage, and again when it has changed', async ({ page }) => {
  await production(page, `Edit ${Date.now()}`)
  const first = listOf(
    'rough.edl',
    line(1, 'sluice.mov', '0:12', '1:12', '0:00', '1:00'),
    line(2, 'reeds.mov', '0:00', '1:00', '1:00', '2:00'),
    line(3, 'sluice.mov', '9:00', '9:12', '2:00', '2:12'),
  )
  await page.getByRole('button', { name: 'Take in an edit' }).click()
  await page.locator('[data-test=edit-list]').setInputFiles(first)
  await expect(states(page)).toHaveText(Array(3).fill('waits for its footage'))
  await page.locator('[data-test=edit-folder]').setInputFiles(footage)
  await expect(states(page)).toHaveText(['new', 'new', 'waits for its footage'])
  await expect(sheet(page)).toContainText('sluice.mov goes from 00:00:00:00 to 00:00:01:23')
  await expect(sheet(page)).toContainText('2 new, 1 waiting for footage')
  await page.getByRole('button', { name: 'Take it in' }).click()
  await expect(page.locator('article.shot')).toHaveCount(2)
  await expect(page.getByLabel('First frame')).toHaveCount(2)
  await expect(page.getByLabel('First frame').first()).toHaveValue('12')

  // The list is still there; another one is held against the shots.
  await page.getByRole('button', { name: 'Take in an edit' }).click()
  await expect(states(page)).toHaveText(['as it is', 'as it is', 'waits for its footage'])
  const next = listOf('fine.edl', line(1, 'reeds.mov', '0:00', '1:12', '0:00', '1:12'))
  await page.locator('[data-test=edit-list]').setInputFiles(next)
  await expect(states(page)).toHaveText(['trimmed, was 0 to 23'])
  await sheet(page).getByRole('checkbox', { name: 'sluice' }).check()
  await expect(sheet(page)).toContainText('1 trimmed, 1 removed')
  await page.getByRole('button', { name: 'Take it in' }).click()
  await expect(page.locator('article.shot')).toHaveCount(1)
  await expect(page.getByLabel('Last frame')).toHaveValue('35')
})

test('a list that cannot be read is told, and nothing is changed', async ({ page }) => {
  await production(page, `Wrong ${Date.now()}`)
  await page.getByRole('button', { name: 'Take in an edit' }).click()
  const wrong = join(folder, 'wrong.otio')
  writeFileSync(wrong, '{"OTIO_SCHEMA":"Clip.1"}')
  await page.locator('[data-test=edit-list]').setInputFiles(wrong)
  await expect(sheet(page).getByRole('alert')).toContainText(
    "wrong.otio: The file is no timeline; its OTIO_SCHEMA is 'Clip'.",
  )
  await expect(page.getByRole('button', { name: 'Take it in' })).toBeHidden()
})

test('cuts are found, corrected by hand, and become shots', async ({ page }) => {
  const inputs = [11, 29, 47].flatMap((seed) => clip(1.25, seed))
  const joined = join(folder, 'joined.mov')
  ffmpeg(...inputs, '-filter_complex', 'concat=n=3:v=1', ...encoded, '-qp', '10', joined)
  await production(page, `Cuts ${Date.now()}`)
  await page.locator('[data-test=files]').setInputFiles(joined)
  await page.getByRole('button', { name: 'Cuts of joined' }).click()
  const cuts = page.getByRole('button', { name: /^Cut at frame/ })
  await expect(cuts).toHaveCount(2)
  await expect(page.getByRole('img', { name: 'Frame 29, the last before' })).toBeVisible()
  // By keys a frame on, by pointer elsewhere, taken away, and one put where there is none.
  await cuts.first().focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('button', { name: 'Cut at frame 31' })).toBeFocused()
  const strip = (await page.locator('.strip').boundingBox())!
  await page.mouse.move(strip.x + (strip.width * 60) / 90, strip.y + 20)
  await page.mouse.down()
  await page.mouse.move(strip.x + (strip.width * 70) / 90, strip.y + 20, { steps: 4 })
  await page.mouse.up()
  await expect(page.getByRole('button', { name: 'Cut at frame 70' })).toBeVisible()
  await page.getByRole('button', { name: 'Cut at frame 31' }).focus()
  await page.keyboard.press('Delete')
  await expect(cuts).toHaveCount(1)
  await page.mouse.click(strip.x + (strip.width * 45) / 90, strip.y + 20)
  await page.getByRole('button', { name: 'A cut here' }).click()
  await page.getByRole('button', { name: 'Make 3 shots' }).click()
  await expect(page.locator('article.shot')).toHaveCount(3)
  await expect
    .poll(() => page.getByLabel('First frame').evaluateAll((all) => all.map((f) => (f as HTMLInputElement).value)))
    .toEqual(['0', '45', '70'])
})

test('the reel plays all shots, goes where one clicks, and stops on the shot that is seen', async ({ page }) => {
  const { shot } = await benchOfCopy(page, 'Lock gate')
  const rail = page.locator('.rail [aria-current=true]')
  await press(page, 'g')
  const reel = page.getByRole('group', { name: 'Reel' })
  await expect(reel.getByRole('button')).toHaveCount(5)
  await page.keyboard.press(' ')
  // Two seconds a shot: how many of them are seen goes by the machine. The address stays until it stops.
  await expect(rail).not.toContainText('Lock gate')
  expect(page.url()).toContain(`/bench/${shot}`)
  await page.keyboard.press('k')
  await expect(page).not.toHaveURL(new RegExp(`/bench/${shot}$`))
  await pictureReady(page)
  const before = await readPicture(page)
  await reel.getByRole('button', { name: 'Keeper and apprentice in the reel' }).click()
  await expect(rail).toContainText('Keeper and apprentice')
  await differs(page, before, 10)
  await press(page, 'g')
  await expect(reel).toBeHidden()
})

test('the wall shows all shots as they are treated; two stand side by side with the scopes of both', async ({
  page,
}) => {
  await benchOfCopy(page, 'Lock gate')
  await press(page, 'y')
  const wall = page.getByRole('dialog', { name: 'All shots as they are treated' })
  await expect(wall.locator('img')).toHaveCount(5)
  await wall.getByRole('checkbox', { name: 'Mark Dawn fog' }).check()
  await wall.getByRole('button', { name: 'Put this look on them' }).click()
  await expect(page.getByText('Put on 1 shot; undo takes it back.')).toBeVisible()
  await wall.getByRole('checkbox', { name: 'Mark Dawn fog' }).check()
  await wall.getByRole('button', { name: 'Side by side' }).click()
  await expect(
    page.getByRole('img', { name: /^waveform of the other shot at the left and of this one's picture/ }),
  ).toBeVisible()
  await press(page, 'y')
  await wall.getByRole('button', { name: /Night lantern/ }).click()
  await expect(page.locator('.rail [aria-current=true]')).toContainText('Night lantern')
})
