import { readFileSync } from 'node:fs'
import { expect, test, type Page } from '@playwright/test'
import { benchOfCopy, press, readPicture, differenceOf } from './helpers'

/** Resident memory of the browser's page processes, MB. */
async function pageMemory(page: Page): Promise<number> {
  const session = await page.context().browser()!.newBrowserCDPSession()
  const { processInfo } = (await session.send('SystemInfo.getProcessInfo')) as {
    processInfo: { type: string; id: number }[]
  }
  await session.detach()
  const resident = processInfo
    .filter((p) => p.type === 'renderer')
    .map((p) => Number(/VmRSS:\s+(\d+)/.exec(readFileSync(`/proc/${p.id}/status`, 'utf8'))?.[1] ?? 0))
  return resident.reduce((a, b) => a + b, 0) / 1024
}

/** Steps of a slider by its key, each waited for until a picture was drawn; how many were answered. */
const drag = (page: Page, name: string, from: number, to: number) =>
  page.evaluate(
    async ([title, first, end]) => {
      const stage = document.querySelector<HTMLElement>('.stage')!
      const handle = document.querySelector<HTMLElement>(`[role="slider"][aria-label="${title}"]`)!
      handle.focus()
      let answered = 0
      for (let i = first; i < end; i++) {
        const before = stage.dataset['drawn']
        // There and back again, so that every step changes something.
        const key = Math.floor(i / 60) % 2 === 0 ? 'ArrowLeft' : 'ArrowRight'
        handle.dispatchEvent(new KeyboardEvent('keydown', { key, code: key, bubbles: true }))
        const late = performance.now() + 3000
        while (stage.dataset['drawn'] === before && performance.now() < late)
          await new Promise((resolve) => setTimeout(resolve, 4))
        if (stage.dataset['drawn'] !== before) answered++
      }
      return answered
    },
    [name, from, to] as const,
  )

test('a slider dragged over 500 steps is answered each time, and memory stays flat', async ({ page }) => {
  const failures: string[] = []
  page.on('pageerror', (e) => failures.push(e.message))
  page.on('console', (m) => m.type() === 'error' && failures.push(m.text()))
  await benchOfCopy(page, 'Regatta bunting')
  const start = await readPicture(page)
  expect(await drag(page, 'Bleach, print', 0, 60)).toBe(60)
  const warm = await pageMemory(page)
  expect(differenceOf(await readPicture(page), start)).toBeGreaterThan(1)
  expect(await drag(page, 'Bleach, print', 60, 500)).toBe(440)
  // A solid is 0.6 MB; tables and solids share a budget of 48 MB in each of two workers.
  expect((await pageMemory(page)) - warm).toBeLessThan(300)
  // The line still answers: lifted out it is another picture.
  const before = await readPicture(page)
  await press(page, 'x')
  await expect.poll(async () => differenceOf(await readPicture(page), before)).toBeGreaterThan(0.5)
  expect(failures).toEqual([])
})

test('playing ends with a sentence when a frame cannot be read, and can be begun again', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  const play = page.getByRole('button', { name: 'Play', exact: true })
  // Neither the page's own decoding nor the server's.
  await page.route(/\/file$/, (route) => route.abort())
  await page.route(/\/frames\//, (route) => route.fulfill({ status: 500, json: { message: 'The frame is damaged.' } }))
  await play.click()
  await expect(page.locator('.stage')).toContainText('Playing stopped: The frame is damaged.')
  await expect(play).toBeVisible()
  await page.unroute(/\/frames\//)
  await play.click()
  await expect(page.getByRole('button', { name: 'Stop', exact: true })).toBeVisible()
  await expect(page.locator('[data-test=speed]')).toHaveText(/^[1-9]\d*\/24/)
  await page.getByRole('button', { name: 'Stop', exact: true }).click()
})
