import { expect, test, type Page } from '@playwright/test'
import { add, benchOfCopy, canvas, differs, pictureReady, press, restedPicture, sameAs, saved, tile } from './helpers'

/** Mean of the shown picture (64 x 36) over columns and rows, one channel. */
const part = (picture: readonly number[], [x0, x1]: [number, number], [y0, y1]: [number, number], k = 0): number => {
  let [sum, n] = [0, 0]
  for (let y = y0; y < y1; y++) for (let x = x0; x < x1; x++, n++) sum += picture[4 * (64 * y + x) + k]!
  return sum / n
}
const left = (p: readonly number[], k = 0): number => part(p, [2, 14], [4, 32], k)
const right = (p: readonly number[], k = 0): number => part(p, [50, 62], [4, 32], k)

async function openMask(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Mask', exact: true }).click()
}
const mask = (page: Page) => page.locator('.mask .add')
const handle = (page: Page, id: string) => page.locator(`[data-handle="${id}"]`)

async function dragTo(page: Page, id: string, u: number, v: number): Promise<void> {
  const box = (await canvas(page).boundingBox())!
  const from = (await handle(page, id).locator('.reach').boundingBox())!
  await page.mouse.move(from.x + from.width / 2, from.y + from.height / 2)
  await page.mouse.down()
  await page.mouse.move(box.x + u * box.width, box.y + v * box.height, { steps: 5 })
  await page.mouse.up()
}

test('a shape limits a bath; it is moved, sized and turned on the picture, by pointer and by keys', async ({
  page,
}) => {
  await benchOfCopy(page, 'Dawn fog')
  await add(page, 'litho-warm')
  const treated = await restedPicture(page)
  await press(page, 'x')
  const plain = await restedPicture(page)
  await press(page, 'x')
  await sameAs(page, treated)

  await openMask(page)
  await mask(page).getByRole('button', { name: 'rectangle' }).click()
  await dragTo(page, 'move', 0, 0.5)
  await dragTo(page, 'width', 0.4, 0.5)
  await dragTo(page, 'height', 0, 1.4)
  await expect(page.getByRole('textbox', { name: 'Centre across, number' })).toHaveValue('0')
  await expect(page.getByRole('textbox', { name: 'Width, number' })).toHaveValue('80')
  // Left of 40 % it is the treated picture, right of it the untreated one. The handles themselves are left out.
  await openHidden(page)
  const half = await restedPicture(page)
  expect(Math.abs(left(half) - left(treated))).toBeLessThan(4)
  expect(Math.abs(right(half) - right(plain))).toBeLessThan(4)
  expect(Math.abs(left(half) - left(plain))).toBeGreaterThan(8)

  await openMask(page)
  await handle(page, 'move').focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('textbox', { name: 'Centre across, number' })).toHaveValue('0.5')
  await page.keyboard.press('Shift+ArrowLeft')
  await expect(page.getByRole('textbox', { name: 'Centre across, number' })).toHaveValue('0.45')
  await handle(page, 'turn').focus()
  await page.keyboard.press('ArrowRight')
  await expect(page.getByRole('textbox', { name: 'Turned, number' })).not.toHaveValue('0')
  await saved(page)
  await page.reload()
  await pictureReady(page)
  await openMask(page)
  await expect(page.getByRole('textbox', { name: 'Centre across, number' })).toHaveValue('0.45')

  // The opposite mask treats the other half.
  await page.getByRole('switch', { name: 'Invert part 1' }).click()
  await openHidden(page)
  const other = await restedPicture(page)
  expect(Math.abs(left(other) - left(plain))).toBeLessThan(6)
})

/** Closes the mask's settings, and with them the handles on the picture. */
async function openHidden(page: Page): Promise<void> {
  await page.getByRole('button', { name: 'Main', exact: true }).click()
  await expect(page.locator('.handles')).toHaveCount(0)
}

test('the mask is seen in black and white, and small on the tile; an empty one is said to be empty', async ({
  page,
}) => {
  await benchOfCopy(page, 'Dawn fog')
  await expect(page.locator('.tray canvas')).toHaveCount(0)
  await openMask(page)
  await mask(page).getByRole('button', { name: 'gradient' }).click()
  await dragTo(page, 'from', 0.3, 0.5)
  await dragTo(page, 'to', 0.7, 0.5)
  await expect(tile(page, 'Colour print').getByRole('img', { name: 'Its mask' })).toBeVisible()
  const picture = await restedPicture(page)
  await press(page, 'b')
  await expect(page.getByRole('button', { name: 'see mask' })).toHaveAttribute('aria-pressed', 'true')
  await differs(page, picture, 20)
  await page.getByRole('button', { name: 'Main', exact: true }).click()
  const seen = await restedPicture(page)
  for (const k of [0, 1, 2]) {
    expect(left(seen, k)).toBeGreaterThan(253)
    expect(right(seen, k)).toBeLessThan(2)
    expect(part(seen, [31, 33], [4, 32], k)).toBeCloseTo(127, -1)
  }
  await press(page, 'b')
  await differs(page, seen, 10)
  // No colour is picked: nothing is selected.
  await openMask(page)
  await page.getByRole('button', { name: 'remove the mask' }).click()
  await mask(page).getByRole('button', { name: 'colours' }).click()
  await expect(tile(page, 'Colour print').locator('.note')).toHaveText(/its mask is empty on this frame/)
})

