import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type APIRequestContext } from '@playwright/test'
import { add, benchOfCopy, pictureReady, press } from './helpers'

interface Row {
  readonly id: number
  readonly revision: number
}
/** Shots of a copy of the demo, cut to a few frames each. */
async function shortShots(request: APIRequestContext, production: number, frames: number): Promise<Row[]> {
  const { shots } = (await (await request.get(`/api/productions/${production}`)).json()) as { shots: Row[] }
  for (const { id, revision } of shots)
    expect((await request.patch(`/api/shots/${id}`, { data: { revision, last: frames - 1, still: 0 } })).status()).toBe(
      200,
    )
  return shots
}
const ask = async (request: APIRequestContext, shot: Row, format: string): Promise<number> =>
  ((await (await request.post(`/api/shots/${shot.id}/renders`, { data: { format } })).json()) as Row).id

test('all shots become one file with a slate, put into the folder of deliveries, and it is looked at beside the footage', async ({
  page,
}) => {
  const { production } = await benchOfCopy(page, 'Lock gate')
  await shortShots(page.request, production, 3)
  await page.reload()
  await pictureReady(page)
  // Far from its footage, which the picture is wiped against below.
  await add(page, 'two-strip')
  await press(page, 'r')
  const dialog = page.getByRole('dialog', { name: 'Render' })
  await dialog.getByRole('button', { name: 'For the edit' }).click()
  await dialog.getByText('all 5 shots').click()
  await dialog.getByLabel('one file of all, in order').check()
  await dialog.getByLabel('slate before it').check()
  const name = `One file ${Date.now()}`
  await dialog.getByLabel('Names of files').fill(name)
  await expect(dialog).toContainText(`One file: ${name}.`)
  const folder = (await dialog.locator('label', { hasText: 'also into' }).locator('.mono').textContent())!
  await dialog.locator('label', { hasText: 'also into' }).locator('input').check()
  await dialog.getByRole('button', { name: 'Render one file' }).click()
  await page.getByRole('link', { name: 'See it at Dispatch' }).click()
  const row = page.locator('article.render', { hasText: name })
  await expect(row).toHaveAttribute('data-state', 'done')
  await expect(row).toContainText('5 shots as one file')
  const file = join(folder, `${name}.mov`)
  expect(existsSync(file)).toBe(true)
  const count = ['-count_packets', '-select_streams', 'v', '-show_entries', 'stream=nb_read_packets', '-of', 'csv=p=0']
  expect(
    execFileSync('ffprobe', ['-v', 'error', ...count, file])
      .toString()
      .trim(),
  ).toMatch(/^16\b/)

  await row.getByRole('button', { name: `Play ${name}` }).click()
  const player = page.getByRole('dialog', { name })
  const canvas = player.locator('canvas')
  /** Mean of the picture's left and right half, 0..255. */
  const halves = (): Promise<number[]> =>
    canvas.evaluate((shown: HTMLCanvasElement) => {
      const [half, pen] = [shown.width >> 1, shown.getContext('2d')!]
      return [0, half].map((x) => {
        const { data } = pen.getImageData(x, 0, half, shown.height)
        return data.reduce((sum, v, i) => sum + (i % 4 === 0 ? v : 0), 0) / (data.length / 4)
      })
    })
  await expect.poll(async () => (await halves())[0]!).toBeGreaterThan(5)
  const alone = await halves()
  await player.getByLabel('Footage at the left, per cent').focus()
  for (let i = 0; i < 5; i++) await page.keyboard.press('PageUp')
  await expect.poll(async () => Math.abs((await halves())[0]! - alone[0]!)).toBeGreaterThan(1)
  expect(Math.abs((await halves())[1]! - alone[1]!)).toBeLessThan(1.5)
  await player.getByRole('button', { name: 'Play', exact: true }).click()
  await expect(canvas).toHaveAttribute('data-frame', '14')
  await page.keyboard.press('Escape')
  rmSync(file)
})

