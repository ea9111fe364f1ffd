import { expect, test, type Page } from '@playwright/test'
import {
  add,
  benchOfCopy,
  canvas,
  differenceOf,
  differs,
  pictureReady,
  press,
  restedPicture,
  sameAs,
  saved,
  setNumber,
  tile,
} from './helpers'

/** Mean of the shown picture (64 x 36) around a place, u and v 0..1, over some pixels either way; red, green, blue. */
function around(picture: readonly number[], u: number, v: number, reach = 1): [number, number, number] {
  const sum = [0, 0, 0]
  const [cx, cy] = [Math.floor(64 * u), Math.floor(36 * v)]
  for (let y = cy - reach; y <= cy + reach; y++)
    for (let x = cx - reach; x <= cx + reach; x++) for (let k = 0; k < 3; k++) sum[k]! += picture[4 * (64 * y + x) + k]!
  return sum.map((v) => v / (2 * reach + 1) ** 2) as [number, number, number]
}
/** How far a picture is from another around a place. */
const off = (a: readonly number[], b: readonly number[], u: number, v: number, reach = 1): number => {
  const [p, q] = [around(a, u, v, reach), around(b, u, v, reach)]
  return p.reduce((sum, c, k) => sum + Math.abs(c - q[k]!), 0) / 3
}
const mask = (page: Page) => page.locator('.mask .add')
const part = async (page: Page, type: string): Promise<void> =>
  mask(page).getByRole('button', { name: type, exact: true }).click()
const tab = async (page: Page, name: string): Promise<void> =>
  page.getByRole('button', { name, exact: true }).first().click()
const frameTo = async (page: Page, key: 'Home' | 'End'): Promise<void> => {
  await page.getByRole('slider', { name: 'Frame', exact: true }).focus()
  await page.keyboard.press(key)
}
async function join(page: Page, index: number, how: string): Promise<void> {
  await page.locator('.parts li').nth(index).locator('.n-select').click()
  await page.locator('.n-base-select-option').getByText(how, { exact: true }).last().click()
}

test('the lantern’s surroundings are warmed and the rest is cooled by one mask and its opposite', async ({ page }) => {
  await benchOfCopy(page, 'Night lantern')
  const plain = await restedPicture(page)
  await add(page, 'timing')
  await setNumber(page, 'Light, red', '8')
  await setNumber(page, 'Light, blue', '-8')
  await tab(page, 'Mask')
  await part(page, 'ellipse')
  await setNumber(page, 'Centre across', '18')
  await setNumber(page, 'Width', '40')
  await setNumber(page, 'Height', '90')
  await add(page, 'timing')
  await tab(page, 'Main')
  await setNumber(page, 'Light, red', '-8')
  await setNumber(page, 'Light, blue', '8')
  await tab(page, 'Mask')
  await page.getByRole('button', { name: 'mask of another bath' }).click()
  await page.getByText(/^the opposite of .*, one with it$/).click()
  await expect(page.getByText(/One with others of this line, as their opposite/)).toBeVisible()
  await tab(page, 'Main')
  const warmth = (p: readonly number[], u: number, v: number): number => around(p, u, v)[0] - around(p, u, v)[2]
  const treated = await restedPicture(page)
  // The wall beside the window, and the lamp at the far right.
  expect(warmth(treated, 0.2, 0.3) - warmth(plain, 0.2, 0.3)).toBeGreaterThan(10)
  expect(warmth(treated, 0.86, 0.45) - warmth(plain, 0.86, 0.45)).toBeLessThan(-1)
  // Moved in one, it is moved in both.
  await tab(page, 'Mask')
  await setNumber(page, 'Centre across', '90')
  await tab(page, 'Main')
  await differs(page, treated, 2)
  const moved = await restedPicture(page)
  expect(warmth(moved, 0.2, 0.3) - warmth(plain, 0.2, 0.3)).toBeLessThan(-5)
  expect(warmth(moved, 0.86, 0.45)).toBeGreaterThan(warmth(treated, 0.86, 0.45))
  await press(page, 'Control+z')
  await sameAs(page, treated)
})

