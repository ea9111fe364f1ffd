import { expect, test } from '@playwright/test'
import {
  add,
  benchOfCopy,
  differs,
  differenceOf,
  pictureReady,
  press,
  readPicture,
  restedPicture,
  sameAs,
  saved,
  tile,
  tiles,
} from './helpers'

test('baths are added with a preview, named, lifted out, duplicated, removed, chosen by number', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  const before = await restedPicture(page)

  await page.keyboard.press('a')
  const palette = page.getByRole('dialog', { name: 'Add to the line' })
  await palette.getByRole('textbox', { name: 'Search' }).fill('sepia')
  await expect(palette.locator('[data-entry="two-strip"]')).toHaveCount(0)
  await palette.getByRole('textbox', { name: 'Search' }).fill('aged')
  const entry = palette.locator('[data-entry="aged-print"]')
  await entry.hover()
  const small = entry.locator('canvas')
  await expect(small).toBeVisible()
  await expect
    .poll(() =>
      small.evaluate((c) => {
        const { width, height } = c as HTMLCanvasElement
        const data = (c as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, width, height).data
        return new Set(data.filter((_, i) => i % 4 === 0)).size
      }),
    )
    .toBeGreaterThan(40)
  await expect(page.locator('.tapped')).toHaveText('preview')
  await entry.click()
  await page.getByRole('button', { name: 'after it, as a second print' }).click()
  await expect(tiles(page)).toHaveCount(2)
  await expect(tile(page, 'Aged print')).toHaveClass(/chosen/)

  await page.getByRole('textbox', { name: 'Name of the bath' }).fill('Attic')
  await expect(tile(page, 'Attic')).toBeVisible()
  await page.getByRole('textbox', { name: 'Fade, cyan, number' }).fill('70')
  await page.keyboard.press('Enter')
  await differs(page, before, 4)
  const faded = await restedPicture(page)

  await press(page, 'x')
  await sameAs(page, before)
  await expect(tile(page, 'Attic')).toHaveClass(/out/)
  await press(page, 'x')
  await sameAs(page, faded)

  await press(page, 'd')
  await expect(tiles(page)).toHaveCount(3)
  await press(page, '1')
  await expect(tile(page, 'Colour print')).toHaveClass(/chosen/)
  await press(page, '3')
  await press(page, 'Delete')
  await expect(tiles(page)).toHaveCount(2)
  await saved(page)
  await page.reload()
  await pictureReady(page)
  await expect(tile(page, 'Attic')).toBeVisible()
})

test('typing in the palette and Enter adds the first hit, names before descriptions', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  await page.keyboard.press('a')
  const palette = page.getByRole('dialog', { name: 'Add to the line' })
  const search = palette.getByRole('textbox', { name: 'Search' })
  await expect(search).toBeFocused()
  // With nothing typed there is no hit to take.
  await page.keyboard.press('Enter')
  await expect(palette).toBeVisible()
  await expect(tiles(page)).toHaveCount(1)
  await page.keyboard.type('warm')
  // Instant film is only described as warm; what is called so comes first.
  await expect(palette.locator('.entry.first')).toContainText(/warm/i)
  await search.fill('aged')
  await expect(palette.locator('.entry.first')).toContainText('Enter adds it')
  await page.keyboard.press('Enter')
  // The look has a process already: the keyboard is at the answers.
  await expect(page.getByRole('button', { name: 'in its place' })).toBeFocused()
  await page.keyboard.press('Tab')
  await page.keyboard.press('Enter')
  await expect(palette).toBeHidden()
  await expect(tiles(page)).toHaveCount(2)
  await expect(tile(page, 'Aged print')).toHaveClass(/chosen/)
})

