import { execFileSync } from 'node:child_process'
import { mkdirSync, readFileSync, renameSync } from 'node:fs'
import { join } from 'node:path'
import { ROUTES, type EditPlan, type Production, type Reply, type Shot } from '@fogbath/contract'
import { cutInWords } from '@fogbath/core/edits'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Medium } from '../src/db/models'
import { makeRig, multipart, type Rig } from './helpers'

let rig: Rig
const send = async (method: 'GET' | 'POST' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as any }
}
const at = (name: string): string => join(rig.folder, name)
/** A clip of so many seconds whose timecode starts at one hour. */
function clip(name: string, seconds: number, hue: number): void {
  const source = `gradients=s=96x54:r=24:d=${seconds}:speed=0.02:seed=${hue}`
  const args = ['-f', 'lavfi', '-i', source, '-timecode', '01:00:00:00', '-c:v', 'libx264', '-pix_fmt', 'yuv420p']
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...args, at(name)])
}
const take = async (production: number, name: string): Promise<Shot[]> => {
  const form = multipart([{ name, bytes: readFileSync(at(name)) }])
  const reply = await rig.app.inject({ method: 'POST', url: `/api/productions/${production}/media`, ...form })
  return reply.json<{ shots: Shot[] }>().shots
}
const shots = async (production: number): Promise<Shot[]> =>
  ((await send('GET', `/api/productions/${production}`)).body as Production).shots
const made = async (name: string): Promise<number> => (await send('POST', '/api/productions', { name })).body.id

/** An event of a list: seconds and frames of footage, one behind the other. */
const lines = (...events: (readonly [file: string, from: string, to: string, more?: string])[]): string => {
  let record = 0
  const seconds = (text: string): number => {
    const [s, f] = text.split(':').map(Number) as [number, number]
    return 24 * s + f
  }
  const code = (n: number): string =>
    `01:00:${String(Math.floor(n / 24)).padStart(2, '0')}:${String(n % 24).padStart(2, '0')}`
  return events
    .map(([file, from, to, more = ''], i) => {
      const [a, b, r] = [seconds(from), seconds(to), record]
      record += b - a
      return `${String(i + 1).padStart(3, '0')}  AX  V  C  ${code(a)} ${code(b)} ${code(r)} ${code(record)}\n* FROM CLIP NAME: ${file}\n${more}`
    })
    .join('\n')
}
const list = (content: string, name = 'rough.edl') => ({ name, fps: '24', content })
const plan = async (production: number, of: object): Promise<EditPlan> =>
  (await send('POST', `/api/productions/${production}/edit/plan`, of)).body
const apply = async (production: number, of: object, remove: number[] = []) => {
  const { key } = await plan(production, of)
  return send('POST', `/api/productions/${production}/edit`, { ...of, key, remove })
}

beforeAll(async () => {
  rig = await makeRig()
  clip('dawn.mov', 4, 3)
  clip('boat.mov', 5, 4)
  clip('gate.mov', 2, 5)
})
afterAll(() => rig.close())

const CDL = '*ASC_SOP (1.2 1 0.9)(0 0 0)(1 1 1)\n*ASC_SAT 0.8\n'
const FIRST = list(lines(['dawn.mov', '1:00', '2:00', CDL], ['gate.mov', '0:00', '1:00'], ['boat.mov', '2:00', '4:12']))

