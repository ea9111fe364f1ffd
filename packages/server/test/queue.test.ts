import { existsSync, readFileSync, readdirSync, rmSync, statSync, truncateSync } from 'node:fs'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { asNewLine, type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { NOTHING } from '@fogbath/core/line'
import { UNTREATED } from '@fogbath/core/treat'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Render, RenderPart, Shot } from '../src/db/models'
import { makeJob } from '../src/render/job'
import type { RenderProgress } from '@fogbath/contract'
import { makeFootage, makeRig, multipart, readPixels, type Rig } from './helpers'

let rig: Rig
let footage: ReturnType<typeof makeFootage>
let shots: { id: number; mediumId: number; trials: { id: number }[] }[]
beforeAll(async () => {
  rig = await makeRig()
  footage = makeFootage(rig.folder)
  const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Queue' } })
  const file = { name: 'clip.mp4', bytes: readFileSync(footage.clip) }
  const url = `/api/productions/${made.json<{ id: number }>().id}/media`
  const taken = await rig.app.inject({ method: 'POST', url, ...multipart([file, file]) })
  shots = taken.json<{ shots: typeof shots }>().shots
})
afterAll(() => rig.close())

const row = (more: Partial<Render>) =>
  Render.create({
    shotId: shots[0]!.id,
    mediumId: shots[0]!.mediumId,
    label: 'A render',
    format: 'png',
    state: 'waiting',
    first: 0,
    count: 48,
    done: 0,
    encoding: 'bt1886',
    ...UNTREATED,
    ...more,
  } as Render)
async function ended(render: Render): Promise<Render> {
  for (let i = 0; i < 600; i++) {
    await render.reload()
    if (render.state !== 'waiting' && render.state !== 'running') return render
    await sleep(30)
  }
  throw new Error(`The render is still ${render.state}.`)
}
const framesOf = (render: Render): number[] =>
  readdirSync(rig.context.queue.files.folderOf(render))
    .filter((n) => n.endsWith('.png'))
    .map((n) => Number(/\d+/.exec(n)![0]))
    .sort((a, b) => a - b)
const range = (from: number, to: number): number[] => Array.from({ length: to - from + 1 }, (_, i) => from + i)
const mean = (a: Uint16Array, b: Uint16Array): number =>
  a.reduce((sum, v, i) => sum + Math.abs(v - b[i]!), 0) / a.length

describe('a render that is taken up again', () => {
  it('makes the parts that are missing, wherever they lie, and none twice', async () => {
    // Killed after the part was noted down and before the row was: the row knows nothing of it yet.
    const render = await row({ state: 'running', done: 0 })
    // The second part is there already; its files were fetched and thrown away, so that making it again would show.
    await RenderPart.create({ renderId: render.id, first: 24, count: 24 })
    rig.context.queue.wake()
    expect((await ended(render)).state).toBe('done')
    expect(framesOf(render)).toEqual(range(0, 23))
    expect(render.done).toBe(48)
    const parts = await RenderPart.findAll({ where: { renderId: render.id }, order: [['first', 'ASC']] })
    expect(parts.map((p) => [p.first, p.count])).toEqual([
      [0, 24],
      [24, 24],
    ])
  })

  it('is told as whole when all its parts were there already', async () => {
    const render = await row({ state: 'running', done: 24 })
    for (const first of [0, 24]) await RenderPart.create({ renderId: render.id, first, count: 24 })
    rig.context.queue.wake()
    expect(await ended(render)).toMatchObject({ state: 'done', done: 48 })
  })
})

describe('the frames of a render', () => {
  it('are those from the in-point to the out-point, both with it', async () => {
    const [shot] = await Shot.findAll({ where: { id: shots[0]!.id } })
    const url = `/api/shots/${shot!.id}`
    await rig.app.inject({
      method: 'PATCH',
      url,
      payload: { revision: shot!.revision, first: 10, last: 13, still: 11 },
    })
    await rig.app.inject({
      method: 'PATCH',
      url: `/api/trials/${shots[0]!.trials[0]!.id}`,
      payload: { revision: 1, recipe: NOTHING },
    })
    const made = await rig.app.inject({ method: 'POST', url: `${url}/renders`, payload: { format: 'png' } })
    const render = (await Render.findByPk(made.json<{ id: number }>().id))!
    expect((await ended(render)).state).toBe('done')
    expect(framesOf(render)).toEqual([10, 11, 12, 13])
    for (const frame of [10, 13]) {
      const path = join(rig.context.queue.files.folderOf(render), `frame.0000${frame}.png`)
      // An untreated frame is the footage's, within what the LUT's grid leaves; its neighbours are other pictures.
      const own = mean(readPixels(path), readPixels(footage.clip, frame))
      for (const other of [frame - 1, frame + 1])
        expect(own).toBeLessThan(0.5 * mean(readPixels(path), readPixels(footage.clip, other)))
    }
  })

  it('cross the border of two parts without a gap', async () => {
    const render = await row({ first: 20, count: 9 })
    rig.context.queue.wake()
    expect((await ended(render)).state).toBe('done')
    expect(framesOf(render)).toEqual(range(20, 28))
  })
})

