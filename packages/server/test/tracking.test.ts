import { execFileSync } from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import type { Production, Render, Shot, Tracking } from '@fogbath/contract'
import { newPart, withPart, type MaskPart } from '@fogbath/core/masks'
import { newBath, type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeRig, multipart, type Rig } from './helpers'
import { runProgram } from './program'

/** A textured card that ffmpeg moves by four pixels across a frame over a grainy ground. */
const [FRAMES, W, H] = [24, 640, 360]
const ID = 'card12345678'
const settings = { x: (100 * 200) / W, y: (100 * 140) / H, width: (100 * 180) / W, height: (100 * 100) / W }
const card: MaskPart = newPart('rectangle', { ...settings, edge: 0 })

let rig: Rig
let shot: Shot
const send = async (method: 'GET' | 'POST' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as any }
}
beforeAll(async () => {
  rig = await makeRig()
  const picture = `testsrc2=s=200x120:r=24:d=1,trim=end_frame=1,loop=-1:1,setpts=N/24/TB,noise=alls=20:all_seed=3`
  const ground = `color=c=gray:s=${W}x${H}:r=24,noise=alls=12:allf=t:all_seed=5`
  const laid = `[1][0]overlay=x='100+4*n':y=80:format=gbrp,trim=end_frame=${FRAMES}`
  const out = ['-frames:v', String(FRAMES), '-c:v', 'ffv1', '-y', join(rig.folder, 'card.mkv')]
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', picture, '-f', 'lavfi', '-i', ground, '-filter_complex', laid, ...out]) // oxfmt-ignore
  const production = (await send('POST', '/api/productions', { name: 'Cards' })).body as Production
  const form = multipart([{ name: 'card.mkv', bytes: readFileSync(join(rig.folder, 'card.mkv')) }])
  await rig.app.inject({ method: 'POST', url: `/api/productions/${production.id}/media`, ...form })
  shot = ((await send('GET', `/api/productions/${production.id}`)).body as Production).shots[0]!
})
afterAll(() => rig.close())

const begin = (more: object = {}) =>
  send('POST', `/api/shots/${shot.id}/tracking`, {
    id: ID,
    part: card,
    frame: 0,
    motions: ['move'],
    way: 'both',
    ...more,
  })
async function found(more: object = {}): Promise<Tracking> {
  const { body } = await begin(more)
  const url = `/api/tracking/${(body as Tracking).key}`
  await expect.poll(async () => (await send('GET', url)).body.state, { timeout: 120_000 }).toMatch(/done|failed/)
  return (await send('GET', url)).body as Tracking
}

describe('a shape that is followed through a shot', () => {
  it('is found in each of its frames, forward, back, or both ways, and kept with the shot', async () => {
    const { state, done, of, track } = await found()
    expect([state, done, of]).toEqual(['done', FRAMES, FRAMES])
    expect([track!.id, track!.frame, track!.first, track!.corners.length]).toEqual([ID, 0, 0, FRAMES])
    const left = track!.corners.map(([x]) => (x! * W) / 100)
    left.forEach((x, i) => expect(Math.abs(x - (110 + 4 * i))).toBeLessThan(0.5))
    const back = (await found({ frame: 12, part: { ...card, settings: { ...card.settings, x: settings.x + (48 * 100) / W } }, way: 'back' })).track! // oxfmt-ignore
    expect([back.frame, back.first, back.corners.length]).toEqual([12, 0, 13])
    const kept = await send('PATCH', `/api/shots/${shot.id}`, { revision: shot.revision, tracks: [track] })
    expect(kept.status).toBe(200)
    shot = kept.body as Shot
    expect(shot.tracks).toEqual([track])
    // A copy of the production has it too, and so has a backup that comes back.
    const { body: copy } = await send('POST', `/api/productions/${shot.productionId}/copy`)
    const { shots } = (await send('GET', `/api/productions/${copy.id}`)).body as Production
    expect(shots[0]!.tracks).toEqual([track])
  })

  it('stops where it is told to, and what was found is answered', async () => {
    const { key } = (await begin()).body as Tracking
    const stopped = (await send('DELETE', `/api/tracking/${key}`)).body as Tracking
    expect([stopped.state, stopped.message]).toEqual(['done', null])
    expect((await send('GET', `/api/tracking/${key}`)).body.state).toBe('done')
    expect((await send('GET', '/api/tracking/nothing12345')).status).toBe(404)
  })

  it.each([
    [{ frame: FRAMES }, 400, /frame is 24; it must lie in the shot, which shows frames 0 to 23/],
    [{ motions: ['jump'] }, 400, /jump/],
    [{ motions: [] }, 400, /motions/],
    [{ part: { ...card, settings: { ...card.settings, width: 900 } } }, 400, /part\/settings\/width is 900/],
  ])('is refused for %j', async (more, status, why) => {
    const reply = await begin(more)
    expect(reply.status).toBe(status)
    expect(reply.body.message).toMatch(why)
  })

  it('fails in words where it is no shape', async () => {
    const { state, message } = await found({ part: newPart('tone') })
    expect([state, message]).toEqual(['failed', expect.stringMatching(/'tone' cannot be tracked/)])
  })

  it('is refused as a track where it cannot be one', async () => {
    const [track] = shot.tracks
    const kept = async (tracks: unknown[]) => {
      const { status, body } = await send('PATCH', `/api/shots/${shot.id}`, { revision: shot.revision, tracks })
      return `${status} ${String(body.message)}`
    }
    expect(await kept([track, track])).toMatch(/^400 The track card12345678 cannot be kept: there are two of that name/)
    expect(await kept([{ ...track, first: 9 }])).toMatch(/^400 .*goes to frame 32; the footage ends with 23/)
    expect(await kept([{ ...track, used: [1] }])).toMatch(/^400 .*corners of 24 frames and shares of 1/)
  })
})

