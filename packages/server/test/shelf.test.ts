import { changeSettings, type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Transaction } from 'sequelize'
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest'
import { makeRig, type Rig } from './helpers'

let rig: Rig
beforeAll(async () => {
  rig = await makeRig()
})
afterAll(() => rig.close())
const send = async (method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: (reply.body ? reply.json() : null) as Record<string, any> }
}
const plain = SHIPPED_RECIPES[0]!
const kept = async () => (await send('GET', '/api/shelf')).body as unknown as Record<string, any>[]
const keep = (name: string, more: object = {}) => send('POST', '/api/shelf', { name, recipe: plain, ...more })

describe('the shelf', () => {
  it('keeps a line under a name, which says where it came from', async () => {
    const { status, body } = await keep('Mill pond', { sentence: 'Cold water.', tags: ['water', 'cold'] })
    expect([status, body['latest'], body['revision']]).toEqual([201, 1, 1])
    const [first] = await kept()
    expect(first).toMatchObject({ name: 'Mill pond', sentence: 'Cold water.', tags: ['water', 'cold'] })
    const line = first!['recipe'] as Recipe
    expect([line.id, line.name, line.summary]).toEqual([`shelf-${first!['key']}-1`, 'Mill pond', 'Cold water.'])
    expect(line.baths).toEqual(plain.baths)
  })

  it('answers only when what it tells of is there for everybody', async () => {
    const { commit } = Transaction.prototype
    const slow = vi.spyOn(Transaction.prototype, 'commit').mockImplementation(async function (this: Transaction) {
      await new Promise((done) => setTimeout(done, 80))
      return commit.call(this)
    })
    try {
      const { body } = await keep('Slow weir')
      const row = (await kept()).find(({ id }) => id === body['id'])
      expect(row?.['name']).toBe('Slow weir')
      const harder = changeSettings(plain, 'bath-1', { bleachPrint: 60 })
      await send('POST', `/api/shelf/${body['id']}/versions`, { revision: 1, recipe: harder })
      expect((await kept()).find(({ id }) => id === body['id'])?.['latest']).toBe(2)
    } finally {
      slow.mockRestore()
    }
  })

  it('gives a version that stays, and says what became of the one before', async () => {
    const { body } = await keep('Weir')
    const url = `/api/shelf/${body['id']}/versions`
    const harder = changeSettings(plain, 'bath-1', { bleachPrint: 20 })
    const made = await send('POST', url, { revision: 1, recipe: harder })
    expect([made.status, made.body['latest'], made.body['changes']]).toEqual([
      201,
      2,
      ['Colour print: bleach, print 100 → 20 %'],
    ])
    const again = await send('POST', url, { revision: 2, recipe: harder })
    expect([again.status, again.body['message']]).toEqual([400, "The line does what version 2 of 'Weir' does already."])
    const one = (await send('GET', `${url}/1`)).body
    expect([one['recipe'].baths, one['changes']]).toEqual([plain.baths, []])
    expect((await send('GET', `${url}/2`)).body['recipe'].baths[0].settings.bleachPrint).toBe(20)
    expect((await send('GET', `${url}/3`)).body['message']).toMatch(/has no version 3/)
    const [row] = await kept()
    expect(row!['recipe'].id).toBe(`shelf-${body['key']}-2`)
    expect(row!['versions'].map((v: { number: number }) => v.number)).toEqual([2, 1])
  })

  it('lets one of two windows write a version; the other is told and nothing is written over', async () => {
    const { body } = await keep('Sluice')
    const url = `/api/shelf/${body['id']}/versions`
    const line = (bleachPrint: number) => changeSettings(plain, 'bath-1', { bleachPrint })
    const [a, b] = await Promise.all([
      send('POST', url, { revision: 1, recipe: line(10) }),
      send('POST', url, { revision: 1, recipe: line(30) }),
    ])
    expect([a.status, b.status].sort()).toEqual([201, 409])
    expect((await kept())[0]!['latest']).toBe(2)
  })

  it('renames, archives and restores; nothing can be deleted', async () => {
    const { body } = await keep('Towpath')
    const url = `/api/shelf/${body['id']}`
    const renamed = await send('PATCH', url, { revision: 1, name: 'Tow path' })
    expect(renamed.body).toMatchObject({ name: 'Tow path', archived: false, revision: 2 })
    expect((await send('PATCH', url, { revision: 1, archived: true })).status).toBe(409)
    const away = await send('PATCH', url, { revision: 2, archived: true })
    expect(away.body).toMatchObject({ archived: true })
    expect((await send('PATCH', url, { revision: 3, archived: false })).body).toMatchObject({ archived: false })
    expect((await send('DELETE', url)).status).toBe(404)
  })

  it('has favourites, of one’s own and of what came with the program', async () => {
    const own = (await keep('Cut')).body['key'] as string
    const favourites = async () => (await send('GET', '/api/favourites')).body
    const mark = (method: 'PUT' | 'DELETE', key: string) => send(method, `/api/favourites/${key}`)
    const both = await Promise.all([mark('PUT', own), mark('PUT', own)])
    expect(both.map(({ status }) => status)).toEqual([204, 204])
    expect((await mark('PUT', 'sepia')).status).toBe(204)
    expect(await favourites()).toEqual([own, 'sepia'])
    for (let twice = 0; twice < 2; twice++) expect((await mark('DELETE', own)).status).toBe(204)
    expect(await favourites()).toEqual(['sepia'])
    const unknown = await mark('PUT', 'moonlight-on-tin')
    expect([unknown.status, unknown.body['message']]).toEqual([
      404,
      "There is no recipe 'moonlight-on-tin' on the shelf.",
    ])
    expect(await favourites()).toEqual(['sepia'])
  })

  it.each([
    [{ name: '' }, 'name'],
    [{ name: 'x', tags: ['a', 'a'] }, 'tags'],
    [{ name: 'x', recipe: { ...plain, baths: [{ ...plain.baths[0], kind: 'wood' }] } }, 'wood'],
    [{ name: 'x', sentence: 'y'.repeat(301) }, 'sentence'],
    [{ name: 'x', author: 'me' }, 'author'],
  ])('refuses %j by name', async (wrong, named) => {
    const { status, body } = await send('POST', '/api/shelf', { recipe: plain, ...wrong })
    expect(status).toBe(400)
    expect(body['message']).toContain(named)
  })
})
