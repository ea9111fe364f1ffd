import { expect, test, type Page } from '@playwright/test'
import { add, benchOfCopy, differs, press, readPicture, restedPicture, setNumber } from './helpers'

const drop = (page: Page, name: string) => page.getByRole('slider', { name: `${name}: amount and hue of the colour` })
const limit = (page: Page, name: string) => page.getByRole('slider', { name: `${name}: place and` })
const number = (page: Page, title: string) => page.getByRole('textbox', { name: `${title}, number` })

/** Drags from the middle of something by so many pixels. */
async function drag(page: Page, what: ReturnType<typeof drop>, dx: number, dy: number): Promise<void> {
  const box = (await what.boundingBox())!
  const [x, y] = [box.x + box.width / 2, box.y + box.height / 2]
  await page.mouse.move(x, y)
  await page.mouse.down()
  await page.mouse.move(x + dx, y + dy, { steps: 8 })
  await page.mouse.up()
}

test('the toned wedge by pointer: a hill is raised, its hue turned, limits moved; the picture follows', async ({
  page,
}) => {
  await benchOfCopy(page, 'Night lantern')
  await add(page, 'ranges')
  const wedge = page.locator('.toned')
  expect((await wedge.boundingBox())!.height).toBeLessThanOrEqual(150)
  const before = await restedPicture(page)

  await drag(page, drop(page, 'Shadows'), 2, -50)
  const amount = Number(await number(page, 'Shadows, colour').inputValue())
  expect(amount).toBeGreaterThan(50)
  await expect(number(page, 'Shadows, hue')).toHaveValue('220')
  await differs(page, before)

  // The half circle stands open; sideways turns the hue, a click on its left end takes red.
  await expect(wedge.locator('.arc')).toBeVisible()
  await drag(page, drop(page, 'Shadows'), 30, 3)
  const turned = Number(await number(page, 'Shadows, hue').inputValue())
  expect(turned).toBeGreaterThan(260)
  await expect(number(page, 'Shadows, colour')).toHaveValue(String(amount))
  const half = (await wedge.locator('.arc .ground').boundingBox())!
  await page.mouse.click(half.x + half.width / 2 - 34, half.y + half.height - 10)
  await expect.poll(async () => Number(await number(page, 'Shadows, hue').inputValue())).toBeLessThan(25)
  await expect(wedge.locator('.arc')).toBeVisible()

  await drag(page, limit(page, 'Where shadows end'), 30, 2)
  await page.getByRole('button', { name: 'Limits', exact: true }).click()
  expect(Number(await number(page, 'Shadows end').inputValue())).toBeGreaterThan(38)
  await expect(number(page, 'Overlap')).toHaveValue('18')
  // The limits do not pass each other; upwards one is softer.
  await page.getByRole('button', { name: 'Main', exact: true }).click()
  await drag(page, limit(page, 'Where shadows end'), 250, 2)
  await drag(page, limit(page, 'Where lights begin'), 1, -30)
  await page.getByRole('button', { name: 'Limits', exact: true }).click()
  await expect(number(page, 'Shadows end')).toHaveValue('60')
  expect(Number(await number(page, 'Overlap').inputValue())).toBeGreaterThan(24)

  await page.getByRole('button', { name: 'Main', exact: true }).click()
  await drop(page, 'Shadows').dblclick()
  await expect(number(page, 'Shadows, colour')).toHaveValue('0')
})

test('the toned wedge by keyboard: Tab goes from hill to hill, arrows set the amount, with Alt the hue', async ({
  page,
}) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await add(page, 'split-by-hand')
  await setNumber(page, 'Shadows, amount', '0')
  await drop(page, 'Shadows').focus()
  const before = await readPicture(page)
  for (let i = 0; i < 12; i++) await page.keyboard.press('ArrowUp')
  await expect(number(page, 'Shadows, amount')).toHaveValue('60')
  await page.keyboard.press('Shift+ArrowDown')
  await expect(drop(page, 'Shadows')).toHaveAttribute('aria-valuetext', 'amount 59 %, hue 222 degrees')
  for (let i = 0; i < 3; i++) await page.keyboard.press('Alt+ArrowLeft')
  await expect(number(page, 'Shadows, hue')).toHaveValue('207')
  await differs(page, before)
  // Escape closes the hues alone.
  await page.keyboard.press('Escape')
  await expect(page.locator('.toned .arc')).toHaveCount(0)
  await expect(drop(page, 'Shadows')).toBeFocused()

  await page.keyboard.press('Tab')
  await expect(drop(page, 'Lights')).toBeFocused()
  await page.keyboard.press('Tab')
  await expect(limit(page, 'Untouched mids')).toBeFocused()
  // The valley goes to the right: the shadows take more, which is a balance below 0.
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowRight')
  await expect(number(page, 'Balance')).toHaveValue('-10')
  for (let i = 0; i < 5; i++) await page.keyboard.press('ArrowUp')
  await expect(number(page, 'Untouched mids')).toHaveValue('30')
  await press(page, 'Control+z')
  await expect(number(page, 'Untouched mids')).toHaveValue('20')
})
