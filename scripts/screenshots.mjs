// npm run screenshots [-- NAME ...]: a picture of each main view, from the demo data, into docs/screenshots.
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { CHROMIUM } from './lib/chromium.mjs'
import { startApplication } from './lib/application.mjs'
import { run, say } from './lib/say.mjs'
import { ROOT, build, installPrograms } from './lib/setup.mjs'

const FOLDER = join(ROOT, '.fogbath-screenshots')

/** The bench once its picture, strips and thumbnails are there. */
async function benchReady(page) {
  await page.waitForFunction(() => /ms$/.test(document.querySelector('[data-test=speed]')?.textContent ?? ''))
  await page.waitForFunction(() => document.querySelectorAll('.rail img').length >= 5)
  await page.waitForTimeout(1500)
}
const open = async (page, shot) => {
  await page.goto('/')
  await page
    .getByRole('link', { name: new RegExp(`^${shot}`) })
    .first()
    .click()
  await benchReady(page)
}
const press = async (page, key) => {
  await page.evaluate(() => document.activeElement?.blur())
  await page.keyboard.press(key)
}

const VIEWS = {
  productions: async (page) => {
    await page.goto('/')
    await page.getByText('Two-strip').waitFor()
    await page.waitForTimeout(5000)
  },
  intake: async (page) => {
    await page.goto('/productions/1')
    await page.locator('article.shot').nth(4).waitFor()
    await page.waitForTimeout(4000)
  },
  bench: async (page) => {
    await open(page, 'Keeper and apprentice')
    await press(page, 'w')
    await page.waitForTimeout(1500)
  },
  board: async (page) => {
    await open(page, 'Lock gate')
    await press(page, 'a')
    await page.keyboard.press('ArrowDown')
    await page.waitForTimeout(6000)
  },
  grading: async (page) => {
    await open(page, 'Regatta bunting')
    await press(page, 'a')
    await page.locator('[data-entry="red-poster"]').click()
    await page.locator('[data-bath]').nth(1).locator('.tray').click()
    await page.waitForTimeout(3000)
  },
  wedge: async (page) => {
    await open(page, 'Lock gate')
    await press(page, 'a')
    await page.locator('[data-entry="night-by-hand"]').click()
    await page.locator('[data-bath]').filter({ hasText: 'Ranges' }).locator('.tray').click()
    await page.getByRole('slider', { name: 'Shadows: amount and hue of the colour' }).focus()
    await page.waitForTimeout(3000)
  },
  sheet: async (page) => {
    await page.setViewportSize({ width: 1280, height: 1150 })
    await page.goto('/sheet/sepia?shot=3')
    await page.locator('.paper').waitFor()
    await page.waitForTimeout(2500)
  },
  match: async (page) => {
    await open(page, 'Keeper and apprentice')
    await page.getByRole('button', { name: 'Add a trial' }).click()
    await page.getByText('Fitted to a reference').click()
    const dialog = page.getByRole('dialog')
    await dialog.locator('.n-select').first().click()
    await page.locator('.n-base-select-option').filter({ hasText: 'shot Dawn fog' }).click()
    await dialog.getByText('Fit a process to a reference').click()
    await dialog.getByRole('button', { name: 'Fit', exact: true }).click()
    await dialog.getByRole('button', { name: 'Take it as' }).waitFor({ timeout: 60_000 })
    await page.waitForTimeout(800)
  },
  look: async (page) => {
    await open(page, 'Keeper and apprentice')
    await page.getByRole('button', { name: 'Render', exact: true }).click()
    await page.getByText('The look as a file').click()
    await page.getByText('One table of colours').click()
    await page.getByText('with a shaper').click()
    await page.getByRole('button', { name: 'Make and measure' }).click()
    await page.getByText('on this frame').waitFor({ timeout: 60_000 })
    await page.mouse.move(5, 700)
    await page.waitForTimeout(800)
  },
  keys: async (page) => {
    await open(page, 'Dawn fog')
    await press(page, '?')
    await page.waitForTimeout(600)
  },
  proofs: async (page) => {
    await open(page, 'Regatta bunting')
    await press(page, 'p')
    await page.getByText('Kept as a proof').waitFor()
    await page.getByRole('button', { name: 'B', exact: true }).click()
    await page.waitForTimeout(2000)
    await press(page, 'p')
    await page.locator('button', { hasText: /see proofs\s*2/ }).waitFor()
    await press(page, 'm')
    await page.waitForTimeout(6000)
  },
  reel: async (page) => {
    await open(page, 'Dawn fog')
    await press(page, 'g')
    await page.getByRole('button', { name: 'Regatta bunting in the reel' }).waitFor()
    await page
      .locator('.rail .shot')
      .nth(3)
      .click({ modifiers: ['Control'] })
    await page.getByRole('button', { name: 'Side by side', exact: true }).click()
    await page.waitForTimeout(3000)
  },
  mask: async (page) => {
    await open(page, 'Keeper and apprentice')
    await page.getByRole('button', { name: 'B', exact: true }).click()
    await benchReady(page)
    await page.getByRole('button', { name: 'Mask', exact: true }).click()
    await page.locator('.mask .add').getByRole('button', { name: 'ellipse' }).click()
    for (const [setting, value] of Object.entries({ 'Centre across': 67, 'Centre down': 42, Width: 22, Height: 30 })) {
      await page.getByRole('textbox', { name: `${setting}, number` }).fill(String(value))
      await page.keyboard.press('Enter')
    }
    await page.getByRole('button', { name: 'both ways' }).click()
    await page.getByText(/^tracked in frames/).waitFor({ timeout: 60_000 })
    await page.getByRole('button', { name: 'Key of Strength of the bath in this frame' }).click()
    await page.getByRole('slider', { name: 'Frame', exact: true }).focus()
    await page.keyboard.press('Home')
    await page.getByRole('slider', { name: 'Strength of the bath' }).focus()
    await page.keyboard.press('Home')
    await page.getByRole('slider', { name: 'Frame', exact: true }).focus()
    for (let i = 0; i < 14; i++) await page.keyboard.press('ArrowRight')
    await page.waitForTimeout(2500)
  },
  render: async (page) => {
    await open(page, 'Dawn fog')
    await press(page, 'r')
    await page.getByRole('button', { name: 'For approval' }).click()
    await page.getByText('are free').waitFor()
    await page.waitForTimeout(600)
    // Where the picture was taken is nobody's concern.
    await page
      .locator('label', { hasText: 'also into' })
      .locator('.mono')
      .evaluate((path) => (path.textContent = '/srv/deliveries'))
  },
  dispatch: async (page) => {
    for (const shot of ['Dawn fog', 'Night lantern']) {
      await open(page, shot)
      await page.getByRole('button', { name: 'Render' }).click()
      await page.locator('.n-dropdown-option').getByText('Shots as clips or stills').click()
      await page.getByRole('dialog').getByRole('button', { name: 'Render', exact: true }).click()
      await page.getByRole('link', { name: 'See it at Dispatch' }).click()
      await page.getByRole('heading', { name: 'Dispatch' }).waitFor()
    }
    await page.locator('[data-state=running]').waitFor()
    await page.waitForFunction(() => /fps/.test(document.querySelector('[data-state=running]')?.textContent ?? ''))
    await page.waitForTimeout(1500)
  },
  shelf: async (page) => {
    await open(page, 'Keeper and apprentice')
    await page.getByRole('button', { name: 'keep as recipe' }).click()
    await page.getByLabel('Name of the recipe').fill('Cold wharf')
    await page.getByLabel('What is to be seen').fill('Teal shadows, quiet skin.')
    await page.getByLabel('Tags').fill('water, cold')
    await page.getByRole('button', { name: 'Keep as a recipe' }).click()
    await page.waitForTimeout(800)
    await page.goto('/shelf')
    await page.waitForTimeout(9000)
  },
  storage: async (page) => {
    await page.goto('/storage')
    await page.getByRole('heading', { name: 'What can go' }).waitFor()
    // Where the picture was taken is nobody's concern.
    await page
      .getByText('kept up to', { exact: false })
      .filter({ hasText: FOLDER })
      .evaluate((line, folder) => (line.textContent = line.textContent.replace(folder, '/srv/fogbath')), FOLDER)
  },
}

run(async () => {
  installPrograms(['mariadbd', 'ffmpeg', 'chromium-headless-shell'])
  build()
  rmSync(FOLDER, { recursive: true, force: true })
  const application = await startApplication(FOLDER)
  const browser = await chromium.launch(CHROMIUM)
  try {
    const wanted = process.argv.slice(2)
    for (const [name, show] of Object.entries(VIEWS)) {
      if (wanted.length && !wanted.includes(name)) continue
      const page = await browser.newPage({ viewport: { width: 1280, height: 800 }, baseURL: application.url })
      await show(page)
      await page.screenshot({ path: join(ROOT, 'docs/screenshots', `${name}.png`) })
      await page.close()
      say(`docs/screenshots/${name}.png`)
    }
  } finally {
    await browser.close()
    await application.stop()
    rmSync(FOLDER, { recursive: true, force: true })
  }
  return 0
})
