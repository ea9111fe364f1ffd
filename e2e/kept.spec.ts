import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import {
  copyFileSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  utimesSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type Page } from '@playwright/test'

const data = process.env['FOGBATH_DATA']
test.skip(!data, 'needs the data folder of the application that is tested')

let folder: string
test.beforeAll(() => {
  folder = mkdtempSync(join(tmpdir(), 'fogbath-kept-'))
})
test.afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** A small clip of its own. */
function clip(name: string, hue: number): { path: string; sha256: string; stored: string } {
  const path = join(folder, name)
  const source = `testsrc2=s=160x90:r=24:d=0.5,hue=h=${hue}:s=${1 + (Date.now() % 1000) / 2000}`
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, path])
  const sha256 = createHash('sha256').update(readFileSync(path)).digest('hex')
  return { path, sha256, stored: join(data!, 'media', sha256.slice(0, 2), sha256) }
}
async function produce(page: Page, name: string): Promise<number> {
  return ((await (await page.request.post('/api/productions', { data: { name } })).json()) as { id: number }).id
}

test('footage that is lost is told on its shot, and the same file brings it back', async ({ page }) => {
  const id = await produce(page, `Lost ${Date.now()}`)
  const { path, stored } = clip('ferry.mp4', 40)
  await page.goto(`/productions/${id}`)
  await page.locator('[data-test=files]').setInputFiles(path)
  const shots = page.locator('article.shot')
  await expect(shots).toHaveCount(1)
  renameSync(stored, join(folder, 'away'))
  await page.reload()
  await expect(shots.getByRole('alert')).toContainText('The footage is missing on the server.')
  await page.goto('/storage')
  await expect(page.getByRole('region', { name: 'Lost footage' })).toContainText('ferry.mp4: missing')
  await page.goto(`/productions/${id}`)
  // Until the shot is drawn there is no alert either.
  await expect(shots.getByRole('alert')).toBeVisible()
  await page.locator('[data-test=files]').setInputFiles(path)
  await expect(shots.getByRole('alert')).toHaveCount(0)
  await expect(shots).toHaveCount(1)
  expect(existsSync(stored)).toBe(true)
})

test('stills that are lost are found in a folder that is chosen, among others', async ({ page }) => {
  const id = await produce(page, `Lost stills ${Date.now()}`)
  const scans = join(folder, 'disk', 'scans')
  mkdirSync(scans, { recursive: true })
  const source = `testsrc2=s=96x54:r=24:d=0.2,hue=s=${1 + (Date.now() % 1000) / 2000}`
  execFileSync('ffmpeg', ['-v', 'error', '-y', '-f', 'lavfi', '-i', source, join(scans, 'gate.%03d.png')])
  clip('disk/other.mp4', 10)
  await page.goto(`/productions/${id}`)
  await page.locator('[data-test=folder]').setInputFiles(scans)
  const shots = page.locator('article.shot')
  await expect(shots).toHaveCount(1)
  const hashes = readdirSync(scans).map((name) => createHash('sha256').update(readFileSync(join(scans, name))))
  const kept = createHash('sha256')
    .update(`${hashes.map((h) => h.digest('hex')).join('')}.png`)
    .digest('hex')
  rmSync(join(data!, 'media', kept.slice(0, 2), kept), { recursive: true })
  await page.reload()
  await expect(shots.getByRole('alert')).toContainText('The footage is missing on the server.')
  // Each by itself otherwise: what is missing comes back as it was.
  await page.getByLabel('numbered stills are sequences').uncheck()
  await page.locator('[data-test=missing]').setInputFiles(join(folder, 'disk'))
  await expect(shots.getByRole('alert')).toHaveCount(0)
  await expect(shots).toHaveCount(1)
  const way = page.getByRole('region', { name: 'Files on their way in' })
  await expect(way.getByRole('status')).toHaveText('1 found again')
  await expect(way).not.toContainText('other.mp4')
})

test('footage that the database does not know is shown in Storage, taken in from there, and removed only when asked twice', async ({
  page,
}) => {
  const name = `Unknown ${Date.now()}`
  await produce(page, name)
  const long = new Date(Date.now() - 5 * 3_600_000)
  const [wanted, unwanted] = [clip('heron.mp4', 120), clip('coot.mp4', 200)]
  for (const { path, stored } of [wanted, unwanted]) {
    mkdirSync(join(stored, '..'), { recursive: true })
    copyFileSync(path, stored)
    utimesSync(stored, long, long)
  }
  await page.request.post('/api/sweep', { data: { dryRun: false } })
  await page.goto('/storage')
  const list = page.getByRole('region', { name: 'Not known to the database' })
  const rowOf = ({ sha256 }: { sha256: string }) => list.getByRole('listitem').filter({ hasText: sha256.slice(0, 12) })
  await expect(rowOf(wanted).locator('img')).toBeVisible()
  await expect(rowOf(wanted)).toContainText('written 5 hours ago')
  await rowOf(wanted).getByRole('combobox').or(rowOf(wanted).locator('.n-base-selection')).first().click()
  await page.getByText(name, { exact: true }).click()
  await expect(rowOf(wanted)).toHaveCount(0)
  const { items } = (await (await page.request.get('/api/productions')).json()) as {
    items: { name: string; shots: { medium: { sha256: string; state: string } }[] }[]
  }
  expect(items.find((p) => p.name === name)!.shots).toMatchObject([
    { medium: { sha256: wanted.sha256, state: 'here' } },
  ])
  await rowOf(unwanted)
    .getByRole('button', { name: /^Remove/ })
    .click()
  await page.getByRole('button', { name: 'Keep' }).click()
  await expect(rowOf(unwanted)).toHaveCount(1)
  await rowOf(unwanted)
    .getByRole('button', { name: /^Remove/ })
    .click()
  await page.getByRole('button', { name: 'Remove', exact: true }).click()
  await expect(rowOf(unwanted)).toHaveCount(0)
  expect(existsSync(join(data!, 'unknown', unwanted.sha256))).toBe(false)
})

test('footage that nothing uses stays, is listed, and is put to use from Storage', async ({ page }) => {
  const name = `Unused ${Date.now()}`
  const id = await produce(page, name)
  const { path } = clip('reeds.mp4', 300)
  await page.goto(`/productions/${id}`)
  await page.locator('[data-test=files]').setInputFiles(path)
  const shots = page.locator('article.shot')
  await shots.getByRole('button', { name: 'Remove reeds' }).click()
  await expect(shots).toHaveCount(0)
  await page.goto('/storage')
  const row = page.getByRole('region', { name: 'Footage that nothing uses' }).getByRole('listitem')
  const own = row.filter({ hasText: 'reeds.mp4' }).first()
  await own.locator('.n-base-selection').click()
  await page.getByText(name, { exact: true }).click()
  await expect(page.getByText(`reeds.mp4 is a shot of ${name} now.`)).toBeVisible()
  await page.goto(`/productions/${id}`)
  await expect(shots).toHaveCount(1)
})
