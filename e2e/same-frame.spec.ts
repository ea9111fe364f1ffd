import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type APIRequestContext } from '@playwright/test'
import { newBath, type Recipe } from '@fogbath/core/line'
import { newPart, withPart, type Mask } from '@fogbath/core/masks'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { benchOfCopy, pictureReady, press } from './helpers'

const FRAME = 12
const masks: Record<string, Mask> = {
  tones: { ...withPart(null, newPart('tone', { from: 45, to: 100, soft: 12 })), reads: 'footage' },
  colours: {
    ...withPart(null, newPart('colour', { picks: [[52, 55, 35]], range: 30, soft: 25, lightness: 40 })),
    reads: 'footage',
  },
}

/** 8-bit RGB of the first picture of a file, read by ffmpeg alone, at 8 bits without dither. */
function pixels(path: string): Buffer {
  const filter = ['-vf', 'zscale=dither=none:rangein=full:range=full:matrixin=gbr:matrix=gbr,format=gbrp']
  const out = ['-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', 'rgb24', 'pipe:1']
  return execFileSync('ffmpeg', ['-v', 'error', '-i', path, ...filter, ...out], { maxBuffer: 1e8 })
}

/** Share of the values that differ by more than `by`. */
const share = (a: Buffer, b: Buffer, by: number): number =>
  a.reduce((count, v, i) => count + (Math.abs(v - b[i]!) > by ? 1 : 0), 0) / a.length

/** The render of the shot as it stands, its only frame written to a file. */
async function renderedFrame(request: APIRequestContext, shot: number, folder: string): Promise<string> {
  const made = await request.post(`/api/shots/${shot}/renders`, { data: { format: 'png' } })
  const { id } = (await made.json()) as { id: number }
  const state = async () => ((await (await request.get(`/api/renders/${id}`)).json()) as { state: string }).state
  await expect.poll(state).toBe('done')
  const zip = await (await request.get(`/api/renders/${id}/file`)).body()
  // The archive is stored, not packed: its one file lies between its local header and the central directory.
  const start = 30 + zip.readUInt16LE(26) + zip.readUInt16LE(28)
  const end = zip.indexOf(Buffer.from('IEND'), start) + 8
  const path = join(folder, 'render.png')
  writeFileSync(path, zip.subarray(start, end))
  return path
}

for (const [name, mask] of Object.entries(masks))
  test(`page, command line and render make the same picture of a frame masked by ${name} of the footage`, async ({
    page,
  }) => {
    const { shot } = await benchOfCopy(page, 'Regatta bunting')
    const folder = mkdtempSync(join(tmpdir(), 'fogbath-same-'))
    try {
      const base = SHIPPED_RECIPES.find((r) => r.id === 'bleach-bypass')!
      const bath = { ...newBath('black-and-white', 'masked'), takes: 'line' as const, mask }
      const recipe: Recipe = { ...base, id: 'masked', baths: [...base.baths, bath] }
      const there = (await (await page.request.get(`/api/shots/${shot}`)).json()) as {
        revision: number
        trialId: number
        trials: { id: number; revision: number }[]
      }
      const trial = there.trials.find((t) => t.id === there.trialId)!
      const change = { revision: trial.revision, recipe }
      expect((await page.request.patch(`/api/trials/${trial.id}`, { data: change })).status()).toBe(200)
      const cut = { revision: there.revision, first: FRAME, last: FRAME, still: FRAME }
      expect((await page.request.patch(`/api/shots/${shot}`, { data: cut })).status()).toBe(200)

      await page.reload()
      await pictureReady(page)
      await press(page, 'p')
      const proofs = async () =>
        (await (await page.request.get(`/api/shots/${shot}/proofs`)).json()) as { id: number }[]
      await expect.poll(async () => (await proofs()).length).toBe(1)
      const kept = join(folder, 'proof.png')
      const [proof] = await proofs()
      writeFileSync(kept, await (await page.request.get(`/api/proofs/${proof!.id}/picture`)).body())

      const rendered = await renderedFrame(page.request, shot, folder)

      const [file, out, bare] = ['recipe.json', 'cli.png', 'bare.png'].map((n) => join(folder, n)) as [
        string,
        string,
        string,
      ]
      writeFileSync(file, JSON.stringify(recipe))
      const root = join(import.meta.dirname, '..')
      execFileSync(process.execPath, [
        ...[join(root, 'packages/server/bin/fogbath.js'), 'process', join(root, 'demo/footage/regatta-bunting.mp4')],
        ...['--recipe', file, '--encoding', 'bt1886', '--frames', `${FRAME}-${FRAME}`, '-o', out],
      ])

      const [byPage, byRender, byHand] = [pixels(kept), pixels(rendered), pixels(out)]
      expect(byRender.length).toBe(byPage.length)
      expect(byRender.equals(byHand)).toBe(true)
      // The page's picture is dithered by up to one code to 8 bits; the two others are rounded.
      expect(share(byPage, byRender, 1)).toBeLessThan(0.001)
      expect(share(byPage, byRender, 2)).toBe(0)
      // The mask does something here: without it a good part of the picture is another one.
      writeFileSync(file, JSON.stringify({ ...recipe, baths: recipe.baths.slice(0, 1) }))
      execFileSync(process.execPath, [
        ...[join(root, 'packages/server/bin/fogbath.js'), 'process', join(root, 'demo/footage/regatta-bunting.mp4')],
        ...['--recipe', file, '--encoding', 'bt1886', '--frames', `${FRAME}-${FRAME}`, '-o', bare],
      ])
      const changed = share(pixels(bare), byRender, 4)
      expect(changed).toBeGreaterThan(0.03)
      expect(changed).toBeLessThan(0.97)
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  })
