import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import {
  add,
  benchOfCopy,
  boardEntry,
  canvas,
  differs,
  press,
  readPicture,
  restedPicture,
  sameAs,
  saturation,
  saved,
  tile,
  tiles,
} from './helpers'

const board = (page: Page) => page.getByRole('dialog', { name: 'Add to the line' })
/** How many greys a tile of the board shows. */
const shades = (page: Page, entry: string) =>
  boardEntry(page, entry)
    .locator('canvas')
    .evaluate((c) => {
      const { width, height } = c as HTMLCanvasElement
      return new Set((c as HTMLCanvasElement).getContext('2d')!.getImageData(0, 0, width, height).data).size
    })

test('adding is a board of live pictures beside the picture, walked by arrows', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  const before = await restedPicture(page)
  await press(page, 'a')
  await expect.poll(() => shades(page, 'vignette')).toBe(1)
  await expect.poll(() => shades(page, 'balance')).toBeGreaterThan(60)
  // What is out of sight is drawn when it comes into view.
  await boardEntry(page, 'vignette').scrollIntoViewIfNeeded()
  await expect.poll(() => shades(page, 'vignette')).toBeGreaterThan(60)
  await board(page).getByRole('textbox', { name: 'Search' }).focus()
  await page.keyboard.press('ArrowDown')
  const focused = () => page.evaluate(() => (document.activeElement as HTMLElement).dataset['entry'])
  expect(await focused()).toBe('balance')
  await page.keyboard.press('ArrowRight')
  expect(await focused()).toBe('printer-lights')
  // The big picture shows what is pointed at, with the settings of an example.
  await expect(page.locator('.tapped')).toHaveText('preview')
  await differs(page, before)
  await expect(board(page)).toContainText('it is added neutral')
  await page.keyboard.press('Enter')
  await expect(board(page)).toBeHidden()
  await expect(tile(page, 'Printer lights')).toHaveClass(/chosen/)
  await sameAs(page, before, 1.2)
  await press(page, 'a')
  await page.keyboard.press('Escape')
  await expect(board(page)).toBeHidden()
  await expect(tiles(page)).toHaveCount(2)
})

test('a curve gets points by a click, by keys and from the picture, and undo takes them back', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  await add(page, 'curves')
  const before = await restedPicture(page)
  const field = page.getByRole('group', { name: 'curve All' })
  const points = field.getByRole('slider')
  await expect(points).toHaveCount(2)
  const box = (await field.boundingBox())!
  await page.mouse.click(box.x + 0.5 * box.width, box.y + 0.2 * box.height)
  await expect(points).toHaveCount(3)
  await expect(points.nth(1)).toHaveAttribute('aria-valuetext', /in 50 %, out 80 %/)
  await differs(page, before, 4)
  await points.nth(1).focus()
  for (let i = 0; i < 30; i++) await page.keyboard.press('ArrowDown')
  await expect(points.nth(1)).toHaveAttribute('aria-valuetext', /out 50 %/)
  await sameAs(page, before, 1.5)
  await page.keyboard.press('Delete')
  await expect(points).toHaveCount(2)
  await page.getByRole('button', { name: 'set a point at a tone' }).click()
  await canvas(page).click({ position: { x: 300, y: 60 } })
  await expect(points).toHaveCount(3)
  await expect(page.getByText('click on the picture …')).toBeVisible()
  await press(page, 'Escape')
  await page.getByRole('button', { name: 'make straight' }).click()
  await expect(points).toHaveCount(2)
  await press(page, 'Control+z')
  await expect(points).toHaveCount(3)
})

test('colours are drained by hue, turned by a pad, mixed by a table', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  await add(page, 'hue-response')
  await restedPicture(page)
  const full = await saturation(page)
  const field = page.getByRole('group', { name: 'curve saturation' })
  for (let i = 0; i < 6; i++) {
    await field.getByRole('slider').nth(i).focus()
    for (let k = 0; k < 10; k++) await page.keyboard.press('ArrowDown')
  }
  await expect.poll(() => saturation(page)).toBeLessThan(full * 0.85)
  await add(page, 'mixer')
  const mono = page.locator('[data-setting="output"] .n-select')
  await mono.click()
  await page.locator('.n-base-select-option', { hasText: 'One, black and white' }).click()
  await expect.poll(() => saturation(page)).toBeLessThan(2)
  await expect(page.getByRole('row', { name: /grey/ })).toContainText('100 %')
  await add(page, 'split-by-hand')
  await expect.poll(() => saturation(page)).toBeGreaterThan(8)
})

