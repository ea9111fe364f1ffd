// The second half of npm run bench: the page itself, in headless Chromium, on the demo production.
import { rmSync } from 'node:fs'
import { join } from 'node:path'
import { chromium } from '@playwright/test'
import { startApplication } from './lib/application.mjs'
import { run, say } from './lib/say.mjs'
import { ROOT, build, installPrograms } from './lib/setup.mjs'

const FOLDER = join(ROOT, '.fogbath-bench')
const STEPS = 40
const median = (v) => [...v].sort((a, b) => a - b)[v.length >> 1]
const row = (name, value, goal) => say(`${name.padEnd(46)} ${value.padStart(22)}   ${goal}`)

/** Milliseconds from a pressed key until the worker has drawn the picture that answers it, for steps of a slider. */
const sliderTimes = (page, steps) =>
  page.evaluate(async (count) => {
    const stage = document.querySelector('.stage')
    const handle = document.querySelector('[role="slider"][aria-label="Bleach, print"]')
    handle.focus()
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
      handle.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowLeft', code: 'ArrowLeft', bubbles: true }))
      await Promise.race([answered, new Promise((done) => setTimeout(done, 3000))])
      times.push(Number(stage.dataset.drawn) - performance.timeOrigin - begun)
      // The exact picture follows when the slider rests; it is waited for, so that it is not counted.
      await Promise.race([drawn(), new Promise((done) => setTimeout(done, 1500))])
    }
    return times
  }, steps)

run(async () => {
  installPrograms(['mariadbd', 'ffmpeg', 'chromium'])
  build()
  rmSync(FOLDER, { recursive: true, force: true })
  const application = await startApplication(FOLDER)
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox'] })
  try {
    // A window in which the preview is worked at 960 by 540.
    const page = await browser.newPage({ viewport: { width: 1400, height: 900 } })
    await page.goto(application.url)
    await page.getByRole('link', { name: 'Lock gate' }).first().click()
    await page.waitForFunction(() => /ms$/.test(document.querySelector('[data-test=speed]')?.textContent ?? ''))
    await page.waitForTimeout(3000)
    await sliderTimes(page, 3)
    const times = await sliderTimes(page, STEPS)
    row('slider to picture in Chromium, 960x540', `${median(times).toFixed(1)} ms`, 'must <= 50, goal <= 16 ms')
    await page.evaluate(() => document.activeElement?.blur())
    await page.keyboard.press(' ')
    await page.waitForTimeout(6000)
    const rate = await page.locator('[data-test=speed]').innerText()
    row('playing the demo clip, 960x540', rate, 'the clip’s 24')
  } finally {
    await browser.close()
    await application.stop()
    rmSync(FOLDER, { recursive: true, force: true })
  }
  return 0
})
