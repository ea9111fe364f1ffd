import { join } from 'node:path'
import { KINDS } from '@fogbath/core/baths'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { expect, type APIRequestContext, type Locator, type Page } from '@playwright/test'
import { build } from 'esbuild'

export const canvas = (page: Page) => page.locator('.stage .frame > canvas')

export async function pictureReady(page: Page): Promise<void> {
  await expect(page.locator('[data-test=speed]')).toHaveText(/ms$/)
  await expect(canvas(page)).toBeVisible()
  await expect.poll(async () => (await colourSpread(page)) > 10).toBe(true)
}

/**
 * The canvas belongs to a worker, but what it shows may be drawn from; a screenshot takes five times as long. It comes as one
 * text: a list of so many numbers takes a tenth of a second to be handed over.
 */
async function pixels(page: Page): Promise<number[]> {
  const text = await canvas(page).evaluate((shown: HTMLCanvasElement) => {
    const small = new OffscreenCanvas(64, 36)
    const pen = small.getContext('2d', { willReadFrequently: true })!
    pen.drawImage(shown, 0, 0, 64, 36)
    return btoa(String.fromCharCode(...pen.getImageData(0, 0, 64, 36).data))
  })
  return [...Buffer.from(text, 'base64')]
}

async function colourSpread(page: Page): Promise<number> {
  const data = await pixels(page)
  return Math.max(...data.filter((_, i) => i % 4 === 0)) - Math.min(...data.filter((_, i) => i % 4 === 0))
}

/** Mean saturation (max - min of R, G, B) of the shown picture, 0..255. */
export async function saturation(page: Page): Promise<number> {
  const data = await pixels(page)
  let sum = 0
  for (let i = 0; i < data.length; i += 4)
    sum += Math.max(data[i]!, data[i + 1]!, data[i + 2]!) - Math.min(data[i]!, data[i + 1]!, data[i + 2]!)
  return sum / (data.length / 4)
}

/** Mean absolute difference of the shown picture from an earlier reading. */
export const readPicture = pixels
export const differenceOf = (a: readonly number[], b: readonly number[]): number =>
  a.reduce((sum, v, i) => sum + Math.abs(v - b[i]!), 0) / a.length

/** Types a number into a setting of the chosen bath. */
export async function setNumber(page: Page, title: string, value: string): Promise<void> {
  const field = page.getByRole('textbox', { name: `${title}, number` })
  await field.fill(value)
  await field.press('Enter')
}

/** Waits until all is on the server; a change is first seen as `saving`. */
export const saved = (page: Page) => expect(page.locator('.save')).toHaveText('saved')

interface MediumInfo {
  width: number
  height: number
  frames: number
  bits: number
  matrix: string
  pixelFormat: string
}
interface WholeProduction {
  id: number
  shots: {
    id: number
    name: string
    trialId: number
    trials: { id: number; revision: number }[]
    medium: { id: number; info: MediumInfo }
  }[]
}

/** The demo production with its shots; it is the oldest, so the list is followed to its end. */
export async function demoProduction(request: APIRequestContext): Promise<WholeProduction> {
  for (let query = ''; ;) {
    const { items, more } = (await (await request.get(`/api/productions${query}`)).json()) as {
      items: { id: number; name: string }[]
      more: boolean
    }
    const found = items.find((p) => p.name === 'The Lockkeeper’s Almanac')
    if (found) return (await request.get(`/api/productions/${found.id}`)).json() as Promise<WholeProduction>
    if (!more) throw new Error('The demo production is gone.')
    query = `?before=${items.at(-1)!.id}`
  }
}

/** The bench on a shot of a fresh copy of the demo production, so that tests do not meet each other's work. */
export async function benchOfCopy(page: Page, shot: string): Promise<{ production: number; shot: number }> {
  const get = async (url: string) => (await page.request.get(url)).json()
  const demo = await demoProduction(page.request)
  const copy = (await (await page.request.post(`/api/productions/${demo.id}/copy`)).json()) as { id: number }
  const whole = (await get(`/api/productions/${copy.id}`)) as WholeProduction
  const found = whole.shots.find((s) => s.name === shot)!
  // The demo's shots carry recipes of all kinds; tests begin with the plain print on each.
  const recipe = SHIPPED_RECIPES.find((r) => r.id === 'plain')!
  const lines = whole.shots.map(({ trialId, trials }) => {
    const { id, revision } = trials.find((t) => t.id === trialId)!
    return { trialId: id, revision, recipe }
  })
  expect((await page.request.put('/api/lines', { data: { lines } })).status()).toBe(200)
  await page.goto(`/bench/${found.id}`)
  await pictureReady(page)
  return { production: copy.id, shot: found.id }
}

