import { copyFileSync, mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { benchOfCopy, pictureReady, press, renderAs } from './helpers'

test('a render is cancelled, tried again, and removed in the page', async ({ page }) => {
  await benchOfCopy(page, 'Regatta bunting')
  // Others stand before it in the row, so that it cannot be done before it is cancelled, however quick the machine is.
  const shot = page.url().split('/').at(-1)!
  const others: number[] = []
  for (let i = 0; i < 6; i++) {
    const asked = await page.request.post(`/api/shots/${shot}/renders`, { data: { format: 'exr-float' } })
    others.push(((await asked.json()) as { id: number }).id)
  }
  const render = await renderAs(page, 'EXR, float, light (.exr)')
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
  await page.getByRole('button', { name: /^Take in \d/ }).click()
  await expect(page.locator('article.shot')).toHaveCount(3)
  await expect(page.locator('article.shot').nth(2)).toContainText('3 frames at 25')
  await page.locator('article.shot').nth(2).getByRole('link', { name: 'bench', exact: true }).click()
  await pictureReady(page)
  await expect(page.getByRole('group', { name: 'Playing' })).toContainText('00:00:00:01')
})

test('what shots become is planned, kept as a preset, rendered for several at once, and made once more', async ({
  page,
}) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  await press(page, 'r')
  const dialog = page.getByRole('dialog', { name: 'Render' })
  await dialog.getByRole('button', { name: 'For approval' }).click()
  await dialog.getByText('all 5 shots').click()
  await expect(dialog).toContainText('240 frames of 1280 × 720')
  await expect(dialog).toContainText('Loses: 8 bit.')
  await dialog.getByLabel('Names of files').fill('{number} {nothing}')
  await expect(dialog.getByRole('alert')).toContainText('{nothing} stands for nothing; there are {production}')
  await expect(dialog.getByRole('button', { name: 'Render 5 shots' })).toBeDisabled()
  await dialog.getByLabel('Names of files').fill('{number} {shot}')
  await expect(dialog).toContainText('001 Lock gate.mp4')
  const name = `House ${Date.now()}`
  await dialog.getByLabel('Name of a new preset').fill(name)
  await dialog.getByRole('button', { name: 'Keep', exact: true }).click()
  await expect(dialog.getByRole('button', { name, exact: true })).toHaveAttribute('aria-pressed', 'true')
  await page
    .locator('[data-test=preset-file]')
    .setInputFiles({ name: 'wrong.json', mimeType: '', buffer: Buffer.from('{"name":"X","format":"avi"}') })
  await expect(page.getByText('wrong.json/format must be one of mp4')).toBeVisible()

  // Two marked shots of some frames each are rendered, and one of them once more.
  await dialog.getByRole('button', { name: 'Not now' }).click()
  const { shots } = (await (await page.request.get(`/api/productions/${production}`)).json()) as {
    shots: { id: number; revision: number }[]
  }
  for (const { id, revision } of shots.slice(0, 2))
    expect((await page.request.patch(`/api/shots/${id}`, { data: { revision, last: 2, still: 1 } })).status()).toBe(200)
  await page.reload()
  await pictureReady(page)
  for (const i of [0, 1])
    await page
      .locator('.rail .shot')
      .nth(i)
      .click({ modifiers: ['Control'] })
  await press(page, 'r')
  await dialog.getByRole('button', { name: 'Stills' }).click()
  await expect(dialog).toContainText('6 frames of 1280 × 720')
  await dialog.getByRole('button', { name: 'Render 2 shots' }).click()
  await page.getByRole('link', { name: 'See it at Dispatch' }).click()
  const first = page.locator('article.render', { hasText: 'Lock gate 00-00-00-00' })
  await expect(first).toHaveAttribute('data-state', 'done')
  await expect(first).toContainText(/TIFF, 16 bit, \.tif in a \.zip · 3 frames.*edition [0-9a-f]{12}/)
  await first.getByRole('button', { name: /once more/ }).click()
  await expect(first).toHaveCount(2)
  await expect(first.nth(0)).toHaveAttribute('data-state', 'done')
})
