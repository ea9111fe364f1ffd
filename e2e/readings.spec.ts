import { expect, test, type Page } from '@playwright/test'
import { add, benchOfCopy, canvas, pictureReady, press, restedPicture, saved, tiles } from './helpers'

const scopePixels = async (page: Page): Promise<string> =>
  (await page.locator('.scope canvas').screenshot()).toString('base64')
const figure = (page: Page, id: string) => page.locator(`[data-figure="${id}"] dd`)

test('every scope is drawn, of the picture, the footage, or both', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await add(page, 'bleach-bypass')
  await restedPicture(page)
  const seen = new Set<string>()
  for (const kind of ['Waveform', 'Parade', 'Vector', 'Histogram'])
    for (const of of ['picture', 'footage', 'both']) {
      await page.getByRole('button', { name: kind }).click()
      await page.getByRole('button', { name: 'The scope reads' }).click()
      await page.locator('.n-dropdown-option').getByText(of, { exact: true }).click()
      await expect(page.getByRole('img', { name: `${kind.toLowerCase()} of ${of}`, exact: true })).toBeVisible()
      // It says what it shows when it is drawn; the screen has it a little later.
      await expect.poll(async () => seen.has(await scopePixels(page))).toBe(false)
      seen.add(await scopePixels(page))
    }
  expect(seen.size).toBe(12)
  await page.getByRole('button', { name: 'Waveform' }).click()
  await expect(page.getByText('18 % grey')).toBeVisible()
})

test('figures turn into warnings with advice', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await expect(figure(page, 'grey')).toHaveText(/^[−+]0\.0\d stop$/)
  await expect(figure(page, 'black')).not.toHaveClass(/warn/)
  await page.getByRole('button', { name: /\d more/ }).click()
  await add(page, 'tint-amber')
  await expect(figure(page, 'white')).toHaveClass(/warn/)
  await expect(page.locator('.advice')).toContainText('White is tinted')
  await press(page, 'Control+z')
  await expect(page.locator('.advice')).toBeEmpty()
  await page.getByRole('textbox', { name: 'Bleach, print, number' }).fill('0')
  await page.keyboard.press('Enter')
  await expect
    .poll(async () => Number((await figure(page, 'shadows').innerText()).match(/[\d.]+/)![0]))
    .toBeGreaterThan(2)
})

test('probes measure points and areas, are plotted, kept on the shot, and mark a grey card', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  const box = (await canvas(page).boundingBox())!
  const at = (u: number, v: number): [number, number] => [box.x + u * box.width, box.y + v * box.height]
  await page.mouse.click(...at(0.5, 0.75))
  const probes = page.getByRole('region', { name: 'Probes' })
  await expect(probes.locator('tbody tr')).toHaveCount(3)
  await expect(probes.locator('tbody th')).toHaveText(['footage', 'Colour print', 'screen'])
  const densities = (await probes.locator('tbody tr').nth(2).locator('td').first().innerText()).split(' ').map(Number)
  expect(densities).toHaveLength(3)
  for (const d of densities) expect(d).toBeGreaterThan(0)

  await page.mouse.move(...at(0.1, 0.1))
  await page.mouse.down()
  await page.mouse.move(...at(0.16, 0.12), { steps: 3 })
  await page.mouse.up()
  await expect(page.locator('.area')).toHaveCount(2)
  const areas = await page.locator('.area').evaluateAll((list) => list.map((e) => e.getBoundingClientRect().width))
  expect(areas[1]! / areas[0]!).toBeGreaterThan(5)

  await probes.getByRole('button', { name: 'plot' }).click()
  await expect(probes.getByRole('img', { name: /Probes on the wedge/ })).toBeVisible()
  await probes.getByRole('button', { name: 'plot' }).click()
  await probes.getByRole('button', { name: '2', exact: true }).click()
  await probes.getByRole('button', { name: 'grey card' }).click()
  await expect(page.locator('.numbers .card')).toHaveText('grey card')
  const expose = probes.getByRole('button', { name: /^expose by/ })
  const stops = Number((await expose.innerText()).match(/[\d.]+/)![0])
  await expose.click()
  await tiles(page).first().locator('.tray').click()
  const exposure = Number(await page.getByRole('textbox', { name: 'Exposure, number' }).inputValue())
  expect(Math.abs(exposure)).toBeCloseTo(stops, 1)
  await saved(page)

  await page.reload()
  await pictureReady(page)
  await expect(page.locator('.area')).toHaveCount(2)
  await expect(page.locator('.numbers .card')).toBeVisible()
  // Nothing is drawn over the picture while it is compared.
  await press(page, 'w')
  await expect(page.locator('.area')).toHaveCount(0)
  await press(page, 'w')
  await expect(page.locator('.area')).toHaveCount(2)
  for (let i = 0; i < 8; i++) await page.mouse.click(...at(0.2 + 0.05 * i, 0.5))
  await expect(page.locator('.area')).toHaveCount(8)
  await probes.getByRole('button', { name: 'clear' }).click()
  await expect(page.locator('.area')).toHaveCount(0)
})
