import { expect, test } from '@playwright/test'
import { add, benchOfCopy, differs, pictureReady, press, restedPicture, saved, setNumber, tiles } from './helpers'

test('a line is kept, becomes a version, and another shot that carries the older one is told', async ({ page }) => {
  const { production, shot } = await benchOfCopy(page, 'Dawn fog')
  const name = `Mill pond ${production}`
  const sheet = page.getByRole('dialog', { name: 'Keep this line as a recipe' })
  const keep = page.getByRole('button', { name: 'keep recipe' })
  await setNumber(page, 'Bleach, print', '40')
  await keep.click()
  await expect(sheet.getByRole('button', { name: 'Keep as a recipe' })).toBeDisabled()
  await sheet.getByLabel('Name of the recipe').fill(name)
  await sheet.getByLabel('What is to be seen').fill('Cold and quiet.')
  await sheet.getByLabel('Tags').fill('water, cold, water')
  await sheet.getByRole('button', { name: 'Keep as a recipe' }).click()
  await expect(sheet).toBeHidden()

  await test.step('another shot takes it from the board', async () => {
    const whole = (await (await page.request.get(`/api/productions/${production}`)).json()) as {
      shots: { id: number; name: string }[]
    }
    await saved(page)
    await page.goto(`/bench/${whole.shots.find((s) => s.name === 'Lock gate')!.id}`)
    await pictureReady(page)
    const before = await restedPicture(page)
    await press(page, 'a')
    await page.keyboard.type(name)
    await expect(page.getByRole('region', { name: 'Shelf' }).getByRole('button', { name })).toBeVisible()
    await page.keyboard.press('Enter')
    await differs(page, before)
    await saved(page)
  })
  const other = page.url()

  await test.step('a changed line becomes version 2, in words', async () => {
    await page.goto(`/bench/${shot}`)
    await pictureReady(page)
    await setNumber(page, 'Bleach, print', '15')
    await add(page, 'glow')
    await keep.click()
    await expect(sheet.getByRole('listitem')).toHaveText(['Colour print: bleach, print 40 → 15 %', 'with Glow'])
    await sheet.getByRole('button', { name: 'Keep as version 2' }).click()
    await expect(sheet).toBeHidden()
    await keep.click()
    await expect(sheet.getByRole('button', { name: 'Keep as version 3' })).toBeDisabled()
    await sheet.getByRole('button', { name: 'close' }).click()
    await saved(page)
  })

  await test.step('the other shot is told, keeps its own, and takes it over when asked', async () => {
    await page.goto(other)
    await pictureReady(page)
    await expect(tiles(page)).toHaveCount(1)
    const newer = page.getByRole('button', { name: 'newer version there' })
    await expect(newer).toHaveAttribute('title', /bleach, print 40 → 15 %; with Glow/)
    await newer.click()
    await expect(tiles(page)).toHaveCount(2)
    await expect(newer).toBeHidden()
    await press(page, 'Control+z')
    await expect(tiles(page)).toHaveCount(1)
  })

  await test.step('the shelf shows it, finds it, lets it be renamed, put away and brought back', async () => {
    await page.goto('/shelf')
    await page.getByRole('textbox', { name: 'Search' }).fill(name)
    const tile = page.getByRole('article', { name })
    await expect(tile.getByRole('img', { name: new RegExp(name) })).toBeVisible()
    await expect(tile).toContainText('water · cold')
    await tile.getByText('version 2').click()
    await expect(tile.getByRole('listitem')).toHaveText([
      'Colour print: bleach, print 40 → 15 %; with Glow',
      'as it was first kept',
    ])
    await tile.getByRole('button', { name: `Rename ${name}` }).click()
    const texts = page.getByRole('dialog', { name: 'Name, sentence, tags' })
    await texts.getByLabel('Name of the recipe').fill(`${name} again`)
    await texts.getByRole('button', { name: 'Change' }).click()
    const renamed = page.getByRole('article', { name: `${name} again` })
    await renamed.getByRole('button', { name: /favourite/ }).click()
    await expect(renamed.getByRole('button', { name: /no favourite/ })).toBeVisible()
    await renamed.getByRole('button', { name: /Archive/ }).click()
    await expect(renamed).toBeHidden()
    await page.getByRole('checkbox', { name: 'archived ones' }).click()
    await renamed.getByRole('button', { name: /Restore/ }).click()
    // It was the only one: the shelf itself is seen again.
    await expect(page.getByRole('heading', { name: 'Your own' })).toBeVisible()
    await expect(renamed.getByRole('button', { name: /Archive/ })).toBeVisible()
  })
})
