import { expect, test, type Page } from '@playwright/test'
import {
  add,
  benchOfCopy,
  boardEntry,
  canvas,
  differs,
  pictureReady,
  press,
  restedPicture,
  sameAs,
  saved,
  setNumber,
  tile,
  tiles,
} from './helpers'

const time = (page: Page) => page.locator('[data-test=time]')
const pictureBox = (page: Page) => canvas(page).boundingBox()

test('at 1280 by 800 ten settings stand in sight below scope and figures, and drawings open over the picture', async ({
  page,
}) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  for (const kind of ['three-strip', 'instant', 'black-and-white']) {
    await add(page, kind)
    await expect(page.locator('.scope canvas')).toBeVisible()
    await expect(page.locator('[data-figure="grey"]')).toBeVisible()
    const rows = await page
      .locator('[data-setting]')
      .evaluateAll((all) =>
        all.map((row) => row.getBoundingClientRect()).filter(({ top, bottom }) => top >= 0 && bottom <= innerHeight),
      )
    expect(rows.length, kind).toBeGreaterThanOrEqual(10)
    for (const row of rows) expect(row.height).toBeGreaterThanOrEqual(28)
  }
  await page.getByRole('button', { name: 'Drawings of the bath' }).click()
  const drawings = (await page.getByRole('region', { name: 'Drawings' }).boundingBox())!
  const stage = (await page.locator('.stage').boundingBox())!
  expect(drawings.y).toBeGreaterThan(stage.y + stage.height / 2)
})

test('the picture stays where it is whatever is looked at or said', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  const before = await pictureBox(page)
  const stays = async (what: string) => expect(await pictureBox(page), what).toEqual(before)
  await press(page, 'w')
  await expect(page.locator('.against')).toBeVisible()
  await stays('a wipe')
  await press(page, 'w')
  await page.getByRole('button', { name: 'ramp', exact: true }).click()
  await page.getByRole('button', { name: 'beside the shot' }).click()
  await stays('a chart beside the shot')
  await page.getByRole('button', { name: 'shot', exact: true }).click()
  // A bath that says that it changes nothing.
  await press(page, 'd')
  await expect(tiles(page).nth(1).locator('.note')).toBeVisible()
  await stays('a note')
  await page.getByRole('button', { name: 'Mask', exact: true }).click()
  await page.locator('.mask .add').getByRole('button', { name: 'colours' }).click()
  await stays('a mask that is picked')
  await page.mouse.click(before!.x + 200, before!.y + 200)
  await stays('a colour that is picked')
})

test('twelve baths keep names of nine letters, strength and switch; both ends stay in sight', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  const kinds = ['balance', 'contrast', 'ranges', 'saturation', 'mixer', 'veil', 'overlay', 'split-by-hand', 'curves']
  for (const kind of [...kinds, 'vignette', 'grain']) await add(page, kind)
  await expect(tiles(page)).toHaveCount(12)
  const line = page.getByRole('region', { name: 'Line' })
  for (const end of ['Camera', '+ add a bath'])
    await expect(line.getByRole('button', { name: end })).toBeInViewport({ ratio: 1 })
  await expect(page.locator('.bath.chosen')).toBeInViewport({ ratio: 0.99 })
  await expect(page.locator('.bath.chosen').getByRole('button', { name: /^More for/ })).toBeVisible()
  const compact = page.locator('.bath.compact')
  await expect(compact).toHaveCount(11)
  const widths = await compact.locator('.name').evaluateAll((names) =>
    names.map((name) => {
      const pen = document.createElement('canvas').getContext('2d')!
      const { fontSize, fontFamily } = getComputedStyle(name)
      pen.font = `${fontSize} ${fontFamily}`
      return { shown: name.parentElement!.clientWidth, nine: pen.measureText(name.textContent.slice(0, 9)).width }
    }),
  )
  for (const { shown, nine } of widths) expect(shown).toBeGreaterThanOrEqual(nine)
  await expect(compact.first().locator('.strength')).toHaveText('100')
  await compact
    .first()
    .getByRole('button', { name: /lift out/ })
    .click()
  await expect(tiles(page).first()).toHaveClass(/out/)
})

