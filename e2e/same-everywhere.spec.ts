import { execFileSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdirSync, mkdtempSync, readFileSync, readdirSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, test, type APIRequestContext } from '@playwright/test'
import { cropOf, wholeLine, type Line } from '@fogbath/core/line'
import type { FrameOrder } from '../packages/web/src/workers/protocol'
import { bundled } from './helpers'
import { allLines } from './lines'

const [WIDTH, HEIGHT, FRAMES] = [192, 108, 3]
const ROOT = join(import.meta.dirname, '..')
const digest = (bytes: Buffer): string => createHash('sha256').update(bytes).digest('hex')

interface MadeShot {
  readonly id: number
  readonly mediumId: number
  readonly revision: number
  readonly trialId: number
  readonly trials: readonly { id: number; revision: number }[]
}

/** Digests of the frames of a lossless clip, code values of 16 bits, read by ffmpeg alone. */
function framesOf(path: string): string[] {
  const args = ['-v', 'error', '-i', path, '-f', 'rawvideo', '-pix_fmt', 'rgb48le', 'pipe:1']
  const bytes = execFileSync('ffmpeg', args, { maxBuffer: 1e9 })
  const size = 6 * WIDTH * HEIGHT
  return Array.from({ length: bytes.length / size }, (_, i) => digest(bytes.subarray(i * size, (i + 1) * size)))
}

/** A production whose shots are all of one clip, each with a line of its own. */
async function productionOf(request: APIRequestContext, clip: string, lines: readonly Line[]) {
  const json = async (answer: ReturnType<typeof request.post>) => {
    const reply = await answer
    expect(reply.ok(), await reply.text()).toBe(true)
    return (await reply.json()) as never
  }
  const { id } = (await json(request.post('/api/productions', { data: { name: 'Same' } }))) as { id: number }
  const buffer = readFileSync(clip)
  const file = { name: 'clip.mkv', mimeType: 'video/x-matroska', buffer }
  const taken = (await json(request.post(`/api/productions/${id}/media`, { multipart: { file } }))) as {
    shots: MadeShot[]
  }
  const shots = [...taken.shots]
  while (shots.length < lines.length)
    shots.push(
      (await json(
        request.post(`/api/productions/${id}/shots`, { data: { mediumId: shots[0]!.mediumId } }),
      )) as MadeShot,
    )
  const data = {
    lines: shots.map(({ trialId, trials }, i) => {
      const { recipe, after } = lines[i]!
      return { trialId, revision: trials.find((t) => t.id === trialId)!.revision, recipe, after }
    }),
    preparations: shots.map(({ id: shotId, revision }, i) => ({
      shotId,
      revision,
      preparation: lines[i]!.preparation,
    })),
  }
  await json(request.put('/api/lines', { data }))
  return { id, shots, sha256: digest(buffer), size: buffer.length }
}

test('page, render and command line make the same of every recipe, kind, laying and mask, bit for bit', async ({
  page,
}) => {
  const all = [...allLines()]
  const whole = all.filter(([, line]) => cropOf({ baths: wholeLine(line) }, WIDTH, HEIGHT).width === WIDTH)
  // One size for one file: of what is cropped there are few.
  expect(all.length - whole.length).toBeLessThan(6)
  expect(whole.length).toBeGreaterThan(100)
  const [names, lines] = [whole.map(([name]) => name), whole.map(([, line]) => line)]
  const folder = mkdtempSync(join(tmpdir(), 'fogbath-everywhere-'))
  try {
    const clip = join(folder, 'clip.mkv')
    const cut = [
      '-vf',
      `scale=${WIDTH}:${HEIGHT}`,
      '-frames:v',
      String(FRAMES),
      '-c:v',
      'ffv1',
      '-pix_fmt',
      'yuv444p10le',
    ]
    execFileSync('ffmpeg', ['-v', 'error', '-i', join(ROOT, 'demo/footage/regatta-bunting.mp4'), ...cut, clip])
    const { id, shots, sha256, size } = await productionOf(page.request, clip, lines)

    const delivery = { format: 'mkv', to: 'bt1886' }
    const asked = await page.request.post(`/api/productions/${id}/renders`, {
      data: { shots: shots.map((s) => s.id), delivery },
    })
    const render = (await asked.json()) as { id: number }
    const state = async () =>
      ((await (await page.request.get(`/api/renders/${render.id}`)).json()) as { state: string }).state
    await expect.poll(state, { timeout: 400_000 }).toMatch(/done|failed/)
    const file = join(folder, 'render.mkv')
    writeFileSync(file, await (await page.request.get(`/api/renders/${render.id}/file`)).body())
    const rendered = framesOf(file)
    expect(rendered).toHaveLength(FRAMES * lines.length)

    await page.goto('/')
    await page.evaluate(await bundled('same'))
    const orders: FrameOrder[] = lines.flatMap((line) =>
      Array.from({ length: FRAMES }, (_, frame) => ({
        source: { type: 'shot', mediumId: shots[0]!.mediumId, reading: {} },
        frame,
        order: { ...line, encoding: 'bt1886' },
      })),
    )
    const worked = await page.evaluate(([of, width]) => window.digests(of, width), [orders, WIDTH] as const)
    const nameOf = (i: number): string => `${names[Math.floor(i / FRAMES)]}, frame ${i % FRAMES}`
    const others = (of: readonly string[]): string[] => rendered.flatMap((own, i) => (own === of[i] ? [] : [nameOf(i)]))
    expect(others(worked)).toEqual([])

    const medium = (await (await page.request.get(`/api/media/${shots[0]!.mediumId}`)).json()) as { info: object }
    const told = lines.map(({ preparation, recipe, after }, i) => ({
      name: `shot ${i}`,
      medium: sha256,
      first: 0,
      last: FRAMES - 1,
      still: 0,
      encoding: 'bt1886',
      preparation,
      marks: null,
      chosen: 1,
      trials: [{ ref: 1, name: 'A', recipe, after }],
      edits: [],
      proofs: [],
    }))
    const media = [{ sha256, name: 'clip.mkv', size, sequence: '', files: 1, info: medium.info }]
    mkdirSync(join(folder, 'media'))
    mkdirSync(join(folder, 'out'))
    writeFileSync(join(folder, 'media', sha256), readFileSync(clip))
    writeFileSync(
      join(folder, 'contents.json'),
      JSON.stringify({ productions: [{ name: 'Same', notes: '', shots: told }], media }),
    )
    writeFileSync(
      join(folder, 'preset.json'),
      JSON.stringify({ version: 1, name: 'Same', ...delivery, names: '{number}' }),
    )
    const program = join(ROOT, 'packages/server/bin/fogbath.js')
    const args = ['render', 'contents.json', '--preset', 'preset.json', '--out', 'out']
    execFileSync(process.execPath, [program, ...args], { cwd: folder, stdio: 'pipe', maxBuffer: 1e8 })
    const byHand = readdirSync(join(folder, 'out'))
      .sort()
      .flatMap((name) => framesOf(join(folder, 'out', name)))
    expect(others(byHand)).toEqual([])
  } finally {
    rmSync(folder, { recursive: true, force: true })
  }
})
