import { readFileSync } from 'node:fs'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Edit, Production, Proof, Render, Shot } from '../src/db/models'
import { ROUTES } from '@fogbath/contract'
import { MOST_STACK_BYTES } from '../src/http/history'
import { MOST_PROOFS } from '../src/limits'
import { MOST_MEMORY, ffmpeg, lastLine, runFfmpeg } from '../src/media/ffmpeg'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

let rig: Rig
let shot: { id: number; mediumId: number; productionId: number }
let clip: string
beforeAll(async () => {
  rig = await makeRig()
  const footage = makeFootage(rig.folder)
  clip = footage.clip
  const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Limits' } })
  const file = multipart([{ name: 'clip.mp4', bytes: readFileSync(clip) }])
  const url = `/api/productions/${made.json<{ id: number }>().id}/media`
  shot = (await rig.app.inject({ method: 'POST', url, ...file })).json<{ shots: (typeof shot)[] }>().shots[0]!
})
afterAll(() => rig.close())

const get = async <T>(url: string): Promise<T> => (await rig.app.inject({ url })).json<T>()

describe('lists', () => {
  interface Page<T> {
    items: T[]
    more: boolean
  }
  /** Follows a list to its end; every page but the last says that there is more. */
  async function follow<T extends { id: number }>(url: string): Promise<T[][]> {
    const pages: T[][] = []
    for (let before = ''; ;) {
      const { items, more } = await get<Page<T>>(`${url}${before}`)
      pages.push(items)
      if (!more) return pages
      before = `?before=${items.at(-1)!.id}`
    }
  }

  it('of productions come page by page, newest first, each with its first shots in order and how many there are', async () => {
    const names = Array.from({ length: 60 }, (_, i) => ({ name: `P${i}`, notes: '' }))
    const made = await Production.bulkCreate(names)
    const full = made[40]!
    // Positions run against the ids, so that the order seen is that of the positions.
    await Shot.bulkCreate(
      Array.from({ length: 20 }, (_, i) => ({
        productionId: full.id,
        mediumId: shot.mediumId,
        name: `S${i}`,
        position: 19 - i,
        first: 0,
        last: 1,
        still: 0,
        encoding: 'bt1886',
      })),
    )
    const pages = await follow<{ id: number; name: string; shotCount: number; shots: { name: string }[] }>(
      '/api/productions',
    )
    expect(pages.length).toBeGreaterThan(2)
    const all = pages.flat()
    expect(all.map((p) => p.name)).toEqual([...names.map((p) => p.name).reverse(), 'Limits'])
    const listed = all.find((p) => p.id === full.id)!
    expect(listed.shotCount).toBe(20)
    expect(listed.shots.map((s) => s.name)).toEqual(Array.from({ length: 10 }, (_, i) => `S${19 - i}`))
    expect(all.at(-1)).toMatchObject({ shotCount: 1, shots: [{ id: shot.id, medium: { id: shot.mediumId } }] })
    expect((await rig.app.inject({ url: '/api/productions?before=0' })).statusCode).toBe(400)
  })

  it('of renders come page by page, newest first', async () => {
    const waits = {
      shotId: shot.id,
      mediumId: shot.mediumId,
      format: 'png',
      state: 'done',
      first: 0,
      count: 1,
    } as const
    const rows = Array.from({ length: 120 }, (_, i) => ({
      ...waits,
      done: 1,
      label: `R${i}`,
      encoding: 'bt1886',
      recipe: SHIPPED_RECIPES[0]!,
      message: '',
    }))
    await Render.bulkCreate(rows)
    const pages = await follow<{ id: number; label: string }>('/api/renders')
    expect(pages.map((page) => page.length)).toEqual([50, 50, 20])
    expect(pages.flat().map((r) => r.label)).toEqual(rows.map((r) => r.label).reverse())
  })
})

