import { expect, test, type Page } from '@playwright/test'
import {
  add,
  benchOfCopy,
  canvas,
  differenceOf,
  differs,
  press,
  readPicture,
  restedPicture,
  sameAs,
  saved,
} from './helpers'

const compareWith = async (page: Page, label: string): Promise<void> => {
  await page.locator('.against').click()
  await page.locator('.n-base-select-option', { hasText: label }).click()
}
/** As a reading, but by a screenshot. */
async function onScreen(page: Page): Promise<number[]> {
  const png = await canvas(page).screenshot()
  return page.evaluate(async (base64) => {
    const bytes = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
    const bitmap = await createImageBitmap(new Blob([bytes], { type: 'image/png' }))
    const small = new OffscreenCanvas(64, 36)
    const pen = small.getContext('2d')!
    pen.drawImage(bitmap, 0, 0, 64, 36)
    return [...pen.getImageData(0, 0, 64, 36).data]
  }, png.toString('base64'))
}
/** The left or right half of a reading (64 x 36). */
const half = (picture: readonly number[], side: 'left' | 'right'): number[] =>
  picture.filter((_, i) => (i >> 2) % 64 < 32 === (side === 'left'))
const speed = (page: Page) => page.locator('[data-test=speed]')

test('the footage is shown as long as the key is held', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  const footageLike = await restedPicture(page)
  await add(page, 'sepia')
  await differs(page, footageLike, 8)
  const treated = await restedPicture(page)
  await page.keyboard.down('f')
  await sameAs(page, footageLike, 4)
  await page.keyboard.up('f')
  await sameAs(page, treated)
  // What all these tests draw from the canvas is what stands on the screen.
  expect(differenceOf(await onScreen(page), treated)).toBeLessThan(2)
})

test('wipes, pairs, and what they are held against', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await press(page, '[')
  await press(page, '[')
  const footage = await restedPicture(page)
  await press(page, ']')
  await add(page, 'sepia')
  await saved(page)
  const treated = await restedPicture(page)

  await test.step('an upright wipe shows the footage at the left of its edge, which is dragged', async () => {
    await press(page, 'w')
    await expect
      .poll(async () => differenceOf(half(await readPicture(page), 'left'), half(footage, 'left')))
      .toBeLessThan(1)
    expect(differenceOf(half(await readPicture(page), 'right'), half(treated, 'right'))).toBeLessThan(1)
    const box = (await canvas(page).boundingBox())!
    await page.mouse.move(box.x + box.width / 2, box.y + 50)
    await page.mouse.down()
    await page.mouse.move(box.x + 1, box.y + 60, { steps: 5 })
    await page.mouse.up()
    await sameAs(page, treated, 1.2)
    const edge = page.getByRole('slider', { name: 'Edge of the wipe' })
    await edge.focus()
    for (let i = 0; i < 60; i++) await page.keyboard.press('ArrowRight')
    await expect(edge).toHaveAttribute('aria-valuenow', '100')
    await expect.poll(async () => differenceOf(await readPicture(page), footage)).toBeLessThan(2)
  })

  await test.step('a level wipe, another trial, a reference picture, another shot', async () => {
    await page.getByRole('button', { name: 'level edge' }).click()
    await compareWith(page, 'trial B')
    await differs(page, footage)
    await page.getByRole('button', { name: 'side by side' }).click()
    await expect
      .poll(async () => (await canvas(page).boundingBox())!.width / (await canvas(page).boundingBox())!.height)
      .toBeGreaterThan(3)
    const withTrial = await restedPicture(page)
    await page.locator('.against').click()
    const chooser = page.waitForEvent('filechooser')
    await page.locator('.n-base-select-option', { hasText: 'reference picture' }).click()
    await (await chooser).setFiles('docs/baths/instant.png')
    await differs(page, withTrial, 3)
    const withReference = await restedPicture(page)
    await compareWith(page, 'shot Dawn fog')
    await differs(page, withReference, 3)
    await press(page, 's')
    await sameAs(page, treated)
  })
})