test('renders in line are put in order and stood aside; finished ones are fetched together', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  const shots = await shortShots(page.request, production, 2)
  const act = (id: number, action: string) => page.request.post(`/api/renders/${id}/action`, { data: { action } })
  const [one, two] = [await ask(page.request, shots[0]!, 'png'), await ask(page.request, shots[1]!, 'png')]
  const state = async (id: number) =>
    ((await (await page.request.get(`/api/renders/${id}`)).json()) as { state: string }).state
  for (const id of [one, two]) await expect.poll(() => state(id)).toBe('done')
  // Those stand aside before the page is opened, so that the machine's speed does not matter.
  const aside = [await ask(page.request, shots[2]!, 'exr-float'), await ask(page.request, shots[3]!, 'exr-float')]
  for (const id of [...aside].reverse()) await act(id, 'pause')
  const paused = (await Promise.all(aside.map(state))).every((s) => s === 'paused')
  expect(paused).toBe(true)

  await page.goto('/dispatch')
  const row = (id: number) => page.locator(`article.render[data-render="${id}"]`)
  const places = () =>
    page
      .locator('section[aria-label="In line"] article')
      .evaluateAll((rows) => rows.map((r) => Number((r as HTMLElement).dataset['render'])))
  const own = async () => (await places()).filter((id) => aside.includes(id))
  await expect.poll(own).toEqual(aside)
  await row(aside[1]!)
    .getByRole('button', { name: /^Place of/ })
    .focus()
  await page.keyboard.press('ArrowUp')
  await expect.poll(own).toEqual([...aside].reverse())
  await page.reload()
  await expect.poll(own).toEqual([...aside].reverse())
  const [from, to] = [row(aside[0]!).locator('.grip'), row(aside[1]!).locator('.grip')]
  await from.hover()
  await page.mouse.down()
  const box = (await to.boundingBox())!
  await page.mouse.move(box.x + 8, box.y + 4, { steps: 12 })
  await page.mouse.move(box.x + 8, box.y - 6, { steps: 6 })
  await page.mouse.up()
  await expect.poll(own).toEqual(aside)
  await row(aside[0]!).getByRole('button', { name: 'Go on' }).click()
  await expect(row(aside[0]!)).toHaveAttribute('data-state', 'done')
  await row(aside[1]!).getByRole('button', { name: 'Cancel' }).click()
  await expect(row(aside[1]!)).toHaveAttribute('data-state', 'cancelled')

  for (const id of [one, two]) await row(id).getByRole('checkbox').check()
  const download = page.waitForEvent('download')
  await page.getByRole('link', { name: 'Download 2 as one .zip' }).click()
  const folder = mkdtempSync(join(tmpdir(), 'fogbath-zip-'))
  try {
    const path = join(folder, 'all.zip')
    await (await download).saveAs(path)
    const names =
      readFileSync(path)
        .toString('latin1')
        .match(/[^/\0]{1,80}\/frame\.\d{6}\.png/g) ?? []
    // Each stands at its place and in the list at the end.
    expect(names).toHaveLength(8)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
})

test('the command line has the running application render shots of a production', async ({ page }) => {
  const data = process.env['FOGBATH_DATA']!
  const { production } = await benchOfCopy(page, 'Dawn fog')
  await shortShots(page.request, production, 2)
  const folder = mkdtempSync(join(tmpdir(), 'fogbath-asked-'))
  const program = join(import.meta.dirname, '../packages/server/bin/fogbath.js')
  const render = (...args: string[]): string =>
    execFileSync(
      process.execPath,
      [program, 'render', String(production), '--preset', 'keep', '--out', folder, ...args],
      {
        env: { ...process.env, FOGBATH_DATA: data },
        stdio: ['ignore', 'pipe', 'pipe'],
      },
    ).toString()
  try {
    const plan = JSON.parse(render('--shots', 'Dawn fog', '--dry-run', '--json')) as { output: string; count: number }[]
    expect(plan.map((p) => p.count)).toEqual([2])
    expect(readdirSync(folder)).toEqual([])
    expect(render('--shots', 'Dawn fog', 'Lock gate')).toMatch(
      /Dawn fog A\.mkv: 2 frames\n.*Lock gate A\.mkv: 2 frames\n/,
    )
    expect(readdirSync(folder)).toHaveLength(2)
    expect(() => render('--shots', 'Nowhere')).toThrow(/There is no shot 'Nowhere'; there are /)
    expect(() => render('--shots', 'Dawn fog')).toThrow(/exists already; add --force/)
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
})