describe('what is kept', () => {
  it('is so many proofs of a shot; the next is refused by number', async () => {
    const { encoding } = (await Shot.findByPk(shot.id))!
    const picture = readFileSync(`${rig.folder}/still.png`)
    const fields = { frame: 0, recipe: SHIPPED_RECIPES[0]!, preparation: [], after: [] }
    await Proof.bulkCreate(
      Array.from({ length: MOST_PROOFS - 1 }, (_, i) => ({
        ...fields,
        shotId: shot.id,
        name: `${i}`,
        width: 1,
        height: 1,
        encoding,
        picture: Buffer.from('x'),
      })),
    )
    const ask = async () => {
      const payload = { ...fields, name: 'One more', picture: picture.toString('base64') }
      return rig.app.inject({ method: 'POST', url: `/api/shots/${shot.id}/proofs`, payload })
    }
    expect((await ask()).statusCode).toBe(201)
    const refused = await ask()
    expect(refused.statusCode).toBe(400)
    expect(refused.json<{ message: string }>().message).toBe(
      'This shot has 200 proofs, the most that one keeps; remove some first.',
    )
    expect(await Proof.count({ where: { shotId: shot.id } })).toBe(MOST_PROOFS)
  })

  it('is so much undo; the oldest steps make room for the newest', async () => {
    const url = `/api/shots/${shot.id}/history`
    // As large a step as there is: a line put on a thousand shots.
    const [recipe] = [...SHIPPED_RECIPES].sort((x, y) => JSON.stringify(y).length - JSON.stringify(x).length)
    const trials = Array.from({ length: 1000 }, () => ({ trialId: 1, recipe: recipe! }))
    const bytes = JSON.stringify({ kind: 'shots', trials }).length
    const steps = Math.ceil(MOST_STACK_BYTES / bytes) + 2
    const none = { remove: [], add: [] }
    for (let i = 0; i < steps; i++) {
      const add = [{ key: `step${String(i).padStart(8, '0')}`, step: { kind: 'shots', trials } }]
      const reply = await rig.app.inject({ method: 'PATCH', url, payload: { past: { ...none, add }, future: none } })
      expect(reply.statusCode).toBe(204)
    }
    const kept = await Edit.findAll({ where: { shotId: shot.id }, order: [['position', 'ASC']], attributes: ['key'] })
    const fit = Math.floor(MOST_STACK_BYTES / bytes)
    expect(kept.map((row) => row.key)).toEqual(
      Array.from({ length: fit }, (_, i) => `step${String(steps - fit + i).padStart(8, '0')}`),
    )
  })

  it('never is a request without end: a body over the limit is refused by its size', async () => {
    const payload = { past: 'x'.repeat(ROUTES.changeHistory.mostBytes), future: 0 }
    const reply = await rig.app.inject({ method: 'PATCH', url: `/api/shots/${shot.id}/history`, payload })
    expect(reply.statusCode).toBe(413)
    expect(reply.json<{ message: string }>().message).toBe(
      'The request is larger than 8 MB, the most that is taken here.',
    )
  })
})

describe('programs that read footage', () => {
  const endless = ['-f', 'lavfi', '-i', 'color=s=64x64:r=1', '-f', 'null', '-']
  it('have so much memory; renders give way to everything else', async () => {
    const child = ffmpeg(endless, { memory: MOST_MEMORY, polite: true })
    const read = (name: string): string => readFileSync(`/proc/${child.pid}/${name}`, 'utf8')
    await expect.poll(() => read('cmdline')).toMatch(/^ffmpeg/)
    expect(/^Max data size\s+(\d+)/m.exec(read('limits'))![1]).toBe('4294967296')
    // The nineteenth field is the nice value (proc(5)).
    expect(read('stat').split(') ')[1]!.split(' ')[16]).toBe('10')
    child.kill('SIGKILL')
    await child
  })
  it('fail in words where that is not enough', async () => {
    const decode = ['-i', clip, '-frames:v', '2', '-vf', 'scale=8000:8000', '-f', 'null', '-']
    expect(await runFfmpeg(decode, 60_000, {})).toBeNull()
    // Whichever way it fails: at its libraries, at a thread, at a picture.
    for (const memory of [30e6, 60e6, 80e6, 100e6, 150e6])
      expect(lastLine((await runFfmpeg(decode, 60_000, { memory }))!), `${memory}`).toBe(
        'it needs more memory than the 4 GB it may take',
      )
  })
})
