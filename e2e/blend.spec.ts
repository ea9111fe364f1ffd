import { expect, test } from '@playwright/test'
import { type Triple } from '@fogbath/core/colour'
import { LAY_MODES, blend } from '@fogbath/core/lay'
import { seededRandom } from '@fogbath/core/numbers'

test('lay modes give what the browser’s own compositing gives', async ({ page }) => {
  const random = seededRandom(11)
  const byte = (): number => Math.floor(256 * random())
  const colour = (): Triple => [byte(), byte(), byte()]
  const ends: Triple[] = [
    [0, 0, 0],
    [255, 255, 255],
    [255, 0, 0],
    [0, 128, 255],
    [128, 128, 128],
  ]
  const pairs = [
    ...ends.flatMap((b) => ends.map((s) => [b, s] as const)),
    ...Array.from({ length: 60 }, () => [colour(), colour()] as const),
  ]
  await page.goto('/')
  const shown = await page.evaluate(
    ({ modes, pairs }) => {
      const pen = new OffscreenCanvas(1, 1).getContext('2d', { willReadFrequently: true })!
      return modes.map((mode) =>
        pairs.map(([backdrop, source]) => {
          pen.globalCompositeOperation = 'source-over'
          pen.fillStyle = `rgb(${backdrop.join()})`
          pen.fillRect(0, 0, 1, 1)
          // A canvas calls two of them by other names.
          const names: Record<string, string> = { normal: 'source-over', 'plus-lighter': 'lighter' }
          pen.globalCompositeOperation = (names[mode] ?? mode) as GlobalCompositeOperation
          pen.fillStyle = `rgb(${source.join()})`
          pen.fillRect(0, 0, 1, 1)
          return [...pen.getImageData(0, 0, 1, 1).data.slice(0, 3)]
        }),
      )
    },
    { modes: LAY_MODES, pairs },
  )
  LAY_MODES.forEach((mode, m) =>
    pairs.forEach(([b, s], p) => {
      const scaled = (c: Triple): Triple => [c[0] / 255, c[1] / 255, c[2] / 255]
      blend(mode, scaled(b), scaled(s)).forEach((v, k) =>
        // The browser works in 8 bits: two steps of rounding.
        expect(Math.abs(255 * v - shown[m]![p]![k]!), `${mode} of ${b.join()} and ${s.join()}`).toBeLessThanOrEqual(2),
      )
    }),
  )
})