describe('the row of renders', () => {
  it('goes on with what was begun, then as they stand in line', async () => {
    const out = { count: 1, state: 'cancelled' } as const
    const [long, first, begun] = [await row(out), await row(out), await row(out)]
    // All of them come into the row at once, in the midst of a look for work.
    const come = new Promise<void>((done) =>
      Render.addHook('afterFind', 'come', async () => {
        Render.removeHook('afterFind', 'come')
        await rig.context.db.query(
          "UPDATE render SET state = IF(id = :begun, 'running', 'waiting'), place = IF(id = :first, 1, 2) WHERE id IN (:all)",
          { replacements: { begun: begun.id, first: first.id, all: [long.id, first.id, begun.id] } },
        )
        done()
      }),
    )
    const told: number[] = []
    const listen = ({ id, state }: RenderProgress): void => void (state === 'done' && told.push(id))
    rig.context.queue.on('progress', listen)
    rig.context.queue.wake()
    await come
    rig.context.queue.wake()
    for (const render of [begun, first, long]) expect((await ended(render)).state).toBe('done')
    await expect.poll(() => told.length).toBe(3)
    rig.context.queue.off('progress', listen)
    expect(told).toEqual([begun.id, first.id, long.id])
  })
})

describe('a render of a trial', () => {
  it('is of the trial that is asked for, not of the one that the shot shows', async () => {
    const { id } = shots[0]!
    const recipe = { ...asNewLine(SHIPPED_RECIPES[0]!), name: 'Brown' }
    const made = await rig.app.inject({
      method: 'POST',
      url: `/api/shots/${id}/trials`,
      payload: { name: 'B', recipe },
    })
    const { id: trialId } = made.json<{ id: number }>()
    const url = `/api/shots/${id}/renders`
    const asked = await rig.app.inject({ method: 'POST', url, payload: { format: 'png', trialId } })
    const shown = await rig.app.inject({ method: 'POST', url, payload: { format: 'png' } })
    const nameOf = async (reply: typeof asked) => (await Render.findByPk(reply.json<{ id: number }>().id))!.recipe.name
    expect(await nameOf(asked)).toBe('Brown')
    expect(await nameOf(shown)).not.toBe('Brown')
  })
  it('is refused when the trial belongs to another shot', async () => {
    const url = `/api/shots/${shots[0]!.id}/renders`
    const payload = { format: 'png', trialId: shots[1]!.trials[0]!.id }
    const reply = await rig.app.inject({ method: 'POST', url, payload })
    expect(reply.statusCode).toBe(400)
    expect(reply.json<{ message: string }>().message).toBe(`Trial ${payload.trialId} belongs to another shot.`)
    expect((await rig.app.inject({ method: 'POST', url, payload: { ...payload, trialId: 9999 } })).statusCode).toBe(404)
  })
})

describe('what is told while it renders', () => {
  it('counts every frame once, ends as done, and gives a rate from which the time left follows', async () => {
    const told: RenderProgress[] = []
    const render = await row({ count: 30 })
    const listen = (p: RenderProgress): void => void (p.id === render.id && told.push(p))
    rig.context.queue.on('progress', listen)
    rig.context.queue.wake()
    await ended(render)
    await expect.poll(() => told.at(-1)?.state).toBe('done')
    rig.context.queue.off('progress', listen)
    expect(told.map((p) => p.done).slice(0, 30)).toEqual(range(1, 30))
    expect(told.at(-1)).toMatchObject({ state: 'done', done: 30, count: 30 })
    const half = told[19]!
    expect(half.rate).toBeGreaterThan(0)
    expect(half.left).toBe(Math.round(10 / half.rate!))
    expect(rig.context.queue.progressOf(render)).toMatchObject({ left: null, rate: null })
  })

  it('says what went wrong, and the next one in the row is made all the same', async () => {
    const lost = await row({
      recipe: { ...NOTHING, baths: [{ kind: 'nothing', in: true, strength: 100 }] } as unknown as Recipe,
      count: 2,
    })
    const good = await row({ count: 2 })
    rig.context.queue.wake()
    expect((await ended(lost)).message).toMatch(/'nothing' is not a kind of bath/)
    expect(lost.state).toBe('failed')
    expect((await ended(good)).state).toBe('done')
    const again = { method: 'POST', url: `/api/renders/${good.id}/action`, payload: { action: 'retry' } } as const
    expect((await rig.app.inject(again)).json<{ message: string }>().message).toMatch(/only a failed or cancelled one/)
    const cancel = { ...again, payload: { action: 'cancel' } } as const
    expect((await rig.app.inject(cancel)).json<{ message: string }>().message).toMatch(
      /is done and cannot be cancelled/,
    )
  })

  it('cancels the one under way without waiting for the others, which go on', async () => {
    const [first, second] = [await row({ count: 48 }), await row({ count: 48 })]
    rig.context.queue.wake()
    while ((await first.reload()).state !== 'running') await sleep(5)
    await rig.context.queue.cancel(first)
    expect((await second.reload()).state).not.toBe('done')
    expect((await first.reload()).state).toBe('cancelled')
    expect((await ended(second)).state).toBe('done')
  })

  it('of one that was cancelled leaves neither parts nor files behind, and says so at once', async () => {
    const render = await row({ count: 48 })
    const told: RenderProgress[] = []
    const listen = (p: RenderProgress): void => void (p.id === render.id && told.push(p))
    rig.context.queue.on('progress', listen)
    rig.context.queue.wake()
    // Parts of several frames are noted down once a few frames are done.
    await expect.poll(() => told.length, { timeout: 90_000 }).toBeGreaterThan(26)
    await rig.context.queue.cancel(render)
    rig.context.queue.off('progress', listen)
    expect(await RenderPart.count({ where: { renderId: render.id } })).toBe(0)
    expect(existsSync(rig.context.queue.files.folderOf(render))).toBe(false)
    expect(told.at(-1)).toMatchObject({ state: 'cancelled', done: 0 })
  })

  it('throws away a waiting one that is removed', async () => {
    const render = await row({ count: 48 })
    await rig.context.queue.remove(render)
    expect(await Render.findByPk(render.id)).toBeNull()
  })
})

