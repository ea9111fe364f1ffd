import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { add, benchOfCopy, differs, pictureReady, press, restedPicture, saved, setNumber, tiles } from './helpers'

test('a line is kept, becomes a version, and another shot that carries the older one is told', async ({ page }) => {
  const { production, shot } = await benchOfCopy(page, 'Dawn fog')
  const name = `Mill pond ${production}`
  const sheet = page.getByRole('dialog', { name: 'Keep this look as a recipe' })
  const keep = page.getByRole('button', { name: 'keep as recipe' })
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
    await page.getByText('On this shot', { exact: true }).click()
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
    await tile.getByRole('button', { name: 'version 2' }).click()
    await expect(page.getByRole('list', { name: `Versions of ${name}` }).getByRole('listitem')).toHaveText([
      'Colour print: bleach, print 40 → 15 %; with Glow',
      'as it was first kept',
    ])
    await page.keyboard.press('Escape')
    await fromMenu(page, name, 'Name, sentence, tags, notes')
    const texts = page.getByRole('dialog', { name: 'Name, sentence, tags' })
    await texts.getByLabel('Name of the recipe').fill(`${name} again`)
    await texts.getByLabel('Made by').fill('Ada')
    await texts.getByRole('button', { name: 'Change' }).click()
    const renamed = page.getByRole('article', { name: `${name} again` })
    await renamed.getByRole('button', { name: /favourite/ }).click()
    await expect(renamed.getByRole('button', { name: /no favourite/ })).toBeVisible()
    await fromMenu(page, `${name} again`, 'Archive')
    await expect(renamed).toBeHidden()
    await page.getByRole('checkbox', { name: 'archived ones' }).click()
    await fromMenu(page, `${name} again`, 'Restore')
    // It was the only one: the shelf itself is seen again.
    await expect(page.getByRole('heading', { name: 'Your own' })).toBeVisible()
    await expect(renamed).toBeVisible()
  })
})

const fromMenu = async (page: Page, recipe: string, what: string): Promise<void> => {
  await page.getByRole('button', { name: `More for ${recipe}`, exact: true }).click()
  await page.locator('.n-dropdown-option').getByText(what, { exact: true }).click()
}
const article = (page: Page, name: string) => page.getByRole('article', { name, exact: true })

test('recipes go out as a file and come in again, seen before they are taken', async ({ page }, info) => {
  const name = `Ferry ${Date.now()}`
  const recipe = ((await (await page.request.get('/api/recipes')).json()) as { id: string }[]).find(
    (r) => r.id === 'sepia',
  )
  const made = await page.request.post('/api/shelf', { data: { name, tags: ['ferry'], recipe } })
  expect(made.status()).toBe(201)
  await page.goto('/shelf')
  const shown = page.getByRole('button', { name: 'export your own, shown here' })
  await page.getByRole('textbox', { name: 'Search' }).fill('nothing is called so')
  await expect(shown).toBeDisabled()
  await page.getByRole('textbox', { name: 'Search' }).fill(name)
  await expect(article(page, name)).toBeVisible()
  const download = page.waitForEvent('download')
  await fromMenu(page, name, 'The recipe as a file (.json)')
  const path = info.outputPath('out.json')
  await (await download).saveAs(path)
  const file = JSON.parse(readFileSync(path, 'utf8')) as { key: string; name: string; picture: string }
  expect(file.name).toBe(name)
  expect(file.picture).toMatch(/^data:image\/jpeg;base64,/)

  const sheet = page.getByRole('dialog', { name: 'Take recipes onto the shelf' })
  const bring = (...files: { name: string; text: string }[]) =>
    page
      .locator('[data-test=recipe-files]')
      .setInputFiles(files.map((f) => ({ name: f.name, mimeType: 'application/json', buffer: Buffer.from(f.text) })))
  await bring({ name: 'same.json', text: JSON.stringify(file) }, { name: 'half.json', text: '{' })
  await expect(sheet.getByRole('listitem')).toHaveText([/is there already, the same/, /half\.json is not JSON/])
  await expect(sheet.getByRole('button', { name: 'Nothing to take' })).toBeDisabled()
  await sheet.getByRole('button', { name: 'close' }).click()

  const afar = { ...file, key: `afar${Date.now()}`, name: `${name} from afar` }
  await bring({ name: 'afar.json', text: JSON.stringify(afar) })
  await expect(sheet.getByRole('listitem')).toHaveText(/new, 1 version/)
  await sheet.getByRole('button', { name: 'Take 1 recipe' }).click()
  await expect(sheet).toBeHidden()
  await expect(article(page, `${name} from afar`)).toBeVisible()
})

