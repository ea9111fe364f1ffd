// The part of npm run bench that times the page itself, in headless Chromium, on the demo production.
import { readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { CHROMIUM } from './lib/chromium.mjs'
import { startApplication } from './lib/application.mjs'
import { figure, median } from './lib/figures.mjs'
import { run } from './lib/say.mjs'
import { ROOT } from './lib/setup.mjs'

const FOLDER = join(ROOT, '.fogbath-bench')
const STEPS = 40
/** Milliseconds from a pressed key until the worker has drawn the picture that answers it, for steps of a slider. */
const sliderTimes = (page, steps) =>
  page.evaluate(async (count) => {
    const stage = document.querySelector('.stage')
    const handle = document.querySelector('[role="slider"][aria-label="Bleach, print"]')
    handle.focus()
    // Away from the nearer end, so that every step is another setting.
    const key = Number(handle.getAttribute('aria-valuenow')) < 50 ? 'ArrowRight' : 'ArrowLeft'
    const drawn = () =>
      new Promise((done) => {
        const seen = new MutationObserver(() => {
          seen.disconnect()
          done()
        })
        seen.observe(stage, { attributes: true, attributeFilter: ['data-drawn'] })
      })
    const times = []
    for (let i = 0; i < count; i++) {
      const answered = drawn()
      const begun = performance.now()
      handle.dispatchEvent(new KeyboardEvent('keydown', { key, code: key, bubbles: true }))
      await Promise.race([answered, new Promise((done) => setTimeout(done, 3000))])
      times.push(Number(stage.dataset.drawn) - performance.timeOrigin - begun)
      // What a change sets going beside the picture (strips, figures, saving) is let come to rest.
      await new Promise((done) => setTimeout(done, 400))
    }
    return times
  }, steps)

/** Milliseconds from a click on another shot until its picture is there. */
const openTimes = (page, names) =>
  page.evaluate(async (shots) => {
    const times = []
    for (const name of shots) {
      const before = document.querySelector('.stage')?.dataset.drawn
      const link = [...document.querySelectorAll('.rail a, .rail button')].find((e) => e.textContent.includes(name))
      const begun = performance.now()
      link.click()
      while (performance.now() - begun < 5000) {
        const stage = document.querySelector('.stage')
        if (stage?.dataset.drawn && stage.dataset.drawn !== before) break
        await new Promise((done) => setTimeout(done, 4))
      }
      times.push(performance.now() - begun)
      await new Promise((done) => setTimeout(done, 1500))
    }
    return times
  }, names)

const pageMemory = async (browser) => {
  const session = await browser.newBrowserCDPSession()
  const { processInfo } = await session.send('SystemInfo.getProcessInfo')
  const renderers = processInfo.filter((p) => p.type === 'renderer').map((p) => p.id)
  return renderers.reduce((sum, id) => {
    const status = readFileSync(`/proc/${id}/status`, 'utf8')
    return sum + Number(/VmRSS:\s+(\d+)/.exec(status)[1]) / 1024
  }, 0)
}

run(async () => {
  rmSync(FOLDER, { recursive: true, force: true })
  const application = await startApplication(FOLDER)
  const browser = await chromium.launch(CHROMIUM)
  try {
    // A window in which the preview is worked at 960 by 540.
    const page = await browser.newPage({ viewport: { width: 1400, height: 900 } })
    await page.goto(application.url)
    await page
      .getByRole('link', { name: /^Night lantern/ })
      .first()
      .click()
    await page.waitForFunction(() => /ms$/.test(document.querySelector('[data-test=speed]')?.textContent ?? ''))
    await page.waitForTimeout(3000)
    await sliderTimes(page, 3)
    const times = await sliderTimes(page, STEPS)
    figure('slider to picture in Chromium, 960x540', median(times), 'ms', { must: 33, goal: 16 })
    const names = ['Regatta', 'Dawn', 'Keeper', 'Lock', 'Night']
    // The first time round the server decodes the frames.
    await openTimes(page, names)
    const opened = await openTimes(page, names)
    figure('first picture after opening a shot, server warm', median(opened), 'ms', { must: 1000, goal: 400 })
    await page.evaluate(() => document.activeElement?.blur())
    await page.keyboard.press(' ')
    await page.waitForTimeout(6000)
    const rate = parseFloat((await page.locator('[data-test=speed]').innerText()).replace(/^\D*/, ''))
    figure('playing the demo clip, 960x540', rate, 'frames/s', { must: 24, goal: 24, least: true })
    const early = await pageMemory(browser)
    await page.waitForTimeout(20_000)
    await page.keyboard.press(' ')
    await sliderTimes(page, 100)
    figure('page memory after playing', early, 'MB')
    figure('page memory after more playing and 100 steps, of it', (await pageMemory(browser)) / early, 'x', {
      must: 1.1,
      goal: 1.03,
    })
  } finally {
    await browser.close()
    await application.stop()
    rmSync(FOLDER, { recursive: true, force: true })
  }
  return 0
})