test('the line is walked bath by bath, tapped, and dialled back as a whole', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  await add(page, 'bleach-bypass')
  await add(page, 'aged-print')
  await page.getByRole('textbox', { name: 'Fade, cyan, number' }).fill('80')
  await page.keyboard.press('Enter')
  const finished = await restedPicture(page)

  await press(page, '[')
  await expect(page.locator('.tapped')).toHaveText('as it leaves bath 1')
  await differs(page, finished)
  const first = await restedPicture(page)
  await press(page, '[')
  await expect(page.locator('.tapped')).toHaveText('as it leaves the camera')
  await differs(page, first)
  const footage = await restedPicture(page)
  await press(page, ']')
  await press(page, ']')
  await expect(page.locator('.tapped')).toBeHidden()
  await sameAs(page, finished)

  await page
    .getByRole('button', { name: /^Tap after/ })
    .first()
    .click()
  await sameAs(page, first)
  await press(page, 't')
  await press(page, 't')
  await sameAs(page, finished)

  const whole = page.getByRole('slider', { name: 'Strength of the look' })
  await whole.focus()
  await page.keyboard.press('Home')
  // The label that tells what is tapped lies over a corner of the earlier reading.
  await sameAs(page, footage, 2)
  for (let i = 0; i < 50; i++) await page.keyboard.press('ArrowRight')
  await differs(page, footage)
  const half = await restedPicture(page)
  // Half the strength lies half way between footage and finished picture, pixel by pixel.
  const middle = footage.map((v, i) => (v + finished[i]!) / 2)
  expect(differenceOf(half, middle)).toBeLessThan(1.2)
})

test('a bath says that it changes nothing, and why', async ({ page }) => {
  // Bunting in colours that no dyes reach: there even the plain print does something.
  await benchOfCopy(page, 'Regatta bunting')
  const note = (name: string) => tile(page, name).locator('.note')
  await expect(note('Colour print')).toHaveCount(0)
  await press(page, 'd')
  await expect(tiles(page).nth(1).locator('.note')).toHaveText(/makes the same picture that is there/)
  await page.getByRole('button', { name: /^Blend mode/ }).click()
  await page.getByRole('button', { name: /swap/ }).click()
  await expect(tiles(page).nth(1).locator('.note')).toHaveText(/lies under an opaque picture/)
  const strength = page.getByRole('slider', { name: 'Strength of the bath' })
  await strength.focus()
  await page.keyboard.press('Home')
  await expect(tiles(page).nth(1).locator('.note')).toHaveText(/its strength is 0 %/)
})

test('lay modes and their order show in the picture and on the tile', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  await add(page, 'black-and-white')
  await page.getByRole('button', { name: /^Blend mode/ }).click()
  const mode = page.locator('label', { hasText: 'Mode' }).locator('.n-select')
  await mode.click()
  await page.getByText('color dodge', { exact: true }).click()
  await expect(tile(page, 'Black and white').locator('.how')).toHaveText('color dodge')
  const over = await restedPicture(page)
  await page.getByRole('button', { name: /swap/ }).click()
  await expect(tile(page, 'Black and white').locator('.how')).toHaveText('color dodge, under')
  await differs(page, over, 1)
  const takes = page.locator('label', { hasText: 'Takes' }).locator('.n-select')
  const under = await restedPicture(page)
  await takes.click()
  await page.getByText('the line so far').click()
  await expect(tile(page, 'Black and white').locator('.how')).toHaveText(/of the line/)
  await differs(page, under, 0.3)
})

test('tiles are dragged to another place', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  await add(page, 'aged-print')
  await expect(tiles(page).nth(1)).toContainText('Aged print')
  const from = (await tiles(page).nth(1).locator('.tray').boundingBox())!
  const to = (await tiles(page).nth(0).locator('.tray').boundingBox())!
  await page.mouse.move(from.x + from.width / 2, from.y + 30)
  await page.mouse.down()
  for (let i = 1; i <= 12; i++)
    await page.mouse.move(from.x + from.width / 2 + ((to.x - from.x - 30) * i) / 12, to.y + 30)
  await page.mouse.up()
  await expect(tiles(page).nth(0)).toContainText('Aged print')
  await saved(page)
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(tiles(page).nth(0)).toContainText('Colour print')
})

test('baths are copied from one production and pasted in another', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  await add(page, 'aged-print')
  await tile(page, 'Colour print')
    .locator('.tray')
    .click({ modifiers: ['Control'] })
  await expect(page.locator('.bath.marked, .bath.chosen')).toHaveCount(2)
  await press(page, 'Control+c')
  await benchOfCopy(page, 'Night lantern')
  const before = await readPicture(page)
  await press(page, 'Control+v')
  await expect(tiles(page)).toHaveCount(3)
  await expect(tile(page, 'Aged print')).toHaveCount(1)
  await saved(page)
  await press(page, 'Control+z')
  await expect(tiles(page)).toHaveCount(1)
  await sameAs(page, before)
})