describe('an edit', () => {
  let id: number
  beforeAll(async () => {
    id = await made('Harbour')
    const taken = [...(await take(id, 'dawn.mov')), ...(await take(id, 'boat.mov'))]
    for (const { id: shot, revision } of new Map(taken.map((s) => [s.id, s])).values())
      await send('DELETE', `/api/shots/${shot}?revision=${revision}`)
  })

  it('makes shots in its order, with in and out and its decision; what is not found waits', async () => {
    const seen = await plan(id, FIRST)
    expect(seen.events.map((e) => [e.name, e.range, e.shotId, e.graded])).toEqual([
      ['dawn', { first: 24, last: 47 }, null, true],
      ['gate', null, null, false],
      ['boat', { first: 48, last: 107 }, null, false],
    ])
    expect(seen.events[1]!.missing).toBe("Nothing that is here is called 'gate.mov' (line 6).")
    // Looking changes nothing.
    expect(await shots(id)).toEqual([])
    expect((await apply(id, FIRST)).body).toEqual({ made: 2, changed: 0, removed: 0, waiting: 1 })
    const now = await shots(id)
    expect(now.map((s) => [s.name, s.first, s.last])).toEqual([
      ['dawn', 24, 47],
      ['boat', 48, 107],
    ])
    expect(now[0]!.preparation.map((b) => [b.kind, b.name, b.settings['slopeRed'], b.settings['saturation']])).toEqual([
      ['cdl', 'From the edit', 1.2, 0.8],
    ])
    expect(now.every((s) => s.still >= s.first && s.still <= s.last)).toBe(true)
    expect((await send('GET', `/api/productions/${id}/edit`)).body).toEqual(FIRST)
  })

  it('finds later what was missing: in the watched folder, or brought as footage alone', async () => {
    mkdirSync(at('watched/day one'), { recursive: true })
    renameSync(at('gate.mov'), at('watched/day one/gate.mov'))
    expect((await plan(id, FIRST)).events[1]!.watched).toEqual(['day one/gate.mov'])
    const picked = { paths: ['day one/gate.mov'], asSequence: false, shots: '0' }
    expect((await send('POST', `/api/productions/${id}/pick`, picked)).body.shots).toHaveLength(2)
    expect((await apply(id, FIRST)).body).toEqual({ made: 1, changed: 0, removed: 0, waiting: 0 })
    expect((await shots(id)).map((s) => s.name)).toEqual(['dawn', 'gate', 'boat'])
    // The same again is nothing at all: no row is written.
    const before = await shots(id)
    expect((await apply(id, FIRST)).body).toEqual({ made: 0, changed: 0, removed: 0, waiting: 0 })
    expect(await shots(id)).toEqual(before)
  })

  it('is held against what is there when it comes again: treatments stay with their frames', async () => {
    const [dawn, gate, boat] = (await shots(id)) as [Shot, Shot, Shot]
    const look = { recipe: SHIPPED_RECIPES.find((r) => r.id === 'bleach-bypass') }
    const [trial] = boat.trials
    await send('PATCH', `/api/trials/${trial!.id}`, { revision: trial!.revision, ...look })
    // The boat comes first, cut in two; dawn is shorter, and the gate is out.
    const next = list(
      lines(['boat.mov', '2:00', '2:12'], ['boat.mov', '3:00', '4:12'], ['dawn.mov', '1:06', '2:00', CDL]),
      'fine.edl',
    )
    const seen = await plan(id, next)
    expect(seen.events.map((e) => [e.shotId, e.like, e.trimmed, e.was])).toEqual([
      [null, boat.id, false, null],
      [boat.id, null, true, { first: 48, last: 107 }],
      [dawn.id, null, true, { first: 24, last: 47 }],
    ])
    expect(seen.events.filter((e) => e.moved)).toHaveLength(1)
    expect(seen.gone.map((s) => s.id)).toEqual([gate.id])
    // What is not in the edit stays behind it, unless one wants it gone.
    expect((await apply(id, next)).body).toEqual({ made: 1, changed: 2, removed: 0, waiting: 0 })
    const now = await shots(id)
    expect(now.map((s) => [s.id === boat.id, s.id === dawn.id, s.name, s.first, s.last])).toEqual([
      [false, false, 'boat', 48, 59],
      [true, false, 'boat', 72, 107],
      [false, true, 'dawn', 30, 47],
      [false, false, 'gate', 0, 23],
    ])
    expect(now.slice(0, 2).map((s) => s.trials[0]!.recipe.id)).toEqual(['bleach-bypass', 'bleach-bypass'])
    // The decision takes the place of itself.
    expect(now[2]!.preparation).toHaveLength(1)
    expect((await apply(id, next, [gate.id])).body).toMatchObject({ removed: 1 })
    expect((await shots(id)).map((s) => s.name)).toEqual(['boat', 'boat', 'dawn'])
  })

  it('is refused where something has changed since it was looked at, and where it would remove what it shows', async () => {
    const next = list(lines(['dawn.mov', '1:00', '2:00']))
    const { key, gone } = await plan(id, next)
    const [dawn] = (await shots(id)).filter((s) => s.name === 'dawn')
    await send('PATCH', `/api/shots/${dawn!.id}`, { revision: dawn!.revision, name: 'Dawn fog' })
    const url = `/api/productions/${id}/edit`
    const late = await send('POST', url, { ...next, key, remove: [] })
    expect([late.status, late.body.message]).toEqual([409, expect.stringMatching(/look at what the edit makes of it/)])
    const other = { ...next, key: (await plan(id, next)).key, remove: [gone[0]!.id, dawn!.id] }
    const strange = await send('POST', url, other)
    expect([strange.status, strange.body.message]).toEqual([
      400,
      expect.stringMatching(`Shot ${dawn!.id} cannot be removed`),
    ])
    expect(await shots(id)).toHaveLength(3)
    // A name that was given by hand stays when it is taken in.
    await apply(id, next)
    expect((await shots(id))[0]!.name).toBe('Dawn fog')
  })

  it('says of each wrong list what is wrong with it', async () => {
    const says = async (of: object) => {
      const { status, body } = await send('POST', `/api/productions/${id}/edit/plan`, of)
      return [status, body.message ?? body.left]
    }
    expect(await says(list('x', 'rough.xml'))).toEqual([
      422,
      expect.stringMatching(/rough\.xml.*must end in \.edl or \.otio/),
    ])
    expect(await says(list('TITLE: x\n'))).toEqual([422, 'rough.edl holds no event that shows a picture.'])
    expect(await says(list('{', 'rough.otio'))).toEqual([
      422,
      expect.stringMatching(/rough\.otio: The file is no JSON/),
    ])
    expect(await says(list('001 broken\n' + lines(['dawn.mov', '0:00', '1:00'])))).toEqual([
      200,
      [expect.stringMatching(/^Line 1 is left out/)],
    ])
    const wild = await plan(id, list(lines(['dawn.mov', '0:00', '1:00', '*ASC_SOP (9 1 1)(0 0 0)(1 1 1)\n'])))
    expect(wild.events[0]).toMatchObject({
      graded: false,
      remark: expect.stringMatching(/left out \(line 1\): slopeRed is 9; this bath takes 0 to 4/),
    })
  })

  it('keeps dissolves and speeds with the shot, and in and out set by hand change them sensibly', async () => {
    const own = await made('Speeds')
    const content = [
      '001  AX  V  C      01:00:00:00 01:00:01:00 01:00:00:00 01:00:01:00',
      '* FROM CLIP NAME: boat.mov',
      '002  AX  V  C      01:00:01:00 01:00:01:00 01:00:01:00 01:00:01:00',
      '002  AX  V  D  012 01:00:00:00 01:00:04:00 01:00:01:00 01:00:03:00',
      'M2   AX  048.000   01:00:00:00',
      '* FROM CLIP NAME: boat.mov',
      '* TO CLIP NAME: dawn.mov',
    ].join('\n')
    await apply(own, list(content))
    const [boat, dawn] = (await shots(own)) as [Shot, Shot]
    expect([boat.first, boat.last, cutInWords(boat.cut!)]).toEqual([0, 35, 'frames of a dissolve: 12 at its end'])
    expect([dawn.first, dawn.last, dawn.cut]).toEqual([0, 95, { before: 0, after: 0, speed: 2, length: 48 }])
    const { body } = await send('PATCH', `/api/shots/${dawn.id}`, { revision: dawn.revision, last: 47 })
    expect(body.cut).toEqual({ before: 0, after: 0, speed: 2, length: 24 })
  })
})

