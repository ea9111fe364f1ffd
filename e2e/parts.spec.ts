import { newBath, type Bath } from '@fogbath/core/line'
import { expect, test, type Page } from '@playwright/test'
import {
  add,
  benchOfCopy,
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

interface Whole {
  readonly shots: {
    readonly id: number
    readonly revision: number
    readonly name: string
    readonly trialId: number
    readonly preparation: Bath[]
    readonly trials: {
      readonly id: number
      readonly recipe: { id: string; name: string; baths: Bath[] }
      readonly after: Bath[]
    }[]
  }[]
}
const shotsOf = async (page: Page, production: number): Promise<Whole['shots']> =>
  ((await (await page.request.get(`/api/productions/${production}`)).json()) as Whole).shots
const currentOf = (shot: Whole['shots'][number]) => shot.trials.find((t) => t.id === shot.trialId)!
const part = (page: Page, name: 'preparation' | 'look' | 'after') =>
  page.locator(`[data-part="${name}"]`).locator('[data-bath]')
const kelvin = (page: Page) => page.getByRole('textbox', { name: 'Light of the scene, number' })
async function fromMenu(page: Page, bath: string, what: string): Promise<void> {
  await page.getByRole('button', { name: `More for ${bath}`, exact: true }).click()
  await page.locator('.n-dropdown-option').getByText(what, { exact: true }).click()
}

test('a balance by the picker stays while three looks come one after another', async ({ page }) => {
  await benchOfCopy(page, 'Keeper and apprentice')
  await page.getByRole('button', { name: '+ balance' }).click()
  await page.getByRole('button', { name: 'grey here' }).click()
  await canvas(page).click({ position: { x: 60, y: 200 } })
  await expect(kelvin(page)).not.toHaveValue('6504')
  const set = await kelvin(page).inputValue()
  let before = await restedPicture(page)
  for (const look of ['sepia', 'bleach-bypass', 'iron-blue']) {
    await add(page, look)
    await differs(page, before)
    await expect(part(page, 'preparation')).toHaveCount(1)
    before = await restedPicture(page)
  }
  await tiles(page).first().locator('.tray').click()
  await expect(kelvin(page)).toHaveValue(set)
  await saved(page)
})

test('one look on five shots leaves each its own balance; a correction behind it stays when the look is renewed', async ({
  page,
}) => {
  const { production, shot } = await benchOfCopy(page, 'Dawn fog')
  for (const [i, { id, revision }] of (await shotsOf(page, production)).entries()) {
    const preparation = [newBath('balance', `own-${i}`, { exposure: i / 10 })]
    expect((await page.request.patch(`/api/shots/${id}`, { data: { revision, preparation } })).status()).toBe(200)
  }
  await page.reload()
  await pictureReady(page)
  const name = `Weir ${production}`
  const sheet = page.getByRole('dialog', { name: 'Keep this look as a recipe' })
  const keep = page.getByRole('button', { name: 'keep as recipe' })
  await tile(page, 'Colour print').locator('.tray').click()
  await setNumber(page, 'Bleach, print', '40')
  await keep.click()
  await sheet.getByLabel('Name of the recipe').fill(name)
  await sheet.getByRole('button', { name: 'Keep as a recipe' }).click()
  await expect(sheet).toBeHidden()
  await saved(page)

  await test.step('put on the others', async () => {
    await page.getByRole('button', { name: 'mark all' }).click()
    await page.getByRole('button', { name: 'Put this look on them' }).click()
    await expect(page.getByText(/Put on 4 shots/)).toBeVisible()
    const shots = await shotsOf(page, production)
    expect(shots.map((s) => currentOf(s).recipe.name)).toEqual(Array(5).fill(name))
    expect(shots.map((s) => s.preparation[0]!.settings['exposure'])).toEqual([0, 0.1, 0.2, 0.3, 0.4])
  })

  await test.step('one of them is corrected behind the look', async () => {
    await press(page, 'PageUp')
    await expect(page.locator('.shot-name')).not.toHaveText('Dawn fog')
    await pictureReady(page)
    const before = await restedPicture(page)
    await page.getByRole('button', { name: '+ timing' }).click()
    await setNumber(page, 'Exposure', '-0.8')
    await differs(page, before, 5)
    await saved(page)
  })
  const corrected = page.url()

  await test.step('the shared recipe becomes another; the look follows where it is asked to, the correction stays', async () => {
    await page.goto(`/bench/${shot}`)
    await pictureReady(page)
    await tile(page, 'Colour print').locator('.tray').click()
    await setNumber(page, 'Bleach, print', '0')
    await keep.click()
    await sheet.getByRole('button', { name: 'Keep as version 2' }).click()
    await expect(sheet).toBeHidden()
    await saved(page)
    await page.goto(corrected)
    await pictureReady(page)
    await page.getByRole('button', { name: 'newer version there' }).click()
    await page.getByText('On this shot', { exact: true }).click()
    await expect(part(page, 'after')).toHaveCount(1)
    await saved(page)
    const own = (await shotsOf(page, production)).find((s) => corrected.endsWith(`/${s.id}`))!
    expect(currentOf(own).recipe.baths[0]!.settings['bleachPrint']).toBe(0)
    expect(currentOf(own).after[0]!.settings['exposure']).toBe(-0.8)
  })
})

test('a bath goes over a joint and back, by pointer and by menu; what cannot is told why', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  await page.getByRole('button', { name: '+ balance' }).click()
  await setNumber(page, 'Exposure', '1')
  const prepared = await restedPicture(page)
  const from = (await tile(page, 'Balance').locator('.tray').boundingBox())!
  const to = (await tile(page, 'Colour print').locator('.tray').boundingBox())!
  await page.mouse.move(from.x + from.width / 2, from.y + 30)
  await page.mouse.down()
  for (let i = 1; i <= 14; i++) await page.mouse.move(from.x + from.width / 2 + ((to.x - from.x) * i) / 14, to.y + 30)
  await page.mouse.up()
  await expect(page.getByText('Balance is part of the look now: it goes where the look goes.')).toBeVisible()
  await expect(part(page, 'look')).toHaveCount(2)
  await expect(part(page, 'preparation')).toHaveCount(0)
  await sameAs(page, prepared)
  await saved(page)
  const [own] = (await shotsOf(page, production)).filter((s) => s.name === 'Dawn fog')
  expect(own!.preparation).toEqual([])
  expect(currentOf(own!).recipe.baths.map((b) => b.kind)).toEqual(['balance', 'colour-print'])
  await fromMenu(page, 'Balance', 'Give to this shot, before the look')
  await expect(part(page, 'preparation')).toHaveCount(1)
  await sameAs(page, prepared)
  // A step each; the first one undone brings the bath back into the look.
  await press(page, 'Control+z')
  await expect(part(page, 'look')).toHaveCount(2)
  await press(page, 'Control+y')
  await expect(part(page, 'preparation')).toHaveCount(1)
  await page.getByRole('button', { name: 'More for Colour print' }).click()
  await expect(page.locator('.n-dropdown-option').getByText('Give to this shot', { exact: false })).toHaveCount(0)
})

