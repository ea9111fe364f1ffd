import { expect, test } from '@playwright/test'
import { KINDS, defaultsOf } from '@fogbath/core/baths'
import { add, benchOfCopy, differs, press, restedPicture, saturation, tiles } from './helpers'

test('a point of a characteristic curve is dragged; the setting and the picture follow', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  const before = await restedPicture(page)
  await page.getByRole('button', { name: 'Curves', exact: true }).click()
  const gamma = page.getByRole('textbox', { name: 'Print, gamma, number' })
  await expect(gamma).toHaveValue('3')
  await page.getByRole('button', { name: 'Drawings of the bath' }).click()
  const chart = page.getByRole('region', { name: 'Drawings' }).getByRole('img', { name: /^Characteristic curves/ })
  // The point is looked for where the print's curve is steep: in the upper half, somewhat right of the middle.
  const box = (await chart.boundingBox())!
  let moved = false
  for (let x = 0.4; x < 0.6 && !moved; x += 0.02)
    for (let y = 0.3; y < 0.75 && !moved; y += 0.06) {
      await page.mouse.move(box.x + x * box.width, box.y + y * box.height)
      await page.mouse.down()
      await page.mouse.move(box.x + x * box.width, box.y + (y - 0.2) * box.height, { steps: 4 })
      await page.mouse.up()
      moved = (await gamma.inputValue()) !== '3'
    }
  expect(moved).toBe(true)
  expect(Number(await gamma.inputValue())).toBeGreaterThan(3)
  await differs(page, before)
  await press(page, 'Control+z')
  await expect(gamma).toHaveValue('3')
})

test('separations are looked at one by one in black and white', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  await press(page, 'a')
  await page.locator('[data-entry="three-strip"][data-type="recipe"]').click()
  await restedPicture(page)
  const colour = await saturation(page)
  const seen: number[][] = []
  for (const separation of ['Red', 'Green', 'Blue']) {
    await page.locator('[data-setting="show"] .n-select').click()
    await page.locator('.n-base-select-option', { hasText: `${separation} separation` }).click()
    await expect.poll(() => saturation(page)).toBeLessThan(colour / 10)
    seen.push(await restedPicture(page))
  }
  // A blue sky is bright in the blue record and dark in the red one.
  const mean = (p: readonly number[]): number => p.reduce((a, b) => a + b, 0) / p.length
  expect(mean(seen[2]!)).toBeGreaterThan(mean(seen[0]!) + 5)
})

test('every kind shows its settings and draws itself, without an error', async ({ page }) => {
  const errors: string[] = []
  page.on('pageerror', (e) => errors.push(e.message))
  page.on('console', (m) => m.type() === 'error' && errors.push(m.text()))
  await benchOfCopy(page, 'Dawn fog')
  for (const kind of KINDS) {
    const before = await tiles(page).count()
    await add(page, kind.id)
    await expect(tiles(page)).toHaveCount(before + 1)
    const settings = page.getByRole('region', { name: 'Settings' })
    await expect(settings.getByRole('button', { name: `About ${kind.label}` })).toHaveAttribute('title', kind.summary)
    // The wedge stands among the settings.
    const drawn = kind.views(defaultsOf(kind.schema)).filter((v) => v.view !== 'wedge')
    if (drawn.length > 0) {
      await settings.getByRole('button', { name: 'Drawings of the bath' }).click()
      const drawings = page.getByRole('region', { name: 'Drawings' })
      for (const view of drawn) await expect(drawings.getByText(view.title).first()).toBeVisible()
      await drawings.getByRole('button', { name: 'Close the drawings' }).click()
    }
    await press(page, 'Delete')
    await expect(tiles(page)).toHaveCount(before)
  }
  expect(errors).toEqual([])
})
