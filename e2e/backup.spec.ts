import { spawnSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test } from '@playwright/test'
import { benchOfCopy } from './helpers'

test('a production is taken along and brought in again; a damaged file is refused', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  const name = `Towpath ${Date.now()}`
  const { revision } = (await (await page.request.get(`/api/productions/${production}`)).json()) as { revision: number }
  await page.request.patch(`/api/productions/${production}`, { data: { revision, name } })
  await page.goto('/')
  const own = page.locator('article', { hasText: name })
  await own.getByRole('button', { name: 'export' }).click()
  const waiting = page.waitForEvent('download')
  await page.getByRole('link', { name: 'with its footage' }).click()
  const path = await (await waiting).path()

  const bytes = readFileSync(path)
  const bring = (buffer: Buffer) =>
    page.getByLabel('Backup to import').setInputFiles({ name: 'along.zip', mimeType: 'application/zip', buffer })
  await bring(bytes.subarray(0, bytes.length - 1000))
  const sheet = page.getByRole('dialog', { name: 'Import' })
  await expect(sheet.getByRole('alert')).toContainText('along.zip is damaged or no backup')
  await sheet.getByRole('button', { name: 'close' }).click()

  await bring(bytes)
  await expect(sheet).toContainText(`${name} 5 shots, 2 proofs`)
  await expect(sheet).toContainText('one of this name is here; both stay')
  await expect(sheet).toContainText('5 are here already')
  await sheet.getByRole('button', { name: 'Put it away' }).click()
  await expect(own).toHaveCount(1)
  await bring(bytes)
  await sheet.getByRole('button', { name: 'Import it' }).click()
  await expect(own).toHaveCount(2)
  await expect(sheet).toBeHidden()
})

const BIN = join(import.meta.dirname, '../packages/server/bin/fogbath.js')

test('the command line backs up, looks into a backup, restores it, and sweeps', async ({ page }) => {
  const data = process.env['FOGBATH_DATA']
  test.skip(!data, 'needs the data folder of the application that is tested')
  const folder = mkdtempSync(join(tmpdir(), 'fogbath-backup-'))
  const run = (args: readonly string[], home = data!) => {
    const { status, stdout, stderr } = spawnSync(process.execPath, [BIN, ...args], {
      encoding: 'utf8',
      env: { ...process.env, FOGBATH_DATA: home },
    })
    return { status, said: `${stdout}${stderr}` }
  }
  const name = `Weir ${Date.now()}`
  const made = (await (await page.request.post('/api/productions', { data: { name } })).json()) as { id: number }
  const countOf = async (): Promise<number> => {
    const { items: list } = (await (await page.request.get('/api/productions')).json()) as { items: { name: string }[] }
    return list.filter((p) => p.name === name).length
  }
  try {
    const file = join(folder, 'weir.zip')
    const backup = ['backup', '-o', file, '--production', String(made.id), '--no-media']
    expect(run(backup)).toEqual({ status: 0, said: `${file}: written\n` })
    expect(run(backup)).toMatchObject({ status: 2, said: expect.stringContaining('weir.zip') })
    expect(run([...backup, '--force']).status).toBe(0)
    expect(existsSync(`${file}.part`)).toBe(false)
    const look = run(['restore', file, '--dry-run'])
    expect(look.said).toContain(`${name}: 0 shots, 0 proofs (one of this name is here already)`)
    expect([look.status, await countOf()]).toEqual([0, 1])
    expect(run(['restore', file]).status).toBe(0)
    expect(await countOf()).toBe(2)
    // A second time only when that is asked for.
    expect(run(['restore', file])).toMatchObject({
      status: 2,
      said: expect.stringMatching(/was taken in already.*--again/),
    })
    expect(await countOf()).toBe(2)
    expect(run(['restore', file, '--again']).status).toBe(0)
    expect(await countOf()).toBe(3)
    expect(run(['restore', BIN])).toMatchObject({ status: 3, said: expect.stringMatching(/damaged or no backup/) })
    expect(run(['sweep', '--dry-run']).status).toBe(0)
    const elsewhere = run(['backup', '-o', join(folder, 'none.zip')], folder)
    expect(elsewhere).toMatchObject({ status: 2, said: expect.stringContaining('is not running with the data folder') })
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
})