test('charts replace the shot, or its right half', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  const shot = await restedPicture(page)
  const seen: number[][] = []
  for (const chart of ['ramp', 'wedge', 'patches']) {
    await page.getByRole('button', { name: chart, exact: true }).click()
    await differs(page, shot, 5)
    seen.push(await restedPicture(page))
  }
  expect(differenceOf(seen[0]!, seen[2]!)).toBeGreaterThan(5)
  await page.getByRole('button', { name: 'beside the shot' }).click()
  await differs(page, seen[2]!, 5)
  const both = await restedPicture(page)
  expect(differenceOf(half(both, 'left'), half(shot, 'left'))).toBeLessThan(1)
  expect(differenceOf(half(both, 'right'), half(shot, 'right'))).toBeGreaterThan(5)
  await page.getByRole('button', { name: 'shot', exact: true }).click()
  await sameAs(page, shot)
})

test('plays a part in a loop at the clip’s rate, stops, steps frame by frame', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  const timecode = page.locator('[data-test=time]')
  await expect(timecode).toHaveText('00:00:00:20')
  await press(page, 'ArrowRight')
  await expect(timecode).toHaveText('00:00:00:21')
  await press(page, 'ArrowLeft')
  await press(page, 'i')
  for (let i = 0; i < 8; i++) await press(page, 'ArrowRight')
  await press(page, 'o')
  await press(page, ' ')
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  await expect(speed(page)).toHaveText(/^\d+\/24 fps$/)
  const frames = new Set<string>()
  for (let i = 0; i < 25; i++) {
    frames.add(await timecode.innerText())
    await page.waitForTimeout(60)
  }
  // Looping between the marks: frames 20 to 28 only, and it goes on.
  for (const f of frames) {
    const frame = 24 * Number(f.slice(6, 8)) + Number(f.slice(9))
    expect(frame).toBeGreaterThanOrEqual(20)
    expect(frame).toBeLessThanOrEqual(28)
  }
  expect(frames.size).toBeGreaterThan(2)
  // What is changed shows while it plays.
  const before = await readPicture(page)
  await add(page, 'iron-blue')
  await differs(page, before, 8)
  await press(page, ' ')
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible()
  await expect(speed(page)).toHaveText(/ms$/)

  await press(page, 'c')
  await press(page, ' ')
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible()
  await expect(timecode).toHaveText('00:00:01:04')
  await press(page, 'e')
  await expect(page.getByRole('button', { name: 'entire shot' })).toHaveAttribute('aria-pressed', 'true')
})

test('zooms to pixels, is moved about, fills the screen, changes its surround', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await press(page, 'z')
  await expect.poll(async () => (await canvas(page).boundingBox())!.width).toBe(1280)
  await press(page, 'z')
  await expect.poll(async () => (await canvas(page).boundingBox())!.width).toBe(2560)
  const before = (await canvas(page).boundingBox())!
  await page.mouse.move(500, 300)
  await page.mouse.down()
  await page.mouse.move(380, 240, { steps: 4 })
  await page.mouse.up()
  const after = (await canvas(page).boundingBox())!
  expect([before.x - after.x, before.y - after.y]).toEqual([120, 60])
  // Moving the picture about is not measuring it.
  await expect(page.locator('.area')).toHaveCount(0)
  await press(page, 'z')
  await press(page, 'z')
  await expect.poll(async () => (await canvas(page).boundingBox())!.width).toBeLessThan(860)

  const stage = page.locator('.stage')
  await expect(stage).toHaveCSS('background-color', 'rgb(58, 58, 58)')
  await page.getByRole('button', { name: /^Surround/ }).click()
  await expect(stage).toHaveCSS('background-color', 'rgb(142, 142, 142)')
  await press(page, 'u')
  await expect(page.getByRole('region', { name: 'Line' })).toBeHidden()
  await expect(page.locator('aside.right')).toBeHidden()
  await expect.poll(async () => (await canvas(page).boundingBox())!.width).toBeGreaterThan(1200)
  await press(page, 'u')
  await expect(page.getByRole('region', { name: 'Line' })).toBeVisible()
})