test('keys go through frames as in the trade; a timecode is typed', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  await press(page, 'Home')
  await expect(time(page)).toHaveText('00:00:00:00')
  await press(page, 'Shift+ArrowRight')
  await expect(time(page)).toHaveText('00:00:00:10')
  await press(page, 'End')
  const last = await time(page).innerText()
  await press(page, 'Shift+ArrowLeft')
  await time(page).click()
  const field = page.getByRole('textbox', { name: 'Timecode' })
  await field.fill('+10')
  await field.press('Enter')
  await expect(time(page)).toHaveText(last)
  await time(page).click()
  await field.fill('noon')
  await field.press('Enter')
  await expect(page.getByText("'noon' is no timecode")).toBeVisible()
  await expect(time(page)).toHaveText(last)
  await press(page, 'j')
  await expect(page.locator('[data-test=speed]')).toHaveText(/fps −1×/)
  await expect(time(page)).not.toHaveText(last)
  await press(page, 'l')
  await press(page, 'l')
  await expect(page.locator('[data-test=speed]')).toHaveText(/fps 2×/)
  await press(page, 'k')
  await expect(page.getByRole('button', { name: 'Play', exact: true })).toBeVisible()
})

test('steps of undo have names and are gone back to; what is no number is said', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  await setNumber(page, 'Push or pull', '1')
  await add(page, 'contrast')
  await setNumber(page, 'Amount', '60')
  const field = page.getByRole('textbox', { name: 'Amount, number' })
  await field.fill('lots')
  await field.press('Enter')
  await expect(page.getByRole('alert').filter({ hasText: 'No number; it stays 60.' })).toBeVisible()
  await expect(field).toHaveValue('60')
  await page.getByRole('button', { name: 'Steps' }).click()
  const steps = page.locator('.n-dropdown-option')
  await expect(steps).toHaveText([
    'here now',
    'Contrast: amount 25 → 60 %',
    'with Contrast',
    /^Colour print: push or pull 0 → 1/,
  ])
  await steps.nth(2).click()
  await expect(tiles(page)).toHaveCount(1)
  // The neighbour of what is gone is chosen.
  await expect(tile(page, 'Colour print')).toHaveClass(/chosen/)
  await expect(page.getByRole('textbox', { name: 'Push or pull, number' })).toHaveValue('1')
  await page.getByRole('button', { name: 'Steps' }).click()
  await steps.filter({ hasText: 'redo: Contrast' }).click()
  await tile(page, 'Contrast').locator('.tray').click()
  await expect(page.getByRole('textbox', { name: 'Amount, number' })).toHaveValue('60')
})

test('a further process goes in place of the one that is there, or behind it', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  await press(page, 'a')
  await boardEntry(page, 'two-strip').click()
  await expect(page.getByText('The look has a process: Colour print.')).toBeVisible()
  await page.getByRole('button', { name: 'not now' }).click()
  await boardEntry(page, 'two-strip').click()
  await page.getByRole('button', { name: 'in its place' }).click()
  await expect(tiles(page)).toHaveCount(1)
  await expect(tile(page, 'Two-strip')).toHaveClass(/chosen/)
})

test('one key changes to the trial before and back; a comparison is labelled on both sides', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  const trials = page.getByRole('navigation', { name: 'Trials' })
  const first = await restedPicture(page)
  await trials.getByRole('button', { name: 'B', exact: true }).click()
  await add(page, 'iron-blue')
  await differs(page, first, 8)
  await press(page, 'v')
  await sameAs(page, first, 1.2)
  await expect(trials.getByRole('button', { name: 'A', exact: true })).toHaveAttribute('aria-current', 'true')
  await press(page, 's')
  await expect(page.locator('.side')).toHaveText(['footage', 'trial A'])
})

