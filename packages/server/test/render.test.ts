import { execFileSync } from 'node:child_process'
import { existsSync, readFileSync, readdirSync, writeFileSync } from 'node:fs'
import { basename, join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { bt709ToLab, ciede2000 } from '@fogbath/core/colour'
import { NOTHING_AROUND, newBath, type Around, changeSettings } from '@fogbath/core/line'
import { makeLook } from '@fogbath/core/look'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Treatment } from '@fogbath/core/treat'
import type { Shot } from '@fogbath/contract'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { Render } from '../src/db/models'
import { makeFootage, makeRig, multipart, readPixels, type Rig } from './helpers'

let rig: Rig
let footage: ReturnType<typeof makeFootage>
let shotId: number
beforeAll(async () => {
  rig = await makeRig()
  footage = makeFootage(rig.folder)
  const production = (
    await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Renders' } })
  ).json<{ id: number }>()
  const body = multipart([{ name: basename(footage.clip), bytes: readFileSync(footage.clip) }])
  const taken = (
    await rig.app.inject({ method: 'POST', url: `/api/productions/${production.id}/media`, ...body })
  ).json<{ shots: { id: number; trials: { id: number }[] }[] }>()
  shotId = taken.shots[0]!.id
  await rig.app.inject({
    method: 'PATCH',
    url: `/api/trials/${taken.shots[0]!.trials[0]!.id}`,
    payload: { revision: 1, recipe: bypass },
  })
})
afterAll(() => rig.close())

/** Without its grain, which goes by place and frame: colours alone are compared here. */
const bypass = changeSettings(
  SHIPPED_RECIPES.find((r) => r.id === 'bleach-bypass')!,
  'bath-1',
  { grain: 0 },
)
const start = async (format: string) =>
  (await rig.app.inject({ method: 'POST', url: `/api/shots/${shotId}/renders`, payload: { format } })).json<{
    id: number
  }>().id
const state = async (id: number) =>
  (await rig.app.inject({ url: `/api/renders/${id}` })).json<{ state: string; done: number; message: string }>()
async function until(id: number, wanted: (s: { state: string; done: number }) => boolean): Promise<void> {
  for (let i = 0; i < 600; i++) {
    const now = await state(id)
    if (wanted(now)) return
    if (now.state === 'failed') throw new Error(now.message)
    await sleep(50)
  }
  throw new Error('The render did not get there.')
}

/** What core makes of footage code values, as 16-bit codes. */
function byCore(codes: Uint16Array, encoding = 'bt1886', recipe = bypass, around = NOTHING_AROUND): Float32Array {
  const treatment = new Treatment()
  const made = treatment
    .run({ data: codes, format: 'u16', width: codes.length / 3, height: 1, frame: 0 }, { recipe, ...around, encoding })
    .pixels.slice()
  treatment.release()
  return made
}

/** Mean absolute difference in 8-bit code values between 16-bit codes and core's RGBA floats. */
function meanMiss(codes: Uint16Array, core: Float32Array): number {
  let sum = 0
  for (let i = 0; i < codes.length / 3; i++)
    for (let k = 0; k < 3; k++) sum += Math.abs(codes[3 * i + k]! / 257 - core[4 * i + k]! * 255)
  return sum / codes.length
}