test('the shelf is ordered, scrolled through and compared side by side', async ({ page }) => {
  await page.goto('/shelf')
  const articles = page.getByRole('article')
  await expect(articles.first()).toBeVisible()
  // Only what is in view is in the page.
  expect(await articles.count()).toBeLessThan(40)
  const region = page.getByRole('region', { name: 'Recipes' })
  await region.evaluate((el) => el.scrollTo(0, el.scrollHeight))
  await expect(article(page, 'Newsreel')).toBeVisible()
  const choose = async (list: string, what: string): Promise<void> => {
    await page.locator(`.n-select[aria-label="${list}"], [aria-label="${list}"]`).first().click()
    await page.locator('.n-base-select-option').getByText(what, { exact: true }).click()
  }
  await choose('Order', 'most coloured first')
  await expect(region.getByRole('heading', { level: 2 })).toHaveText('most coloured first')
  const names = () => articles.evaluateAll((list) => list.slice(0, 6).map((a) => a.getAttribute('aria-label')))
  const coloured = await names()
  await choose('Order', 'lightest first')
  await expect.poll(names).not.toEqual(coloured)
  for (const n of [0, 1]) await articles.nth(n).getByRole('checkbox').click()
  await page.getByRole('button', { name: 'See 2 side by side' }).click()
  const dialog = page.getByRole('dialog', { name: 'Side by side' })
  await expect(dialog.getByRole('img', { name: /on the picture/ })).toHaveCount(2)
  await expect(dialog.getByRole('img', { name: /grey wedge/ })).toHaveCount(2)
})

test('a recipe that came with the program is a favourite like one’s own, on the shelf and on the board', async ({
  page,
}) => {
  await page.goto('/shelf')
  const search = page.getByRole('textbox', { name: 'Search' })
  await search.fill('silent')
  const silent = page.locator('[data-recipe="silent-era"]')
  const name = (await silent.getAttribute('aria-label'))!
  await silent.getByRole('button', { name: `${name}: favourite`, exact: true }).click()
  await expect(silent.getByRole('button', { name: `${name}: no favourite any more` })).toBeVisible()
  await search.fill('')
  await page.getByRole('checkbox', { name: 'favourites' }).click()
  await expect(silent).toBeVisible()
  await expect(article(page, 'Newsreel')).toHaveCount(0)

  await benchOfCopy(page, 'Dawn fog')
  await press(page, 'a')
  const board = page.getByRole('dialog', { name: 'Add to the line' })
  await expect(board.getByRole('heading', { level: 4 }).first()).toHaveText('Favourites')
  await expect(board.getByRole('region', { name: 'Favourites' }).locator(`[data-entry="silent-era"]`)).toBeVisible()
  await page.keyboard.press('Escape')

  await page.goto('/shelf')
  await page.getByRole('checkbox', { name: 'favourites' }).click()
  await silent.getByRole('button', { name: `${name}: no favourite any more` }).click()
  await expect
    .poll(async () => (await (await page.request.get('/api/favourites')).json()) as string[])
    .not.toContain('silent-era')
})

test('recipes are seen on a picture file of one’s own, and one that is no picture is named', async ({ page }) => {
  await page.goto('/shelf')
  const tile = page.locator('[data-recipe="plain"] canvas')
  await expect(tile).toHaveAttribute('height', '360')
  const give = (name: string, mimeType: string, buffer: Buffer) =>
    page.locator('[data-test=shelf-picture]').setInputFiles({ name, mimeType, buffer })
  await give('notes.png', 'image/png', Buffer.from('no picture at all'))
  await expect(page.getByRole('alert')).toContainText('notes.png is not a picture that can be shown here.')
  // A square, green on its left and grey on its right.
  const png = await page.evaluate(async () => {
    const canvas = new OffscreenCanvas(64, 64)
    const pen = canvas.getContext('2d')!
    pen.fillStyle = 'rgb(128, 128, 128)'
    pen.fillRect(0, 0, 64, 64)
    pen.fillStyle = 'rgb(40, 160, 60)'
    pen.fillRect(0, 0, 32, 64)
    const bytes = await (await canvas.convertToBlob()).arrayBuffer()
    return [...new Uint8Array(bytes)]
  })
  await give('square.png', 'image/png', Buffer.from(png))
  await expect(tile).toHaveAttribute('height', '384')
  const [left, right] = await tile.evaluate((c) => {
    const pen = (c as HTMLCanvasElement).getContext('2d')!
    return [90, 290].map((x) => [...pen.getImageData(x, 190, 1, 1).data])
  })
  // The plain print hands grey back, and green as green.
  for (const v of right!.slice(0, 3)) expect(Math.abs(v - 128)).toBeLessThan(4)
  expect(left![1]! - left![0]!).toBeGreaterThan(70)
  await expect(page.getByRole('alert')).toBeHidden()
})

test('only the chosen baths of a line are kept where one wishes', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  await add(page, 'glow')
  await add(page, 'vignette')
  await expect(tiles(page)).toHaveCount(3)
  const name = `Only the edge ${Date.now()}`
  await page.getByRole('button', { name: 'keep as recipe' }).click()
  const sheet = page.getByRole('dialog', { name: 'Keep this look as a recipe' })
  await sheet.getByRole('checkbox', { name: 'only the chosen bath' }).click()
  await sheet.getByLabel('Name of the recipe').fill(name)
  await sheet.getByRole('button', { name: 'Keep as a recipe' }).click()
  await expect(sheet).toBeHidden()
  await expect(tiles(page)).toHaveCount(3)
  const kept = (await (await page.request.get('/api/shelf')).json()) as {
    name: string
    recipe: { baths: { kind: string }[] }
  }[]
  expect(kept.find((row) => row.name === name)!.recipe.baths.map((b) => b.kind)).toEqual(['vignette'])
})