/**
 * The picture once it has come to rest: what was last asked for is drawn, and the canvas shows it. Two equal readings alone do
 * not tell, for a slow machine may show the picture before for longer than lies between them.
 */
export async function restedPicture(page: Page): Promise<number[]> {
  await expect(canvas(page)).toHaveAttribute('aria-busy', 'false')
  let before = await readPicture(page)
  for (let i = 0; i < 40; i++) {
    await page.waitForTimeout(300)
    const now = await readPicture(page)
    if (differenceOf(before, now) < 0.6) return now
    before = now
  }
  throw new Error('The picture does not come to rest.')
}

/** Waits until the shown picture lies at least (or at most) so far from an earlier reading. */
export const differs = (page: Page, from: readonly number[], by = 1.5) =>
  expect.poll(async () => differenceOf(await readPicture(page), from)).toBeGreaterThan(by)
export const sameAs = (page: Page, as: readonly number[], within = 0.8) =>
  expect.poll(async () => differenceOf(await readPicture(page), as)).toBeLessThan(within)

export const tiles = (page: Page) => page.locator('[data-bath]')
export const tile = (page: Page, name: string) => tiles(page).filter({ hasText: name })

/** An entry of the board by its id; where a bath and a look have one id, the bath. */
export function boardEntry(page: Page, id: string): Locator {
  const type = KINDS.some((kind) => kind.id === id) ? 'bath' : 'recipe'
  return page.locator(`[data-entry="${id}"][data-type="${type}"]`)
}

/** Adds a bath or recipe by its id. */
export async function add(page: Page, id: string): Promise<void> {
  await press(page, 'a')
  await boardEntry(page, id).click()
  // A further process is asked about.
  const behind = page.getByRole('button', { name: 'after it, as a second print' })
  const board = page.getByRole('dialog', { name: 'Add to the line' })
  await expect.poll(async () => (await behind.isVisible()) || (await board.isHidden())).toBe(true)
  if (await behind.isVisible()) await behind.click()
  await expect(board).toBeHidden()
}

/** A key for the bench, not for a field that happens to have the focus. */
export async function press(page: Page, key: string): Promise<void> {
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur())
  await page.keyboard.press(key)
}

/** A program of page-side/ as text, to be run in the page. */
export async function bundled(name: string): Promise<string> {
  const { outputFiles } = await build({
    entryPoints: [join(import.meta.dirname, 'page-side', `${name}.ts`)],
    bundle: true,
    write: false,
    format: 'iife',
    target: 'es2022',
  })
  return outputFiles[0]!.text
}

/** The render that the page has just told of, at Dispatch; others may come into the row at any time. */
export async function renderToldOf(page: Page): Promise<Locator> {
  const told = await page.getByText(/Render \d+ is in line/).textContent()
  return page.locator(`[data-render="${/Render (\d+)/.exec(told!)![1]}"]`)
}

/** Renders the shot in a format, by its words in the menu, and goes to where it went: the render there. */
export async function renderAs(page: Page, format: string): Promise<Locator> {
  await page.getByRole('button', { name: 'Render', exact: true }).click()
  await page.locator('.n-dropdown-option').getByText('Shots as clips or stills').click()
  const dialog = page.getByRole('dialog', { name: 'Render' })
  await dialog.getByLabel('Format').click()
  await page.locator('.n-base-select-option').getByText(format, { exact: true }).click()
  await dialog.getByRole('button', { name: 'Render', exact: true }).click()
  const render = await renderToldOf(page)
  await page.getByRole('link', { name: 'See it at Dispatch' }).click()
  await expect(page.getByRole('heading', { name: 'Dispatch' })).toBeVisible()
  return render
}