describe('a render', () => {
  it('becomes a clip of all frames whose pictures are core’s', async () => {
    const id = await start('mp4')
    await until(id, (s) => s.state === 'done')
    const reply = await rig.app.inject({ url: `/api/renders/${id}/file` })
    expect(reply.headers['content-type']).toBe('video/mp4')
    const path = join(rig.folder, 'fetched.mp4')
    writeFileSync(path, reply.rawPayload)
    const probed = execFileSync('ffprobe', [
      '-v',
      'error',
      '-count_frames',
      '-show_entries',
      'stream=nb_read_frames,pix_fmt,color_space,color_transfer',
      '-of',
      'csv=p=0',
      path,
    ]).toString()
    expect(probed.trim().split(',')).toEqual(['yuv420p10le', 'bt709', 'bt709', '48'])
    for (const frame of [0, 23, 24, 47]) {
      // 4:2:0 and compression soften edges; the mean stays close.
      expect(meanMiss(readPixels(path, frame), byCore(readPixels(footage.clip, frame)))).toBeLessThan(2.5)
    }
  })

  it('goes through all three parts as they stand when it is asked for', async () => {
    const shotNow = async () => (await rig.app.inject({ url: `/api/shots/${shotId}` })).json<Shot>()
    const setParts = async ({ preparation, after }: Around): Promise<void> => {
      const { revision, trials, trialId } = await shotNow()
      const trial = trials.find((t) => t.id === trialId)!
      const send = (url: string, payload: object) => rig.app.inject({ method: 'PATCH', url, payload })
      expect((await send(`/api/shots/${shotId}`, { revision, preparation })).statusCode).toBe(200)
      expect((await send(`/api/trials/${trialId}`, { revision: trial.revision, after })).statusCode).toBe(200)
    }
    const around = {
      preparation: [newBath('balance', 'shot', { exposure: -0.7, kelvin: 5000 })],
      after: [newBath('timing', 'timed', { saturation: 60, lightRed: 2 })],
    }
    await setParts(around)
    const id = await start('png')
    // What is changed while it waits or runs is not in it.
    await setParts(NOTHING_AROUND)
    await until(id, (s) => s.state === 'done')
    const frame = readPixels(join(rig.folder, 'renders', String(id), 'frame.000030.png'))
    const footageCodes = readPixels(footage.clip, 30)
    expect(meanMiss(frame, byCore(footageCodes, 'bt1886', bypass, around))).toBeLessThan(0.02)
    expect(meanMiss(frame, byCore(footageCodes))).toBeGreaterThan(5)
  })

  it('keeps the sound of the footage, cut to the frames that are rendered', async () => {
    // A tone for the first second, silence for the second.
    const path = join(rig.folder, 'talking.mov')
    const tone = 'aevalsrc=0.5*sin(880*PI*t)*lt(t\\,1):d=2:s=48000'
    const inputs = ['-i', footage.clip, '-f', 'lavfi', '-i', tone]
    execFileSync('ffmpeg', ['-v', 'error', ...inputs, '-c:v', 'copy', '-c:a', 'pcm_s16le', path])
    const production = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Sound' } })
    const url = `/api/productions/${production.json<{ id: number }>().id}/media`
    const body = multipart([{ name: 'talking.mov', bytes: readFileSync(path) }])
    const taken = (await rig.app.inject({ method: 'POST', url, ...body })).json<{ shots: { id: number }[] }>()
    const shot = taken.shots[0]!.id
    // From half a second to one and a half.
    await rig.app.inject({
      method: 'PATCH',
      url: `/api/shots/${shot}`,
      payload: { revision: 1, first: 12, last: 35, still: 20 },
    })
    for (const [format, codec] of [
      ['mp4', 'aac'],
      ['mov', 'pcm_s24le'],
    ]) {
      const made = await rig.app.inject({ method: 'POST', url: `/api/shots/${shot}/renders`, payload: { format } })
      const { id } = made.json<{ id: number }>()
      await until(id, (s) => s.state === 'done')
      const file = join(rig.folder, `sound.${format}`)
      writeFileSync(file, (await rig.app.inject({ url: `/api/renders/${id}/file` })).rawPayload)
      const about = ['-v', 'error', '-show_entries', 'stream=codec_name', '-of', 'csv=p=0', file]
      expect(execFileSync('ffprobe', about).toString().trim().split('\n').at(-1)).toBe(codec)
      const pcm = ['-v', 'error', '-i', file, '-map', '0:a:0', '-ac', '1', '-ar', '48000', '-f', 'f32le', 'pipe:1']
      const bytes = execFileSync('ffmpeg', pcm, { maxBuffer: 1e8 })
      const wave = new Float32Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
      const loudness = (from: number, to: number): number =>
        Math.sqrt(wave.slice(from * 48000, to * 48000).reduce((sum, v) => sum + v * v, 0) / ((to - from) * 48000))
      // Uncompressed sound ends with the last frame to the sample; AAC comes in blocks of 1024.
      expect(Math.abs(wave.length - 48000)).toBeLessThanOrEqual(format === 'mov' ? 1 : 1024)
      expect(loudness(0.05, 0.45)).toBeCloseTo(0.5 / Math.SQRT2, 1)
      expect(loudness(0.55, 0.95)).toBeLessThan(0.01)
    }
  })
  it('goes on where it stopped when the server restarts', async () => {
    const id = await start('png')
    await until(id, (s) => s.done >= 24 || s.state === 'done')
    const before = await state(id)
    rig = await rig.restart()
    const parts = await rig.context.db.query('SELECT first, count FROM render_part WHERE render_id = ?', {
      replacements: [id],
      type: 'SELECT' as never,
    })
    expect((parts as unknown as unknown[]).length).toBeGreaterThanOrEqual(1)
    if (before.state !== 'done') expect((await state(id)).state).toBe('running')
    rig.context.queue.wake()
    await until(id, (s) => s.state === 'done')
    const files = readdirSync(join(rig.folder, 'renders', String(id))).filter((f) => f.endsWith('.png'))
    expect(files).toHaveLength(48)
    const frame = readPixels(join(rig.folder, 'renders', String(id), 'frame.000030.png'))
    expect(meanMiss(frame, byCore(readPixels(footage.clip, 30)))).toBeLessThan(0.02)
    const zip = await rig.app.inject({ url: `/api/renders/${id}/file` })
    expect(zip.rawPayload.subarray(0, 2).toString()).toBe('PK')
  })

  it('can be cancelled, leaves nothing, and can be tried again or removed', async () => {
    const id = await start('png')
    const cancelled = await rig.app.inject({
      method: 'POST',
      url: `/api/renders/${id}/action`,
      payload: { action: 'cancel' },
    })
    expect(cancelled.json()).toMatchObject({ state: 'cancelled', done: 0 })
    expect(existsSync(join(rig.folder, 'renders', String(id)))).toBe(false)
    expect((await rig.app.inject({ url: `/api/renders/${id}/file` })).json<{ message: string }>().message).toMatch(
      /is cancelled; there is nothing to fetch/,
    )
    await rig.app.inject({ method: 'POST', url: `/api/renders/${id}/action`, payload: { action: 'retry' } })
    await until(id, (s) => s.state === 'done')
    expect((await rig.app.inject({ method: 'DELETE', url: `/api/renders/${id}` })).statusCode).toBe(204)
    expect((await rig.app.inject({ url: `/api/renders/${id}` })).statusCode).toBe(404)
  })
})