describe('a render that is cancelled or killed at an awkward moment', () => {
  it('is never done without its files: of cancelling and finishing only one comes about', async () => {
    let [cancelled, done] = [0, 0]
    for (let i = 0; i < 12; i++) {
      const render = await row({ count: 2 })
      rig.context.queue.wake()
      await sleep(15 * i)
      const said = await rig.context.queue.cancel(render).then(
        () => 'cancelled',
        (error: Error) => error.message,
      )
      await render.reload()
      if (said === 'cancelled') {
        cancelled++
        expect(render.state).toBe('cancelled')
        expect(existsSync(rig.context.queue.files.folderOf(render))).toBe(false)
      } else {
        done++
        expect(said).toMatch(/is done and cannot be cancelled/)
        expect(framesOf(render)).toEqual([0, 1])
      }
    }
    expect(cancelled + done).toBe(12)
    expect(cancelled).toBeGreaterThan(0)
  })

  it('that was joined already is taken as it is, also when its parts are gone', async () => {
    const first = await row({ count: 30, format: 'mp4' })
    rig.context.queue.wake()
    expect((await ended(first)).state).toBe('done')
    const whole = readFileSync(rig.context.queue.files.fileOf(first))
    await expect.poll(() => readdirSync(rig.context.queue.files.folderOf(first))).toEqual(['render.mp4'])
    // As after a kill between joining and noting it down.
    await first.update({ state: 'running' })
    rig.context.queue.wake()
    expect((await ended(first)).state).toBe('done')
    expect(readFileSync(rig.context.queue.files.fileOf(first)).equals(whole)).toBe(true)
  })

  it('whose joined file is cut short is joined again from its parts', async () => {
    const render = await row({ count: 30, format: 'mp4' })
    rig.context.queue.wake()
    await ended(render)
    const file = rig.context.queue.files.fileOf(render)
    const size = statSync(file).size
    // Begin again with parts, a damaged whole in their place.
    await RenderPart.destroy({ where: { renderId: render.id } })
    await render.update({ state: 'running', done: 0 })
    truncateSync(file, size >> 1)
    rig.context.queue.wake()
    expect((await ended(render)).state).toBe('done')
    expect(Math.abs(statSync(file).size - size)).toBeLessThan(0.02 * size)
  })
})

describe('the encoding of a delivery', () => {
  it('is the footage’s own where that is for a display, BT.1886 for camera footage, linear light in EXR', () => {
    const to = (from: string, format: 'png' | 'exr' | 'mp4', asked?: string) =>
      makeJob({ ...UNTREATED, encoding: from }, { format }, asked).to
    expect([to('srgb', 'png'), to('bt1886', 'mp4'), to('acescct', 'png'), to('srgb', 'exr')]).toEqual([
      ...['srgb', 'bt1886', 'bt1886', 'linear'],
    ])
    expect(to('acescct', 'png', 'srgb')).toBe('srgb')
    expect(makeJob({ ...UNTREATED, encoding: 'bt1886' }, { format: 'mp4' })).toMatchObject({ bits: 10, float: false })
    expect(makeJob({ ...UNTREATED, encoding: 'bt1886' }, { format: 'exr' })).toMatchObject({ bits: 16, float: true })
    expect(makeJob({ ...UNTREATED, encoding: 'bt1886' }, { format: 'png' })).toMatchObject({ bits: 16, float: false })
    expect(() => makeJob({ ...UNTREATED, encoding: 'nothing' }, { format: 'png' })).toThrow(/nothing/)
  })
})

it('keeps renders of footage whose folder is emptied by hand from hanging', async () => {
  const render = await row({ count: 4 })
  rmSync(join(rig.folder, 'media'), { recursive: true, force: true })
  rig.context.queue.wake()
  expect((await ended(render)).state).toBe('failed')
  expect(render.message.length).toBeGreaterThan(5)
})