test('a recipe keeps a preparation of its own, by choice', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Lock gate')
  await add(page, 'input-lut')
  await expect(part(page, 'preparation')).toHaveCount(1)
  await fromMenu(page, 'Input LUT', 'Give to the look')
  await expect(part(page, 'look')).toHaveCount(2)
  await saved(page)
  await page.locator('.rail .shot', { hasText: 'Dawn fog' }).click({ modifiers: ['Control'] })
  await page.getByRole('button', { name: 'Put this look on them' }).click()
  await expect(page.getByText(/Put on 1 shot/)).toBeVisible()
  const other = (await shotsOf(page, production)).find((s) => s.name === 'Dawn fog')!
  expect(other.preparation).toEqual([])
  expect(currentOf(other).recipe.baths.map((b) => b.kind)).toEqual(['input-lut', 'colour-print'])
})

test('proofs, other trials, files and the sheet go by the parts that they hold', async ({ page }) => {
  const { shot } = await benchOfCopy(page, 'Dawn fog')
  await page.getByRole('button', { name: '+ balance' }).click()
  await setNumber(page, 'Exposure', '0.5')
  await page.getByRole('button', { name: '+ timing' }).click()
  await setNumber(page, 'Saturation', '40')
  const mine = await restedPicture(page)
  await press(page, 'p')
  await expect(page.getByText('Kept as a proof of this shot.')).toBeVisible()
  const [proof] = (await (await page.request.get(`/api/shots/${shot}/proofs`)).json()) as {
    preparation: Bath[]
    after: Bath[]
  }[]
  expect([proof!.preparation[0]!.settings['exposure'], proof!.after[0]!.settings['saturation']]).toEqual([0.5, 40])

  await test.step('a copied trial has the same correction; without it the preparation alone is left', async () => {
    await page.getByRole('button', { name: 'Add a trial' }).click()
    await page.getByText('Copy of this trial', { exact: true }).click()
    await expect(part(page, 'after')).toHaveCount(1)
    await sameAs(page, mine)
    await fromMenu(page, 'Timing', 'Remove')
    await differs(page, mine, 0.8)
    const other = await restedPicture(page)
    await page.getByRole('navigation', { name: 'Trials' }).getByRole('button', { name: 'A', exact: true }).click()
    await sameAs(page, mine)
    expect(other).not.toEqual(mine)
  })
  await saved(page)
  await page.getByRole('button', { name: 'Render', exact: true }).click()
  await page.locator('.n-dropdown-option').getByText('The look as a file').click()
  await expect(page.getByText('the look alone', { exact: false })).toBeVisible()
  await page.keyboard.press('Escape')
  await page.goto(`/sheet/shot/${shot}`)
  await expect(
    page.getByText(
      /Before it on this shot: Balance: exposure 0.5 stop\. After it on this shot: Timing: saturation 40 %/,
    ),
  ).toBeVisible()
})
