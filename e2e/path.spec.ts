import { execFileSync } from 'node:child_process'
import { readFileSync } from 'node:fs'
import { expect, test } from '@playwright/test'
import { NOTHING_AROUND, changeSettings } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Treatment } from '@fogbath/core/treat'
import {
  benchOfCopy,
  differenceOf,
  pictureReady,
  readPicture,
  renderAs,
  restedPicture,
  saturation,
  saved,
  setNumber,
} from './helpers'

const decode = (path: string, frame: number): Uint16Array => {
  const filter = `select=eq(n\\,${frame}),zscale=matrixin=709:rangein=limited:matrix=gbr:range=full:dither=none,format=gbrp16le`
  const bytes = execFileSync(
    'ffmpeg',
    ['-v', 'error', '-i', path, '-vf', filter, '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgb48le', 'pipe:1'],
    { maxBuffer: 1e9 },
  )
  return new Uint16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2)
}

test('from the demo production to a downloaded render that equals core', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  // Memory may be shared between the threads of the page.
  expect(await page.evaluate(() => crossOriginIsolated)).toBe(true)
  await restedPicture(page)
  const [colour, before] = [await saturation(page), await readPicture(page)]

  await test.step('keeping silver changes the picture, the strip and the readings at once', async () => {
    const strip = page.getByRole('img', { name: 'Test strip: after Colour print' })
    const was = await strip.innerHTML()
    await setNumber(page, 'Bleach, print', '0')
    await expect.poll(() => strip.innerHTML()).not.toBe(was)
    await expect.poll(() => saturation(page)).toBeLessThan(colour * 0.92)
    await saved(page)
  })

  await test.step('undo and redo', async () => {
    await page.getByRole('button', { name: 'undo' }).click()
    await expect.poll(async () => differenceOf(await readPicture(page), before)).toBeLessThan(1)
    await page.getByRole('button', { name: 'redo' }).click()
    await expect.poll(() => saturation(page)).toBeLessThan(colour * 0.92)
    await saved(page)
  })

  await test.step('it is kept over a reload, with its undo', async () => {
    await page.reload()
    await pictureReady(page)
    await expect(page.getByRole('textbox', { name: 'Bleach, print, number' })).toHaveValue('0')
    await expect(page.getByRole('button', { name: 'undo' })).toBeEnabled()
  })

  const path = await test.step('render, watch, download', async () => {
    const render = await renderAs(page, 'H.264, 10 bit (.mp4)')
    await expect(render).toHaveAttribute('data-state', 'done')
    const [download] = await Promise.all([
      page.waitForEvent('download'),
      render.getByRole('link', { name: 'Download' }).click(),
    ])
    return download.path()
  })

  await test.step('the decoded download is what core computes', () => {
    const footage = decode('demo/footage/dawn-fog.mp4', 12)
    const n = footage.length / 3
    const recipe = changeSettings(
      SHIPPED_RECIPES.find((r) => r.id === 'plain')!,
      'bath-1',
      { bleachPrint: 0 },
    )
    const core = new Treatment().run(
      { data: footage, format: 'u16', width: 1280, height: 720, frame: 12 },
      { ...NOTHING_AROUND, recipe, encoding: 'bt1886' },
    ).pixels
    const rendered = decode(path, 12)
    let sum = 0
    for (let i = 0; i < n; i++)
      for (let k = 0; k < 3; k++) sum += Math.abs(rendered[3 * i + k]! / 257 - core[4 * i + k]! * 255)
    expect(readFileSync(path).length).toBeGreaterThan(10_000)
    expect(sum / (3 * n)).toBeLessThan(1)
  })
})

test('older productions are asked for page by page', async ({ page }) => {
  const ids: number[] = []
  try {
    for (let i = 0; i < 16; i++) {
      const made = await page.request.post('/api/productions', { data: { name: `Page filler ${i}` } })
      ids.push(((await made.json()) as { id: number }).id)
    }
    await page.goto('/')
    await expect(page.getByText('Page filler 15')).toBeVisible()
    await expect(page.getByText('Page filler 0', { exact: true })).toHaveCount(0)
    await page.getByRole('button', { name: 'Older productions' }).click()
    await expect(page.getByText('Page filler 0', { exact: true })).toBeVisible()
  } finally {
    // The other tests look for the demo on the first page.
    for (const id of ids) await page.request.delete(`/api/productions/${id}`)
  }
})
