import { expect, test, type BrowserContext, type Page, type Request } from '@playwright/test'
import { benchOfCopy, pictureReady, press, saved, setNumber, tiles } from './helpers'

const field = (page: Page, title: string) => page.getByRole('textbox', { name: `${title}, number` })

test('a lost connection is told, the work is kept, and saved when it is back', async ({ page, context }) => {
  const { shot } = await benchOfCopy(page, 'Dawn fog')
  await context.setOffline(true)
  await setNumber(page, 'Bleach, print', '30')
  await expect(page.locator('.save')).toHaveText('not saved: server away')
  await setNumber(page, 'Bleach, negative', '60')
  await context.setOffline(false)
  await saved(page)
  const there = (await (await page.request.get(`/api/shots/${shot}`)).json()) as {
    trialId: number
    trials: { id: number; recipe: { baths: { settings: Record<string, number> }[] } }[]
  }
  const settings = there.trials.find((t) => t.id === there.trialId)!.recipe.baths[0]!.settings
  expect([settings['bleachPrint'], settings['bleachNegative']]).toEqual([30, 60])
})

test('every change is on the server within a second', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  const isWrite = (r: Request) => r.method() === 'PATCH' && r.url().includes('/api/trials/')
  const [sent, written] = [page.waitForRequest(isWrite), page.waitForResponse((r) => isWrite(r.request()))]
  await setNumber(page, 'Bleach, print', '55')
  const begun = Date.now()
  await sent
  expect(Date.now() - begun).toBeLessThan(1000)
  expect((await written).status()).toBe(200)
})

/** The bench on a shot of a copy, and the same shot once more in another window. */
async function secondWindow(page: Page, context: BrowserContext): Promise<Page> {
  await benchOfCopy(page, 'Dawn fog')
  const other = await context.newPage()
  await other.goto(page.url())
  await pictureReady(other)
  return other
}

test.describe('the same shot in two windows', () => {
  test('keeps both changes where they touch different things', async ({ page, context }) => {
    const other = await secondWindow(page, context)
    await setNumber(page, 'Bleach, print', '40')
    await saved(page)
    await setNumber(other, 'Bleach, negative', '70')
    const dialog = other.getByRole('dialog', { name: 'Changed elsewhere' })
    await expect(dialog).toContainText('can be brought together')
    await dialog.getByRole('button', { name: 'Keep both changes' }).click()
    await saved(other)
    await expect(field(other, 'Bleach, print')).toHaveValue('40')
    await expect(field(other, 'Bleach, negative')).toHaveValue('70')
    await page.reload()
    await pictureReady(page)
    await expect(field(page, 'Bleach, negative')).toHaveValue('70')
  })

  test('asks where both touch the same thing; the one given up is one undo away', async ({ page, context }) => {
    const other = await secondWindow(page, context)
    await setNumber(page, 'Bleach, print', '40')
    await saved(page)
    await setNumber(other, 'Bleach, print', '10')
    const dialog = other.getByRole('dialog', { name: 'Changed elsewhere' })
    await expect(dialog).toContainText('one of the two must give way')
    await expect(dialog.getByRole('button', { name: 'Keep both changes' })).toHaveCount(0)
    // It came while somebody was typing: what they type on decides nothing.
    await expect(dialog.getByRole('heading', { name: 'Changed elsewhere' })).toBeFocused()
    await other.keyboard.press('Enter')
    await other.keyboard.press('Space')
    await dialog.getByRole('button', { name: 'Take theirs' }).click()
    await expect(dialog).toBeHidden()
    await expect(field(other, 'Bleach, print')).toHaveValue('40')
    await press(other, 'Control+z')
    await expect(field(other, 'Bleach, print')).toHaveValue('10')
    await saved(other)
  })

  test('brings two settings of the shot’s balance together without asking', async ({ page, context }) => {
    const other = await secondWindow(page, context)
    await page.getByRole('button', { name: '+ balance' }).click()
    await saved(page)
    await other.reload()
    await pictureReady(other)
    for (const p of [page, other]) await tiles(p).first().locator('.tray').click()
    await setNumber(page, 'Exposure', '0.5')
    await saved(page)
    await setNumber(other, 'Tint of the light', '12')
    await saved(other)
    await expect(field(other, 'Exposure')).toHaveValue('0.5')
    await expect(field(other, 'Tint of the light')).toHaveValue('12')
  })
})