test('the balance bath takes a grey, a card and levels from the picture', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await add(page, 'balance')
  const before = await restedPicture(page)
  const kelvin = page.getByRole('textbox', { name: 'Light of the scene, number' })
  await expect(kelvin).toHaveValue('6504')
  await page.getByRole('button', { name: 'grey here' }).click()
  await canvas(page).click({ position: { x: 60, y: 200 } })
  await expect(kelvin).not.toHaveValue('6504')
  await differs(page, before)
  await page.getByRole('button', { name: 'set a grey card to 18 %' }).click()
  await canvas(page).click({ position: { x: 60, y: 200 } })
  await expect(page.getByText('grey card', { exact: true })).toBeVisible()
  await expect(page.getByRole('textbox', { name: 'Exposure, number' })).not.toHaveValue('0')
  for (const [ask, field] of [
    ['black here', 'Black level'],
    ['white here', 'White level'],
  ] as const) {
    const level = page.getByRole('textbox', { name: `${field}, number` })
    await expect(level).toHaveValue('0')
    await page.getByRole('button', { name: ask }).click()
    await canvas(page).click({ position: { x: 60, y: 200 } })
    await expect(level).not.toHaveValue('0')
    await press(page, 'Control+z')
    await expect(level).toHaveValue('0')
  }
  await page.getByRole('button', { name: 'propose levels' }).click()
  await expect(page.getByRole('status').filter({ hasText: /black .* white .* stops/ })).toBeVisible()
  await expect(page.getByText(/clipped in this frame/)).toContainText('%')
  await page.getByRole('button', { name: 'Leave them' }).click()
  await expect(page.getByRole('textbox', { name: 'White level, number' })).toHaveValue('0')
  await page.getByRole('button', { name: 'propose levels' }).click()
  await page.getByRole('button', { name: 'Take them' }).click()
  await expect(page.getByRole('textbox', { name: 'White level, number' })).not.toHaveValue('0')
})

test('levels are proposed for many shots, each its own, and put on as one step', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  await page.getByRole('button', { name: 'mark all' }).click()
  await page.getByRole('button', { name: 'Propose their levels' }).click()
  const sheet = page.getByRole('dialog', { name: 'Prepare these 4 shots' })
  await expect(sheet.getByText(/^black .* clipped/)).toHaveCount(4)
  await sheet.getByRole('checkbox', { name: 'Night lantern' }).click()
  await sheet.getByRole('button', { name: 'Take them for 3 shots' }).click()
  await expect(sheet).toBeHidden()
  const levels = async () => {
    const whole = (await (await page.request.get(`/api/productions/${production}`)).json()) as {
      shots: { preparation: { kind: string; settings: object }[] }[]
    }
    return whole.shots.flatMap(({ preparation }) => preparation.map((b) => JSON.stringify(b.settings)))
  }
  const put = await levels()
  expect(put).toHaveLength(3)
  expect(new Set(put).size).toBe(3)
  await press(page, 'Control+z')
  await expect.poll(levels).toEqual([])
})

test('a LUT that is no good is told with its line and changes nothing; a good one works', async ({ page }) => {
  await benchOfCopy(page, 'Lock gate')
  await add(page, 'input-lut')
  const before = await restedPicture(page)
  const bring = (name: string, text: string) =>
    page.locator('[data-test=lut]').setInputFiles({ name, mimeType: 'text/plain', buffer: Buffer.from(text) })
  await bring('broken.cube', 'LUT_3D_SIZE 2\n0 0 0\n1 nan 0\n')
  await expect(page.getByRole('alert')).toHaveText(/broken.cube: Line 3.*'1 nan 0' must be three finite numbers/)
  await bring('large.cube', 'LUT_3D_SIZE 300\n')
  await expect(page.getByRole('alert')).toHaveText(/size '300' of a 3D LUT must be a whole number from 2 to 129/)
  await expect(page.getByText('No file yet')).toBeVisible()
  const rows = Array.from({ length: 8 }, (_, i) => [i & 1, (i >> 1) & 1, i >> 2].map((v) => 0.4 * v).join(' '))
  await bring('dark.cube', `LUT_3D_SIZE 2\n${rows.join('\n')}\n`)
  await expect(page.getByText('dark.cube')).toBeVisible()
  await differs(page, before, 8)
  await saved(page)
})

test('a decision list is read and written; one that is no good is told and changes nothing', async ({ page }) => {
  await benchOfCopy(page, 'Lock gate')
  await add(page, 'cdl')
  const bring = (name: string, text: string) =>
    page.locator('[data-test=cdl]').setInputFiles({ name, mimeType: 'text/xml', buffer: Buffer.from(text) })
  const list = (slope: string): string =>
    `<ColorCorrection id="a"><SOPNode><Slope>${slope}</Slope></SOPNode><SatNode><Saturation>0.5</Saturation></SatNode></ColorCorrection>`
  const slope = page.getByRole('textbox', { name: 'Slope, red, number' })
  await bring('bad.cc', list('1 nan 1'))
  await expect(page.getByRole('alert')).toHaveText(/bad.cc: Slope is '1 nan 1'; it must be three finite numbers/)
  await expect(slope).toHaveValue('1')
  await bring('good.cc', list('1.25 1 1'))
  await expect(slope).toHaveValue('1.25')
  const download = page.waitForEvent('download')
  await page.getByRole('button', { name: 'write as .cc' }).click()
  const path = await (await download).path()
  expect(readFileSync(path, 'utf8')).toContain('<Slope>1.25 1 1</Slope>')
})