describe('a line that changes over its shot', () => {
  const ramp = (from: unknown, to: unknown) => ({
    times: 'start' as const,
    keys: [
      { at: 0, value: from, way: 'straight' as const },
      { at: 20, value: to, way: 'straight' as const },
    ],
  })
  const recipe: Recipe = {
    ...SHIPPED_RECIPES[0]!,
    id: 'over-time',
    baths: [
      newBath('colour-print', 'print'),
      {
        ...newBath('timing', 'grey', { saturation: 0 }),
        mask: withPart(null, { ...card, follows: ID }),
        keys: { strength: ramp(0, 100) },
      },
    ],
  }

  it('refuses values that a setting cannot have, and says where', async () => {
    const [trial] = shot.trials
    const put = async (keys: object) => {
      const bath = { ...recipe.baths[1]!, keys }
      const { status, body } = await send('PATCH', `/api/trials/${trial!.id}`, { revision: trial!.revision, recipe: { ...recipe, baths: [bath] } }) // oxfmt-ignore
      return `${status} ${String(body.message)}`
    }
    expect(await put({ strength: ramp(0, 400) })).toMatch(/^400 .*baths\/0\/keys\/strength\/keys\/1\/value is 400/)
    expect(await put({ saturation: ramp(0, 'much') })).toMatch(/^400 .*keys\/saturation\/keys\/1\/value is "much"/)
    expect(await put({ glow: ramp(0, 1) })).toMatch(/^400 .*has 'glow'/)
  })

  it('is rendered by the server and by the command line alike, the mask going with the card', async () => {
    const [trial] = shot.trials
    expect((await send('PATCH', `/api/trials/${trial!.id}`, { revision: trial!.revision, recipe })).status).toBe(200)
    const { body } = await send('POST', `/api/shots/${shot.id}/renders`, { format: 'mkv' })
    const render = async () =>
      ((await send('GET', '/api/renders')).body.items as Render[]).find((r) => r.id === body.id)!
    await expect.poll(async () => (await render()).state, { timeout: 120_000 }).toBe('done')
    expect((await render()).time).toEqual({ first: 0, length: FRAMES, tracks: shot.tracks })
    const file = join(rig.folder, 'rendered.mkv')
    writeFileSync(file, (await rig.app.inject({ url: `/api/renders/${body.id}/file` })).rawPayload)
    writeFileSync(join(rig.folder, 'recipe.json'), JSON.stringify(recipe))
    writeFileSync(join(rig.folder, 'shape.json'), JSON.stringify({ ...card, follows: ID }))
    const tracked = await runProgram(rig.folder, ['track', 'card.mkv', '--shape', 'shape.json', '--motions', 'move', '-o', 'track.json']) // oxfmt-ignore
    expect(tracked.err).toContain(`track.json: the track ${ID}`)
    expect(JSON.parse(readFileSync(join(rig.folder, 'track.json'), 'utf8'))).toEqual(shot.tracks[0])
    const process = ['process', 'card.mkv', '--recipe', 'recipe.json', '--format', 'mkv', '-o']
    const made = await runProgram(rig.folder, [...process, 'made.mkv', '--tracks', 'track.json'])
    expect([made.code, made.err]).toEqual([0, ''])
    expect(pictures('made.mkv').equals(pictures('rendered.mkv'))).toBe(true)
    // Colourless where the card is in the frame before last, and coloured where it stands in the first.
    const seen = pictures('made.mkv')
    const meanChroma = (frame: number, left: number): number => {
      let sum = 0
      for (let x = left; x < left + 160; x++) {
        const at = 3 * ((frame * H + 140) * W + x)
        const [r, g, b] = [seen[at]!, seen[at + 1]!, seen[at + 2]!]
        sum += Math.max(r, g, b) - Math.min(r, g, b)
      }
      return sum / 160
    }
    expect(meanChroma(0, 120)).toBeGreaterThan(20)
    expect(meanChroma(22, 120 + 88)).toBeLessThan(3)
    const bare = await runProgram(rig.folder, [...process, 'bare.mkv'])
    expect(bare.err).toContain(
      `A mask follows the track ${ID}, which was not given (--tracks): it stands as it is drawn.`,
    )
  })

  const pictures = (name: string): Buffer =>
    execFileSync('ffmpeg', ['-v', 'error', '-i', join(rig.folder, name), '-f', 'rawvideo', '-pix_fmt', 'rgb24', '-'], { maxBuffer: 1e8 }) // oxfmt-ignore
})
