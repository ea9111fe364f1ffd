import { expect, test } from '@playwright/test'
import { benchOfCopy, bundled, demoProduction, press, restedPicture } from './helpers'

test('a clip decoded in the page has the server’s pixels, whole and scaled, in any order', async ({ page }) => {
  await page.goto('/')
  await page.evaluate(await bundled('clip'))
  const media = (await demoProduction(page.request)).shots.map((s) => s.medium)
  expect(media.map((m) => m.info.pixelFormat)).toContain('yuv420p10le')
  const orders: [number, number][][] = [
    [0, 1, 2, 30].map((frame) => [frame, 960]),
    [47, 5, 6].map((frame) => [frame, 1280]),
  ]
  for (const [i, asked] of orders.entries()) {
    const { id, info } = media[i]!
    const apart = await page.evaluate(([m, t, a]) => window.compareClip(m, t, a), [id, info, asked] as const)
    // The limit is one code of 10 bits.
    expect(apart).toHaveLength(asked.length)
    expect(Math.max(...apart!)).toBeLessThan(0.25)
  }
  // What does not keep to what the server says of it is left to the server.
  const { id, info } = media[0]!
  const open = (traits: typeof info) => page.evaluate(([m, t]) => window.compareClip(m, t, []), [id, traits] as const)
  expect(await open({ ...info, bits: 8 })).toBeNull()
  expect(await open({ ...info, frames: info.frames + 1 })).toBeNull()
  expect(await open({ ...info, width: info.width / 2 })).toBeNull()
})

test('playing decodes in the page, and the server gives no frames meanwhile', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  // The small pictures of the shots are made of frames as well; they come first.
  await expect(page.locator('.rail img')).toHaveCount(5)
  const asked: string[] = []
  page.on('request', (r) => void (/\/(frames\/\d+|file)/.test(r.url()) && asked.push(r.url().replace(/.*media/, ''))))
  const frame = page.getByRole('slider', { name: 'Frame', exact: true })
  const at = async (): Promise<number> => Number(await frame.getAttribute('aria-valuenow'))
  const play = async (): Promise<void> => {
    await page.getByRole('button', { name: 'Play', exact: true }).click()
    await expect(page.locator('[data-test=speed]')).toHaveText(/fps$/)
    // Playing is a loop, so a higher number need never come: frames are counted.
    const shown = new Set<number>()
    await expect.poll(async () => shown.add(await at()).size, { intervals: [100] }).toBeGreaterThan(8)
  }
  const quiet = () =>
    expect(async () => {
      const before = asked.length
      await page.waitForTimeout(1000)
      expect(asked.length).toBe(before)
    }).toPass()
  const stop = () => page.getByRole('button', { name: 'Stop' }).click()
  // On a busy machine a clip is not open at once, and the server helps out until it is.
  await play()
  await quiet()
  await stop()
  expect(asked.filter((url) => url.endsWith('/file'))).toHaveLength(1)

  // From the last frame playing would go back to the first one, which is a frame that rests.
  await press(page, 'Home')
  // In another size there is no frame yet but the one that is looked at.
  await page.setViewportSize({ width: 1920, height: 1080 })
  await restedPicture(page)
  // What is measured on the frame that rests may come late on a busy machine.
  await quiet()
  const sizes = new Set(asked.map((url) => /width=(\d+)/.exec(url)?.[1]))
  asked.length = 0
  await play()
  // What is measured on the frame is asked for once it stops.
  const meanwhile = [...asked]
  await stop()
  expect(meanwhile).toEqual([])
  expect(sizes.size).toBeGreaterThan(1)
})
