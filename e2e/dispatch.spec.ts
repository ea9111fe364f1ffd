import { DELIVERY_IDS, deliveryFormat } from '@fogbath/core/delivery'
import { copyFileSync, mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { benchOfCopy, pictureReady, renderAs } from './helpers'

test('a render is cancelled, tried again, and removed in the page', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  // Others stand before it in the row, so that it cannot be done before it is cancelled, however quick the machine is.
  const shot = page.url().split('/').at(-1)!
  const others: number[] = []
  for (let i = 0; i < 6; i++) {
    const asked = await page.request.post(`/api/shots/${shot}/renders`, { data: { format: 'exr' } })
    others.push(((await asked.json()) as { id: number }).id)
  }
  await page.getByRole('button', { name: 'Render' }).click()
  // All that can be delivered is offered.
  for (const id of DELIVERY_IDS) await expect(page.getByText(deliveryFormat(id).label)).toBeVisible()
  await page.keyboard.press('Escape')
  const render = await renderAs(page, 'EXR, linear float, numbered')
  await expect(render).toContainText('Regatta bunting')
  await render.getByRole('button', { name: 'Cancel' }).click()
  await expect(render).toHaveAttribute('data-state', 'cancelled')
  await render.getByRole('button', { name: /again/i }).click()
  await expect(render).toHaveAttribute('data-state', /waiting|running/)
  await render.getByRole('button', { name: 'Cancel' }).click()
  await expect(render).toHaveAttribute('data-state', 'cancelled')
  await render.getByRole('button', { name: /^Remove/ }).click()
  await expect(render).toHaveCount(0)
  for (const other of others) await page.request.delete(`/api/renders/${other}`)
})

test('footage is dropped on the page, and picked from the watched folder as a sequence', async ({ page }) => {
  await page.goto('/')
  await page.getByLabel('Name of a new production').fill('Dropped')
  await page.getByRole('button', { name: 'Make' }).click()
  await expect(page.getByText('No footage yet.')).toBeVisible()

  const bytes = readFileSync('docs/baths/instant.png').toString('base64')
  const files = await page.evaluateHandle((base64) => {
    const transfer = new DataTransfer()
    const data = Uint8Array.from(atob(base64), (c) => c.charCodeAt(0))
    for (const name of ['one.png', 'two.png']) transfer.items.add(new File([data], name, { type: 'image/png' }))
    return transfer
  }, bytes)
  const zone = page.locator('.drop')
  await zone.dispatchEvent('dragover', { dataTransfer: files })
  await expect(zone).toHaveClass(/over/)
  await zone.dispatchEvent('drop', { dataTransfer: files })
  await expect(page.locator('article.shot')).toHaveCount(2)

  const { folder } = (await (await page.request.get('/api/watched')).json()) as { folder: string }
  mkdirSync(join(folder, 'reel'), { recursive: true })
  for (const n of [1, 2, 3]) copyFileSync('docs/baths/aged-print.png', join(folder, 'reel', `r.000${n}.png`))
  await page.getByRole('button', { name: 'From the watched folder' }).click()
  for (const n of [1, 2, 3]) await page.getByText(`reel/r.000${n}.png`).click()
  await page.getByText('one numbered sequence').click()
  await page.getByLabel('Frames a second', { exact: true }).click()
  await page.locator('.n-base-select-option').filter({ hasText: /^25$/ }).click()
  await page.getByRole('button', { name: /^Take/ }).click()
  await expect(page.locator('article.shot')).toHaveCount(3)
  await expect(page.locator('article.shot').nth(2)).toContainText('3 frames at 25')
  await page.locator('article.shot').nth(2).getByRole('link', { name: 'bench', exact: true }).click()
  await pictureReady(page)
  await expect(page.getByRole('group', { name: 'Playing' })).toContainText('00:00:00:01')
})