test('faces are held out of a split tone: skin within a followed ellipse, without the mouth', async ({ page }) => {
  test.slow()
  await benchOfCopy(page, 'Keeper and apprentice')
  const plain = await restedPicture(page)
  await add(page, 'split-by-hand')
  await setNumber(page, 'Shadows, amount', '80')
  await differs(page, plain, 0.5)
  await tab(page, 'Mask')
  await part(page, 'skin')
  await part(page, 'tones')
  await setNumber(page, 'From', '10')
  await join(page, 1, 'only within')
  await part(page, 'ellipse')
  await setNumber(page, 'Centre across', '69')
  await setNumber(page, 'Centre down', '50')
  await setNumber(page, 'Width', '26')
  await setNumber(page, 'Height', '36')
  await join(page, 2, 'only within')
  await page.getByRole('button', { name: 'both ways' }).click()
  await expect(page.getByText(/^tracked in frames 0 to 47/)).toBeVisible()
  await expect(page.getByRole('region', { name: /Usable share of the ellipse/ })).toBeVisible()
  // The mouth rides on the face.
  await part(page, 'ellipse')
  await setNumber(page, 'Centre across', '69')
  await setNumber(page, 'Centre down', '62')
  await setNumber(page, 'Width', '6')
  await setNumber(page, 'Height', '3')
  await join(page, 3, 'taken away')
  await page.locator('.track .n-select').click()
  await page.locator('.n-base-select-option').getByText('the track of ellipse 1').click()
  await page.getByRole('switch', { name: 'Invert', exact: true }).click()
  await press(page, 'b')
  for (const key of ['Home', 'End'] as const) {
    await frameTo(page, key)
    const seen = await restedPicture(page)
    // White where the bath works: everywhere but in the face.
    expect(around(seen, 0.1, 0.2)[0]).toBeGreaterThan(250)
    expect(Math.min(...[0.66, 0.69, 0.72].map((u) => around(seen, u, 0.5, 0)[0]))).toBeLessThan(60)
  }
  await saved(page)
  await page.reload()
  await pictureReady(page)
  await tile(page, 'Split').click()
  await tab(page, 'Mask')
  await page.locator('.parts .name').nth(3).click()
  await expect(page.getByText(/^tracked in frames 0 to 47/)).toBeVisible()
})

test('a sky is darkened by a gradient, but not what reaches into it', async ({ page }) => {
  await benchOfCopy(page, 'Lock gate')
  const plain = await restedPicture(page)
  await add(page, 'timing')
  await setNumber(page, 'Exposure', '-1.5')
  await tab(page, 'Mask')
  await part(page, 'gradient')
  await setNumber(page, 'From, down', '25')
  await setNumber(page, 'To, down', '60')
  await tab(page, 'Main')
  await differs(page, plain, 3)
  const all = await restedPicture(page)
  await tab(page, 'Mask')
  await part(page, 'tones')
  await setNumber(page, 'From', '0')
  await setNumber(page, 'To', '55')
  await join(page, 1, 'taken away')
  await setNumber(page, 'Soften', '2')
  await tab(page, 'Main')
  await differs(page, all, 0.5)
  const held = await restedPicture(page)
  // Sky between the crowns, and the dark side of a crown.
  expect(off(all, plain, 0.5, 0.04, 0)).toBeGreaterThan(25)
  expect(off(held, plain, 0.5, 0.04, 0)).toBeGreaterThan(25)
  const crown = (p: readonly number[]): number => off(p, plain, 0.28, 0.3)
  expect(crown(all)).toBeGreaterThan(10)
  expect(crown(held)).toBeLessThan(0.4 * crown(all))
})