describe('the queue', () => {
  it('sees a render that comes just as the last look through the rows ends', async () => {
    const find = Render.findOne.bind(Render)
    let late: number | undefined
    const look = vi.spyOn(Render, 'findOne').mockImplementation(async (options) => {
      const found = await find(options)
      // Nothing is waiting any more; before the queue hears it, one is put in the row.
      if (!found && late === undefined) late = await start('png')
      return found
    })
    try {
      const first = await start('png')
      await until(first, (s) => s.state === 'done')
      for (let i = 0; i < 100 && late === undefined; i++) await sleep(20)
      await until(late!, (s) => s.state === 'done')
    } finally {
      look.mockRestore()
    }
  })

  it('goes on after the database did not answer once', async () => {
    const look = vi.spyOn(Render, 'findOne').mockRejectedValueOnce(new Error('gone away'))
    const said = vi.spyOn(process.stderr, 'write').mockReturnValue(true)
    try {
      const id = await start('png')
      await until(id, (s) => s.state === 'done')
      expect(said.mock.calls.map(([text]) => String(text)).join()).toContain('could not be looked through: gone away')
    } finally {
      look.mockRestore()
      said.mockRestore()
    }
  })
})

describe('the LUT file', () => {
  it('means the same to ffmpeg’s lut3d as to us', () => {
    const cube = join(rig.folder, 'look.cube')
    writeFileSync(cube, makeLook(bypass, { format: 'cube', size: 65 }).text)
    const picture = join(rig.folder, 'frame.png')
    const demo = join(import.meta.dirname, '../../../demo/footage/regatta-bunting.mp4')
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-i',
      demo,
      '-frames:v',
      '1',
      '-vf',
      'zscale=w=320:h=180:matrixin=709:rangein=limited:matrix=gbr:range=full:dither=none,format=gbrp16le',
      '-pix_fmt',
      'rgb48be',
      picture,
    ])
    const out = join(rig.folder, 'byffmpeg.png')
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-y',
      '-i',
      picture,
      '-vf',
      `format=gbrp16le,lut3d=file=${cube}:interp=tetrahedral,format=gbrp16le`,
      '-pix_fmt',
      'rgb48be',
      out,
    ])
    const [theirs, ours] = [readPixels(out), byCore(readPixels(picture))]
    const differences: number[] = []
    for (let i = 0; i < theirs.length / 3; i += 3) {
      const lab = (c: readonly number[]) => bt709ToLab([c[0]! ** 2.4, c[1]! ** 2.4, c[2]! ** 2.4])
      differences.push(
        ciede2000(
          lab([theirs[3 * i]! / 65535, theirs[3 * i + 1]! / 65535, theirs[3 * i + 2]! / 65535]),
          lab([ours[4 * i]!, ours[4 * i + 1]!, ours[4 * i + 2]!].map((v) => Math.max(0, v))),
        ),
      )
    }
    differences.sort((a, b) => a - b)
    // Their LUT stands along code values, ours along the film's records: where both are fine enough they meet.
    expect(differences[Math.floor(differences.length / 2)]!).toBeLessThan(0.3)
    expect(differences[Math.floor(differences.length * 0.95)]!).toBeLessThan(1.5)
  })
})