test('notes stand on the scrub line, in Intake and on the sheet, and go with the shot', async ({ page }) => {
  const { production, shot } = await benchOfCopy(page, 'Dawn fog')
  await press(page, 'n')
  const notes = page.getByRole('dialog', { name: 'Notes' })
  await notes.getByRole('textbox', { name: 'Note', exact: true }).fill('More fog here')
  await notes.getByRole('textbox', { name: /^Your name/ }).fill('Ada')
  await notes.getByRole('button', { name: 'Note on this frame' }).click()
  await expect(notes.getByRole('listitem')).toContainText('More fog here')
  await page.keyboard.press('Escape')
  await saved(page)
  await page.reload()
  await pictureReady(page)
  const at = await time(page).innerText()
  await press(page, 'Home')
  await page.getByRole('button', { name: 'Note: More fog here' }).click()
  await expect(time(page)).toHaveText(at)
  await page.goto(`/productions/${production}`)
  await expect(page.getByRole('list', { name: 'Notes on Dawn fog' })).toContainText('More fog here Ada')
  await page.goto(`/sheet/shot/${shot}`)
  await expect(page.getByText('More fog here (Ada)')).toBeVisible()
})

test('a click on a picture of the shelf puts the recipe on its shot as a new trial, and undo takes it back', async ({
  page,
}) => {
  const { shot } = await benchOfCopy(page, 'Dawn fog')
  const shotNow = async () =>
    (await (await page.request.get(`/api/shots/${shot}`)).json()) as {
      revision: number
      trialId: number
      trials: { recipe: { id: string } }[]
    }
  const before = await shotNow()
  // Other copies have shots of the same names.
  const name = `Fog ${shot}`
  const change = { data: { revision: before.revision, name } }
  expect((await page.request.patch(`/api/shots/${shot}`, change)).status()).toBe(200)
  await page.goto('/shelf')
  const shownOn = page.locator('[aria-label="Picture that recipes are shown on"]')
  await shownOn.click()
  await page.locator('.n-base-select-option', { hasText: name }).click()
  await page.getByRole('button', { name: `Put Bleach bypass on ${name}`, exact: true }).click()
  await expect(page.getByText(`Bleach bypass is on ${name}, as a new trial.`)).toBeVisible()
  const after = await shotNow()
  expect(after.trials).toHaveLength(before.trials.length + 1)
  expect(after.trials.at(-1)!.recipe.id).toBe('bleach-bypass')
  await page.getByRole('button', { name: 'undo' }).click()
  await expect(page.getByText('as a new trial.')).toBeHidden()
  expect(await shotNow()).toMatchObject({
    trialId: before.trialId,
    trials: before.trials.map(({ recipe }) => ({ recipe: { id: recipe.id } })),
  })
})

test('scopes have numbers and open over half of the window; help and a tour stand beside what they explain', async ({
  page,
}) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  const scope = page.locator('.scope')
  await expect(scope.locator('.numbers')).toContainText('1023')
  await scope.dblclick()
  await expect.poll(async () => (await scope.boundingBox())!.width).toBe(640)
  await expect.poll(() => scope.locator('canvas').evaluate((c: HTMLCanvasElement) => c.width)).toBe(640)
  await page.keyboard.press('Escape')
  await expect.poll(async () => (await scope.boundingBox())!.width).toBeLessThan(420)
  await page.getByRole('button', { name: 'About Colour print' }).click()
  await expect(page.getByRole('dialog', { name: 'About Colour print' })).toContainText('Model and sources')
  await page.keyboard.press('Escape')
  await page.getByRole('button', { name: 'show me' }).click()
  for (const title of ['Footage', 'The line', 'The test strip', 'The board', 'Render']) {
    await expect(page.locator('.driver-popover-title')).toHaveText(title)
    await page.locator('.driver-popover-next-btn').click()
  }
  await expect(page.locator('.driver-popover')).toHaveCount(0)
  await expect(page.getByRole('region', { name: 'Tour' })).toHaveCount(0)
})