test('blown lights have their detail back from the camera’s picture', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  // Too little light on the print leaves its lights bare.
  for (const light of ['red', 'green', 'blue']) await setNumber(page, `Printer light, ${light}`, '5')
  const blown = await restedPicture(page)
  // A straight view of the camera's light, laid over the line where that is nearly white.
  await add(page, 'overlay')
  await page.getByRole('button', { name: /^Blend mode/ }).click()
  await page.locator('.lay .n-select').last().click()
  await page.locator('.n-base-select-option').getByText('the camera’s light').click()
  await page.locator('.lay .n-select').first().click()
  // The list begins where its choice stands.
  await page
    .locator('.n-base-select-menu .v-vl')
    .last()
    .evaluate((list) => (list.scrollTop = 0))
  await page.locator('.n-base-select-option').getByText('normal', { exact: true }).click()
  await tab(page, 'Mask')
  await part(page, 'tones')
  await setNumber(page, 'From', '92')
  await page.locator('[data-setting="reads"] .n-select').click()
  await page.locator('.n-base-select-option').getByText('the line so far').click()
  await tab(page, 'Main')
  await differs(page, blown, 1)
  const back = await restedPicture(page)
  const light = (p: readonly number[], i: number): number => (p[i]! + p[i + 1]! + p[i + 2]!) / 3
  const [white, dark]: [number[], number[]] = [[], []]
  for (let i = 0; i < blown.length; i += 4) {
    if (light(blown, i) > 248) white.push(light(back, i) - light(blown, i))
    if (light(blown, i) < 110) dark.push(Math.abs(light(back, i) - light(blown, i)))
  }
  const mean = (list: readonly number[]): number => list.reduce((a, b) => a + b, 0) / list.length
  expect(white.length).toBeGreaterThan(50)
  expect(mean(white)).toBeLessThan(-10)
  expect(mean(dark)).toBeLessThan(2)
})

test('a print fades to brown over its last seconds; its keys are dragged, typed, and kept', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  await frameTo(page, 'Home')
  const plain = await restedPicture(page)
  await frameTo(page, 'End')
  const plainEnd = await restedPicture(page)
  await add(page, 'sepia')
  const brown = await restedPicture(page)
  expect(differenceOf(brown, plainEnd)).toBeGreaterThan(3)
  const key = page.getByRole('button', { name: 'Key of Strength of the bath in this frame' })
  await key.click()
  const lane = page.getByRole('region', { name: 'What changes over the shot' })
  await expect(lane.getByRole('button', { name: /^Key 1 of Strength of the bath: 100 % in frame 47$/ })).toBeVisible()
  await frameTo(page, 'Home')
  const strength = page.getByRole('slider', { name: 'Strength of the bath' })
  await strength.focus()
  await page.keyboard.press('Home')
  await expect(lane.getByRole('button', { name: /^Key 1 of Strength of the bath: 0 % in frame 0$/ })).toBeVisible()
  await sameAs(page, plain)
  await frameTo(page, 'End')
  await sameAs(page, brown)
  // Counted from the end, whatever shot it is put on.
  await lane.locator('.what .n-select').click()
  await page.locator('.n-base-select-option').getByText('frames from the end').click()
  // The first key goes to the middle by its timecode: until there nothing is seen of it.
  await lane.getByRole('button', { name: /^Key 1 of/ }).click()
  await lane.getByRole('textbox', { name: 'Time of the key' }).fill('00:00:01:00')
  await page.keyboard.press('Enter')
  const first = lane.getByRole('button', { name: /^Key 1 of Strength of the bath: 0 % in frame 24$/ })
  await expect(first).toBeVisible()
  await first.focus()
  await page.keyboard.press('ArrowLeft')
  await expect(lane.getByRole('button', { name: /in frame 23$/ })).toBeVisible()
  const drag = (await lane.getByRole('button', { name: /^Key 1 of/ }).boundingBox())!
  const strip = (await lane.locator('.strip').boundingBox())!
  await page.mouse.move(drag.x + drag.width / 2, drag.y + drag.height / 2)
  await page.mouse.down()
  await page.mouse.move(strip.x + (10 / 47) * strip.width, drag.y + 12, { steps: 4 })
  await page.mouse.up()
  await expect(lane.getByRole('button', { name: /^Key 1 of .* in frame 10$/ })).toBeVisible()
  await frameTo(page, 'Home')
  await sameAs(page, plain)
  await saved(page)
  await page.reload()
  await pictureReady(page)
  await tile(page, 'Black and white').click()
  await expect(lane.getByRole('button', { name: /^Key 1 of .* in frame 10$/ })).toBeVisible()
  // The way back takes the dragged, the moved and the typed time one by one.
  await press(page, 'Control+z')
  await expect(lane.getByRole('button', { name: /^Key 1 of .* in frame 23$/ })).toBeVisible()
  await lane
    .getByRole('button', { name: 'no keys' })
    .or(lane.getByRole('button', { name: 'remove' }))
    .first()
    .click()
  await expect(canvas(page)).toBeVisible()
})
