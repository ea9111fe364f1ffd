import AxeBuilder from '@axe-core/playwright'
import { expect, test, type Page } from '@playwright/test'
import { add, benchOfCopy, canvas, pictureReady, press, renderToldOf, restedPicture } from './helpers'

/** Texts that stand smaller than 13 pixels. */
const smallTexts = (page: Page): Promise<string[]> =>
  page.evaluate(() => {
    const found = new Set<string>()
    const texts = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT)
    for (let node = texts.nextNode(); node; node = texts.nextNode()) {
      const holder = node.parentElement
      const said = node.textContent?.trim()
      if (!said || !holder?.checkVisibility({ visibilityProperty: true }) || holder.closest('[inert], .sr-only'))
        continue
      const scale = holder instanceof SVGGraphicsElement ? (holder.getScreenCTM()?.a ?? 1) : 1
      const size = parseFloat(getComputedStyle(holder).fontSize) * scale
      if (size < 12.99)
        found.add(`small text, ${size.toFixed(1)} px: ${said.slice(0, 40)} in ${holder.className || holder.tagName}`)
    }
    return [...found]
  })

/** Violations that axe calls serious or critical (targets below 24 pixels among them), and texts that are too small. */
async function faults(page: Page): Promise<string[]> {
  const { violations } = await new AxeBuilder({ page })
    .withTags(['wcag2a', 'wcag2aa', 'wcag21aa', 'wcag22aa'])
    .analyze()
  const told = violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.target.join(' ')} ${n.html.slice(0, 160)}`))
  return [...told, ...(await smallTexts(page))]
}

test('no view has a serious fault, in the dark and the light interface', async ({ page }) => {
  const { production } = await benchOfCopy(page, 'Dawn fog')
  const box = (await canvas(page).boundingBox())!
  await page.mouse.click(box.x + 100, box.y + 100)
  for (const own of ['+ balance', '+ timing']) await page.getByRole('button', { name: own }).click()
  for (const theme of ['dark', 'light']) {
    await test.step(theme, async () => {
      await page.goto('/')
      await expect(page.getByRole('heading', { name: 'Productions' })).toBeVisible()
      if (theme === 'light') await page.getByRole('button', { name: 'Light interface' }).click()
      expect(await faults(page)).toEqual([])
      await page.goto(`/productions/${production}`)
      await expect(page.locator('article.shot')).toHaveCount(5)
      expect(await faults(page)).toEqual([])
      await page.getByRole('button', { name: 'Encodings' }).click()
      await page.getByText('By numbers').click()
      await page.waitForTimeout(400)
      expect(await faults(page), 'encodings').toEqual([])
      await page.goto('/dispatch')
      await expect(page.getByRole('heading', { name: 'Dispatch' })).toBeVisible()
      expect(await faults(page)).toEqual([])
      await page.goto('/shelf')
      await expect(page.getByRole('heading', { name: 'Silver and dye' })).toBeVisible()
      expect(await faults(page)).toEqual([])
      await page.goto('/storage')
      await expect(page.getByRole('heading', { name: 'What can go' })).toBeVisible()
      expect(await faults(page)).toEqual([])
    })
  }
})

test('the bench and its sheets have no serious fault', async ({ page }) => {
  await benchOfCopy(page, 'Dawn fog')
  const box = (await canvas(page).boundingBox())!
  await page.mouse.click(box.x + 100, box.y + 100)
  for (const own of ['+ balance', '+ timing']) await page.getByRole('button', { name: own }).click()
  await press(page, 'w')
  expect(await faults(page)).toEqual([])
  await press(page, 'w')
  await page.getByRole('button', { name: 'Mask', exact: true }).click()
  for (const part of ['outline', 'colours'])
    await page.locator('.mask .add').getByRole('button', { name: part }).click()
  await page.getByRole('button', { name: '1 Outline' }).click()
  await expect(page.locator('.handles g').first()).toBeVisible()
  expect(await faults(page), 'mask').toEqual([])
  await add(page, 'ranges')
  await page.getByRole('slider', { name: 'Mids: amount and hue' }).focus()
  await expect(page.locator('.toned .arc')).toBeVisible()
  expect(await faults(page), 'toned wedge').toEqual([])
  for (const [key, name] of [
    ['?', 'Keys'],
    ['m', 'Proofs of this shot'],
    ['n', 'Notes'],
    ['r', 'Render'],
    ['a', 'Add to the line'],
  ] as const) {
    await press(page, key)
    await expect(page.getByRole('dialog', { name })).toBeVisible()
    await page.waitForTimeout(400)
    expect(await faults(page), name).toEqual([])
    await page.keyboard.press('Escape')
    await expect(page.getByRole('dialog', { name })).toBeHidden()
  }
})

for (const [width, height] of [
  [1024, 720],
  [1280, 800],
  [1920, 1080],
  [2560, 1440],
] as const)
  test(`the bench fits a window of ${width} by ${height}`, async ({ page }) => {
    await page.setViewportSize({ width, height })
    await benchOfCopy(page, 'Keeper and apprentice')
    await restedPicture(page)
    const over = await page.evaluate(() => ({
      page: document.documentElement.scrollWidth - window.innerWidth,
      // Nothing in the bars is cut off or pushed out of the window.
      cut: [...document.querySelectorAll('header *, .bar *, .line .tray, .right *')]
        .filter((e) => {
          const box = e.getBoundingClientRect()
          return box.width > 0 && (box.right > window.innerWidth + 1 || box.left < -1)
        })
        .map((e) => e.outerHTML.slice(0, 120)),
    }))
    expect(over).toEqual({ page: 0, cut: [] })
    const box = (await canvas(page).boundingBox())!
    expect(box.height).toBeGreaterThan(height * 0.36)
  })

test('from opening a production to a render without a mouse', async ({ page }) => {
  /** Goes on with Tab until something of that name has the focus. */
  const tabTo = async (name: RegExp): Promise<void> => {
    for (let i = 0; i < 150; i++) {
      await page.keyboard.press('Tab')
      const now = await page.evaluate(() => {
        const e = document.activeElement as HTMLElement
        const said = ['aria-label', 'title', 'href'].map((a) => e.getAttribute(a) ?? '')
        return `${said.join(' ')} ${e.innerText ?? ''}`
      })
      if (name.test(now)) return
    }
    throw new Error(`Nothing named ${String(name)} can be reached by Tab.`)
  }
  const { shot } = await benchOfCopy(page, 'Dawn fog')
  await page.goto('/')
  await expect(page.locator(`a[href="/bench/${shot}"]`).first()).toBeVisible()
  await tabTo(new RegExp(`/bench/${shot}\\b.*Dawn fog`, 's'))
  await page.keyboard.press('Enter')
  await pictureReady(page)
  const before = await page.locator('[data-bath]').count()
  await page.keyboard.press('a')
  await page.keyboard.type('aged')
  await tabTo(/Aged print/)
  await page.keyboard.press('Enter')
  await tabTo(/after it, as a second print/)
  await page.keyboard.press('Enter')
  await expect(page.locator('[data-bath]')).toHaveCount(before + 1)
  await tabTo(/^Strength of the bath/)
  await page.keyboard.press('Home')
  await page.keyboard.press('PageUp')
  await page.keyboard.press('PageUp')
  await expect(page.locator('.bath.chosen .strength')).toHaveText('20')
  await tabTo(/Keys/)
  // Steps of a slider that come close upon each other are one step of undo; on a busy machine they may be several.
  await expect(async () => {
    if ((await page.locator('[data-bath]').count()) > before) await press(page, 'Control+z')
    expect(await page.locator('[data-bath]').count()).toBe(before)
  }).toPass()
  await page.keyboard.press('r')
  await expect(page.getByRole('dialog', { name: 'Render' })).toBeVisible()
  await tabTo(/^\s*Render$/)
  await page.keyboard.press('Enter')
  const render = await renderToldOf(page)
  await tabTo(/\/dispatch/)
  await page.keyboard.press('Enter')
  await expect(page.getByRole('heading', { name: 'Dispatch' })).toBeVisible()
  await expect(render).toHaveAttribute('data-state', 'done')
  await tabTo(/Download/)
})