test('a strand is filled, opened, set and stepped out of', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await add(page, 'strand')
  const before = await restedPicture(page)
  await page.locator('.strand .add .n-select').nth(1).click()
  await page.keyboard.type('sepia by')
  await page.locator('.n-base-select-option', { hasText: 'Sepia by mixer' }).click()
  await differs(page, before, 3)
  await page.locator('.strand').getByRole('button', { name: 'Channel mixer', exact: true }).click()
  const filled = await readPicture(page)
  await page.getByRole('textbox', { name: 'grey from red' }).fill('-60')
  await page.keyboard.press('Enter')
  await differs(page, filled, 1)
  await expect(tile(page, 'Strand')).toHaveClass(/chosen/)
  await page.getByRole('button', { name: /Back to the strand/ }).click()
  await expect(page.locator('.strand li')).toHaveCount(3)
  await saved(page)
  await page.reload()
  await expect(tile(page, 'Strand')).toBeVisible()
})

test('ten baths fit, panels fold and widen, and stay so', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  for (const kind of [
    'balance',
    'contrast',
    'ranges',
    'saturation',
    'mixer',
    'veil',
    'overlay',
    'split-by-hand',
    'curves',
  ])
    await add(page, kind)
  await expect(tiles(page)).toHaveCount(10)
  const line = page.getByRole('region', { name: 'Line' })
  expect(await line.evaluate((e) => e.scrollWidth - e.clientWidth)).toBeLessThanOrEqual(1)
  // A compact one is whole where it is chosen.
  await tiles(page).nth(1).locator('.tray').click()
  await expect(tiles(page).nth(1)).toHaveClass(/chosen/)
  await expect(tiles(page).nth(1)).not.toHaveClass(/compact/)
  const edge = page.getByRole('separator', { name: 'Width of the panels' })
  const width = async () => (await page.locator('aside.right').last().boundingBox())!.width
  const first = await width()
  await edge.focus()
  await page.keyboard.press('ArrowLeft')
  await expect.poll(width).toBeGreaterThan(first + 10)
  await page.getByRole('button', { name: 'Panels' }).click()
  await expect(page.getByRole('region', { name: 'Settings' })).toBeHidden()
  await page.reload()
  await expect(page.getByRole('region', { name: 'Line' })).toBeVisible()
  await expect(page.getByRole('region', { name: 'Settings' })).toBeHidden()
})

test('baths that work by place say what they do to the frame, and darken, blur and glow', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  const before = await restedPicture(page)
  await add(page, 'vignette')
  await differs(page, before, 3)
  await add(page, 'detail')
  await page.waitForTimeout(1500)
  for (const name of ['Vignette', 'Detail']) await expect(tile(page, name)).not.toContainText('Changes nothing')
  const dark = await restedPicture(page)
  await add(page, 'glow')
  await differs(page, dark, 3)
  await page.getByRole('textbox', { name: 'Edges, number' }).waitFor({ state: 'detached' })
  await tile(page, 'Vignette')
    .getByRole('button', { name: /Vignette, 100/ })
    .click()
  await page.getByRole('textbox', { name: 'Edges, number' }).fill('0')
  await page.keyboard.press('Enter')
  await expect(tile(page, 'Vignette')).toContainText('Changes nothing here: its edges are at 0 %')
})

test('a colour is typed or taken from the picture; what is none changes nothing and is told', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  const before = await restedPicture(page)
  await add(page, 'veil')
  const hex = page.getByRole('textbox', { name: 'Colour, #rrggbb' })
  await hex.fill('#1030c0')
  await hex.press('Enter')
  await expect(page.getByLabel('Colour', { exact: true })).toHaveValue('#1030c0')
  await differs(page, before, 8)
  await hex.fill('orange')
  await hex.press('Enter')
  await expect(hex).toHaveAttribute('aria-invalid', 'true')
  await expect(page.getByLabel('Colour', { exact: true })).toHaveValue('#1030c0')
  await page.getByRole('button', { name: 'from the picture' }).click()
  await canvas(page).click({ position: { x: 300, y: 60 } })
  await expect(hex).not.toHaveValue('orange')
  await expect(hex).not.toHaveValue('#1030c0')
})
