import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { benchOfCopy, pictureReady, press, saved, setNumber, tiles } from './helpers'

const fromRender = async (page: Page, what: string): Promise<void> => {
  await page.getByRole('button', { name: 'Render', exact: true }).click()
  await page.locator('.n-dropdown-option').getByText(what).click()
}

test('a look is made as a file, measured on the frame, and saved; baths it cannot hold are named', async ({
  page,
}, info) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await press(page, 'a')
  await page.keyboard.type('vignette')
  await page.keyboard.press('Enter')
  await expect(tiles(page)).toHaveCount(2)
  await fromRender(page, 'The look as a file')
  const dialog = page.getByRole('dialog', { name: 'The look as a file' })
  await expect(dialog.getByRole('listitem')).toHaveText(/the bath 'Vignette' works on neighbouring pixels/)
  await dialog.getByText('One table of colours').click()
  await dialog.getByRole('button', { name: 'Make and measure' }).click()
  await expect(dialog.getByRole('alert')).toHaveText(/Leave it out, or render the shot/)
  await dialog.getByRole('checkbox', { name: 'leave this bath out' }).click()
  await dialog.getByRole('button', { name: 'Make and measure' }).click()
  await expect(dialog.getByRole('definition')).toHaveText([/mean \d\.\d\d, 99th/, /mean \d\.\d\d, 99th/])
  const savedBy = async (button: string): Promise<string> => {
    const download = page.waitForEvent('download')
    await dialog.getByRole('button', { name: button }).click()
    const path = info.outputPath('look.cube')
    await (await download).saveAs(path)
    return readFileSync(path, 'utf8')
  }
  const text = await savedBy('Save .cube')
  expect(text).toMatch(/# On a frame: mean/)
  expect(text).toMatch(/# Not in this file: the bath 'Vignette'/)
  expect(text.match(/^[\d.-]+ [\d.-]+ [\d.-]+$/gm)).toHaveLength(33 ** 3)

  await dialog.getByRole('checkbox', { name: /with a shaper/ }).click()
  await dialog.getByRole('button', { name: 'Make and measure' }).click()
  expect(await savedBy('Save its shaper')).toMatch(/^LUT_1D_SIZE 4096$/m)
  expect(await savedBy('Save .cube')).toMatch(/# Its input goes through its shaper first/)
})

test('the process sheet of a shot stands on paper, with vectors and text', async ({ page }) => {
  const { shot } = await benchOfCopy(page, 'Dawn fog')
  await setNumber(page, 'Bleach, print', '35')
  await saved(page)
  await fromRender(page, 'Process sheet')
  await expect(page).toHaveURL(new RegExp(`/sheet/shot/${shot}`))
  const paper = page.locator('.paper')
  await expect(paper.getByRole('heading', { level: 1 })).toBeVisible()
  await expect(paper).toContainText('Bleach, print')
  await expect(paper).toContainText('35 % (100 %)')
  await expect(paper.getByRole('img', { name: 'Through the process' })).toHaveJSProperty('complete', true)
  await expect(paper.locator('tbody tr')).toHaveCount(21)
  expect(await paper.locator('svg path').count()).toBeGreaterThan(10)
  await page.emulateMedia({ media: 'print' })
  await expect(page.getByRole('button', { name: 'Print, or keep as PDF' })).toBeHidden()
  await expect(paper).toBeVisible()
  await page.goto('/sheet/no-such-recipe')
  await expect(page.getByRole('alert')).toHaveText(/No such recipe or shot/)
})

test('a process is fitted to a proof of this frame, shown with its distance, and taken as a trial', async ({
  page,
}) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await page.getByRole('button', { name: 'Add a trial' }).click()
  await page.locator('.n-dropdown-option').getByText('Empty line').click()
  await expect(tiles(page)).toHaveCount(0)
  await press(page, 'a')
  await page.keyboard.type('three-strip dye')
  await page.keyboard.press('Enter')
  await expect(tiles(page)).toHaveCount(1)
  await setNumber(page, 'Key image', '4')
  await pictureReady(page)
  await saved(page)
  await page.getByRole('button', { name: 'Keep proof' }).click()
  await expect(page.getByRole('button', { name: /see proofs 1/ })).toBeVisible()

  await page.getByRole('button', { name: 'Add a trial' }).click()
  await page.locator('.n-dropdown-option').getByText('Fitted to a reference').click()
  const dialog = page.getByRole('dialog', { name: 'Fit a process to a reference' })
  const choose = async (n: number, what: RegExp): Promise<void> => {
    await dialog.locator('.n-select').nth(n).click()
    await page.locator('.n-base-select-option').filter({ hasText: what }).click()
  }
  await choose(0, /^proof/)
  // Several references may be chosen, so that the list stays open until something else is clicked.
  await dialog.getByText('Fit a process to a reference').click()
  await expect(dialog.getByRole('checkbox', { name: 'shows this very frame' })).toBeChecked()
  // Stopped, it ends with what it has found so far; 'all processes' takes long enough to be stopped.
  await dialog.getByRole('button', { name: 'Fit', exact: true }).click()
  await expect(dialog.getByRole('status')).toContainText(/step \d+/)
  await dialog.getByRole('button', { name: 'Stop' }).click()
  await expect(dialog.getByRole('status')).toContainText(/[\d.]+ → [\d.]+/)
  await expect(dialog.getByRole('status')).toContainText('The fit was stopped; this is the best so far.')

  await choose(1, /^Three-strip/)
  await dialog.getByRole('button', { name: 'Fit', exact: true }).click()
  const take = dialog.getByRole('button', { name: 'Take it as a new trial' })
  await expect(take).toBeVisible()
  const [, before, after] = /([\d.]+) → ([\d.]+)/.exec((await dialog.getByRole('status').textContent()) ?? '')!
  expect(Number(before)).toBeGreaterThan(2)
  expect(Number(after)).toBeLessThan(1)
  await expect(dialog.locator('figure img')).toHaveCount(3)
  const trials = await page.getByRole('navigation', { name: 'Trials' }).getByRole('button').count()
  await take.click()
  await expect(dialog).toBeHidden()
  await expect(page.getByRole('navigation', { name: 'Trials' }).getByRole('button')).toHaveCount(trials + 1)
  await expect(tiles(page)).toHaveCount(1)
})