describe('a production as a list', () => {
  it('is the same edit when it is read again, as EDL and as OTIO with recipes', async () => {
    const id = await made('Out')
    await apply(id, FIRST)
    const before = await shots(id)
    for (const form of ['edl', 'otio'] as const) {
      const reply = await rig.app.inject({ url: `/api/productions/${id}/edit/file?form=${form}` })
      expect(reply.headers['content-disposition']).toContain(`Out.${form}`)
      const again = await plan(id, list(reply.body, `out.${form}`))
      expect(again.events.map((e) => [e.shotId, e.trimmed, e.moved])).toEqual(before.map((s) => [s.id, false, false]))
      expect(again.gone).toEqual([])
      if (form === 'otio') expect(reply.body).toContain('"fogbath"')
      else expect(reply.body).toMatch(/ASC_SOP \(1\.200000 1\.000000 0\.900000\)/)
    }
    const none = await rig.app.inject({ url: `/api/productions/${await made('Empty')}/edit/file?form=edl` })
    expect([none.statusCode, none.json<any>().message]).toEqual([400, 'Empty has no shots.'])
  })
  it('goes along in a copy and in a backup, with its list and how the edit shows each shot', async () => {
    const id = await made('Along')
    await apply(id, FIRST)
    const copy = (await send('POST', `/api/productions/${id}/copy`)).body.id as number
    const archive = (await rig.app.inject({ url: `/api/productions/${id}/along?media=0` })).rawPayload
    const form = multipart([{ name: 'along.zip', bytes: archive }])
    const { key } = (await rig.app.inject({ method: 'POST', url: '/api/imports', ...form })).json<any>()
    const [back] = (await send('POST', `/api/imports/${key}/accept`)).body.productions as number[]
    for (const other of [copy, back!]) {
      expect((await send('GET', `/api/productions/${other}/edit`)).body).toEqual(FIRST)
      expect((await shots(other)).map((s) => [s.name, s.cut])).toEqual((await shots(id)).map((s) => [s.name, s.cut]))
    }
  })
})

