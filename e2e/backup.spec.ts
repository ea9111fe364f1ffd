import { expect, test } from '@playwright/test'
import { benchOfCopy } from './helpers'

test('a production is taken along and brought in again; a damaged file is refused', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  const name = `Towpath ${Date.now()}`
  const { revision } = (await (await page.request.get(`/api/productions/${production}`)).json()) as { revision: number }
  await page.request.patch(`/api/productions/${production}`, { data: { revision, name } })
  await page.goto('/')
  const own = page.locator('article', { hasText: name })
  await own.getByRole('button', { name: 'take along' }).click()
  const waiting = page.waitForEvent('download')
  await page.getByRole('link', { name: 'with its footage' }).click()
  const path = await (await waiting).path()

  const { readFile } = await import('node:fs/promises')
  const bytes = await readFile(path)
  const bring = (buffer: Buffer) =>
    page.getByLabel('Backup to bring in').setInputFiles({ name: 'along.zip', mimeType: 'application/zip', buffer })
  await bring(bytes.subarray(0, bytes.length - 1000))
  const sheet = page.getByRole('dialog', { name: 'Bring in' })
  await expect(sheet.getByRole('alert')).toContainText('along.zip is damaged or no backup')
  await sheet.getByRole('button', { name: 'close' }).click()

  await bring(bytes)
  await expect(sheet).toContainText(`${name} 5 shots, 0 proofs`)
  await expect(sheet).toContainText('one of this name is here; both stay')
  await expect(sheet).toContainText('5 are here already')
  await sheet.getByRole('button', { name: 'Put it away' }).click()
  await expect(own).toHaveCount(1)
  await bring(bytes)
  await sheet.getByRole('button', { name: 'Take it in' }).click()
  await expect(own).toHaveCount(2)
  await expect(sheet).toBeHidden()
})
