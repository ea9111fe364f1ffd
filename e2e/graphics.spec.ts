import { expect, test, type Page } from '@playwright/test'
import { benchOfCopy, bundled, differenceOf, readPicture, restedPicture, sameAs, setNumber } from './helpers'

/** Chromium draws WebGL2 in software here: right or wrong can be told, quick or slow cannot. */

test('graphics draws what the processor draws: every recipe, laying, mask and step on neighbours', async ({ page }) => {
  await page.evaluate(await bundled('graphics'))
  expect(await page.evaluate(() => window.graphics.open)).toBe(true)
  const apart = await page.evaluate(() => window.graphics.compareAll())
  expect(apart.length).toBeGreaterThan(80)
  // The limit is one code of 8 bits; the tables are the same, so that they lie much nearer.
  expect(apart.filter((a) => !(a.p999 <= 0.05 && a.most <= 0.25))).toEqual([])
  expect(await page.evaluate(() => window.graphics.leftAlone())).toEqual(['tone', 'colour'])
})

/** Notes who has drawn, as the mark says it. */
async function watchPainter(page: Page): Promise<() => Promise<string[]>> {
  await page.locator('[data-test=painter]').evaluate((mark) => {
    const seen: string[] = []
    ;(window as unknown as { painters: string[] }).painters = seen
    new MutationObserver(() => seen.push(mark.getAttribute('data-by')!)).observe(mark, { attributeFilter: ['data-by'] })
  })
  return () => page.evaluate(() => (window as unknown as { painters: string[] }).painters)
}

test('is used while something moves; what rests is the processor’s, and a lost context is not seen', async ({
  page,
}) => {
  await page.route(/picture\.worker.*\.js/, async (route) => {
    const reply = await route.fetch()
    const noting = `const open = OffscreenCanvas.prototype.getContext; self.contexts = [];
      OffscreenCanvas.prototype.getContext = function (...how) {
        const made = open.apply(this, how); if (how[0] === 'webgl2' && made) self.contexts.push(made); return made };`
    await route.fulfill({ response: reply, body: noting + (await reply.text()) })
  })
  await benchOfCopy(page, 'Regatta bunting')
  // Threads that only take tiles sleep and answer nobody.
  const painting = () => page.workers().filter((w) => w.url().includes('picture.worker'))
  const opened = async (): Promise<number> => {
    const countOf = () => (self as unknown as { contexts: object[] }).contexts.length
    const counts = await Promise.all(painting().map((w) => w.evaluate(countOf)))
    return counts.reduce((sum, n) => sum + n)
  }
  const mark = page.locator('[data-test=painter]')
  await expect(mark).toHaveText('processor')
  // Automatic: what only draws in software is closed again at once.
  await expect.poll(opened).toBe(1)
  await mark.click()
  await expect(mark).toHaveText('only graphics')
  await expect.poll(opened).toBe(2)
  const before = await restedPicture(page)

  const painters = await watchPainter(page)
  const slider = page.getByRole('slider', { name: 'Printer light, green', exact: true })
  // The first programs are translated beside the page, and until then the processor draws.
  await expect
    .poll(async () => {
      await slider.press('ArrowRight')
      return (await painters()).includes('graphics')
    })
    .toBe(true)
  await setNumber(page, 'Printer light, green', '40')
  const changed = await restedPicture(page)
  expect(differenceOf(changed, before)).toBeGreaterThan(1.5)

  const lose = (): void => {
    const { contexts } = self as unknown as { contexts: WebGL2RenderingContext[] }
    contexts.at(-1)?.getExtension('WEBGL_lose_context')?.loseContext()
  }
  await Promise.all(painting().map((w) => w.evaluate(lose)))
  await sameAs(page, changed)
  await setNumber(page, 'Printer light, green', '25')
  await sameAs(page, before)
  // After a while it is opened anew.
  await expect.poll(opened).toBe(3)
})

test('while a setting moves one table of the line draws, and what rests looks the same and is the processor’s', async ({
  page,
}) => {
  await benchOfCopy(page, 'Regatta bunting')
  const mark = page.locator('[data-test=painter]')
  await expect(mark).toHaveText('processor')
  const painters = await watchPainter(page)
  await page.getByRole('slider', { name: 'Printer light, green', exact: true }).focus()
  /** The last of some pictures of a held key, where it was a table's before it was looked at and still is. */
  const drawn = async (): Promise<number[] | null> => {
    for (let i = 0; i < 6; i++) await page.keyboard.press('ArrowRight')
    await page.waitForTimeout(60)
    const isTable = async (): Promise<boolean> => (await mark.getAttribute('data-by')) === 'table'
    const before = await isTable()
    const picture = await readPicture(page)
    return before && (await isTable()) ? picture : null
  }
  let moving: number[] | null = null
  await expect.poll(async () => (moving = await drawn()) !== null).toBe(true)
  const rested = await restedPicture(page)
  await expect(mark).toHaveText('processor')
  // A step of the setting is more than this; the table is the same to the eye.
  expect(differenceOf(moving!, rested)).toBeLessThan(0.6)
  expect(await painters()).toContain('table')
})