test('colours are picked from the picture; tones and shapes are joined to them', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  await openMask(page)
  await mask(page).getByRole('button', { name: 'colours' }).click()
  const box = (await canvas(page).boundingBox())!
  // The red pennant in front; picking leaves no probe behind.
  await page.mouse.click(box.x + 0.34 * box.width, box.y + 0.55 * box.height)
  await expect(page.getByRole('button', { name: 'Remove picked colour 1' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Probes' })).toHaveCount(0)
  const picture = await restedPicture(page)
  await press(page, 'b')
  await differs(page, picture, 20)
  const at = (p: readonly number[], u: number, v: number): number =>
    p[4 * (64 * Math.floor(36 * v) + Math.floor(64 * u))]!
  const red = await restedPicture(page)
  expect(at(red, 0.34, 0.55)).toBeGreaterThan(200)
  expect(at(red, 0.68, 0.55)).toBeLessThan(30)
  expect(at(red, 0.1, 0.1)).toBeLessThan(30)

  await mask(page).getByRole('button', { name: 'tones' }).click()
  await differs(page, red, 10)
  const both = await restedPicture(page)
  expect(at(both, 0.6, 0.1)).toBeGreaterThan(200)
  await page.locator('.parts .n-select').click()
  await page.getByText('taken away', { exact: true }).last().click()
  await differs(page, both, 10)
  await page.getByRole('button', { name: 'Remove part 2' }).click()
  await sameAs(page, red)
  await press(page, 'Control+z')
  await expect(page.locator('.parts li')).toHaveCount(2)
})

test('an outline gains and loses points, and hides while comparing and playing', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await openMask(page)
  await mask(page).getByRole('button', { name: 'outline' }).click()
  await expect(page.locator('.handles g.point')).toHaveCount(4)
  await handle(page, 'i0').focus()
  await page.keyboard.press('Enter')
  await expect(page.locator('.handles g.point')).toHaveCount(5)
  await dragTo(page, 'i3', 0.2, 0.9)
  await expect(page.locator('.handles g.point')).toHaveCount(6)
  await expect(handle(page, 'p4')).toBeFocused()
  await page.keyboard.press('Delete')
  await expect(page.locator('.handles g.point')).toHaveCount(5)
  await press(page, 'w')
  await expect(page.locator('.handles')).toHaveCount(0)
  await press(page, 'w')
  await expect(page.locator('.handles')).toHaveCount(1)
  await press(page, ' ')
  await expect(page.locator('.handles')).toHaveCount(0)
  await press(page, ' ')
  await expect(page.locator('.handles')).toHaveCount(1)
})

test('readings are taken under the mask, and a mask is used again turned round', async ({ page }) => {
  await benchOfCopy(page, 'Night lantern')
  await add(page, 'bleach-bypass')
  await openMask(page)
  await mask(page).getByRole('button', { name: 'tones' }).click()
  const scope = async (): Promise<string> => (await page.locator('.scope canvas').screenshot()).toString('base64')
  await page.waitForTimeout(800)
  const whole = await scope()
  await page.getByRole('button', { name: 'only under the mask' }).click()
  await expect.poll(scope).not.toBe(whole)
  await page.getByRole('button', { name: 'only under the mask' }).click()
  await expect.poll(scope).toBe(whole)

  await add(page, 'black-and-white')
  await openMask(page)
  await page.getByRole('button', { name: 'mask of another bath' }).click()
  await page.getByText(/^the opposite of/).click()
  await expect(page.getByRole('switch', { name: 'Invert', exact: true })).toHaveAttribute('aria-checked', 'true')
  const picture = await restedPicture(page)
  await press(page, 'b')
  await differs(page, picture, 20)
  const opposite = await restedPicture(page)
  await press(page, '1')
  await differs(page, opposite, 20)
  const first = await restedPicture(page)
  for (let i = 0; i < first.length; i += 4) expect(Math.abs(first[i]! + opposite[i]! - 255)).toBeLessThan(8)
})

test('a mask is kept under a name, taken by another bath and listed on the shelf', async ({ page }) => {
  const name = `Gate arch ${Date.now()}`
  await benchOfCopy(page, 'Lock gate')
  await add(page, 'sepia')
  await openMask(page)
  await mask(page).getByRole('button', { name: 'ellipse' }).click()
  await mask(page).getByRole('button', { name: 'tones' }).click()
  await page.getByRole('button', { name: 'keep the mask' }).click()
  const sheet = page.getByRole('dialog', { name: 'Keep this mask' })
  await sheet.getByRole('textbox', { name: 'Name of the mask' }).fill(name)
  await page.keyboard.press('Enter')
  await expect(sheet).toBeHidden()

  await add(page, 'iron-blue')
  const unmasked = await restedPicture(page)
  await openMask(page)
  await mask(page).getByRole('button', { name: 'kept mask' }).click()
  await page.locator('.n-dropdown-option').getByText(name, { exact: true }).click()
  await expect(page.getByRole('list', { name: 'Parts of the mask' }).getByRole('listitem')).toHaveCount(2)
  await differs(page, unmasked, 3)
  await saved(page)

  await page.goto('/shelf')
  const kept = page.getByRole('region', { name: 'Masks' }).getByRole('listitem').filter({ hasText: name })
  await expect(kept).toContainText('ellipse, tone')
  await kept.getByRole('button', { name: 'archive' }).click()
  await expect(kept.getByRole('button', { name: 'restore' })).toBeVisible()
})