describe('one long clip', () => {
  /** Three shots of 20, 30 and 22 frames, one behind the other. */
  const parts = [
    [20, 11],
    [30, 29],
    [22, 47],
  ] as const
  let shot: Shot
  beforeAll(async () => {
    const inputs = parts.flatMap(([frames, seed]) => [
      '-f',
      'lavfi',
      '-i',
      `gradients=s=96x54:r=24:d=${frames / 24}:speed=0.01:seed=${seed}`,
    ])
    const joined = [
      ...inputs,
      '-filter_complex',
      'concat=n=3:v=1',
      '-c:v',
      'libx264',
      '-qp',
      '10',
      '-pix_fmt',
      'yuv420p',
    ]
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...joined, at('reel.mov')])
    ;[shot] = (await take(await made('Reel'), 'reel.mov')) as [Shot]
  })
  const cuts = (query = '') => send('GET', `/api/media/${shot.mediumId}/cuts?${query}`)

  it('is looked through in the background; another threshold needs no second look', async () => {
    const first = (await cuts()).body as Reply<typeof ROUTES.cuts>
    expect([first.state, first.of, first.cuts]).toEqual(['looking', 72, []])
    await expect.poll(async () => (await cuts()).body.state, { timeout: 60_000 }).toBe('found')
    expect((await cuts()).body.cuts).toEqual([0, 20, 50])
    expect((await cuts('least=21')).body.cuts).toEqual([0, 50])
    expect((await cuts('threshold=100')).body.cuts).toEqual([0])
    expect((await cuts('threshold=101')).status).toBe(400)
  })
  it('is given up, and begun anew', async () => {
    const [other] = await Medium.findAll({ where: { name: 'boat.mov' } })
    expect((await send('GET', `/api/media/${other!.id}/cuts`)).body.state).toBe('looking')
    expect((await send('DELETE', `/api/media/${other!.id}/cuts`)).status).toBe(204)
    const state = async () => (await send('GET', `/api/media/${other!.id}/cuts`)).body
    await expect.poll(async () => (await state()).state, { timeout: 60_000 }).toBe('found')
    expect((await state()).cuts).toEqual([0])
  })
  it('becomes shots that carry what it carried, in its place', async () => {
    const url = `/api/shots/${shot.id}/split`
    for (const [starts, at] of [
      [[0], 0],
      [[20, 20], 20],
      [[50, 20], 20],
      [[72], 72],
    ] as const) {
      const { status, body } = await send('POST', url, { revision: shot.revision, starts })
      expect([status, body.message]).toEqual([400, expect.stringContaining(`cannot begin at frame ${at};`)])
    }
    await take(shot.productionId, 'boat.mov')
    const { body } = await send('POST', url, { revision: shot.revision, starts: [20, 50] })
    const now = await shots(shot.productionId)
    expect(now.map((s) => [s.name, s.first, s.last])).toEqual([
      ['reel 01', 0, 19],
      ['reel 02', 20, 49],
      ['reel 03', 50, 71],
      ['boat', 0, 119],
    ])
    expect((body.shots as Shot[]).map((s) => s.id)).toEqual(now.slice(0, 3).map((s) => s.id))
    expect(now[0]!.id).toBe(shot.id)
    expect(new Set(now.map((s) => s.trials[0]!.id)).size).toBe(4)
    expect((await send('POST', url, { revision: shot.revision, starts: [5] })).status).toBe(409)
  })
})
