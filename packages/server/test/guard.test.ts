import { readFileSync, rmSync, statSync, mkdtempSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { RouteOptions } from 'fastify'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { keyIn, sameSecret } from '../src/http/key'
import { makeRig, multipart, type Rig } from './helpers'

let rig: Rig
let keyed: Rig
const KEY = 'k'.repeat(43)
const routes: { method: string; url: string }[] = []
beforeAll(async () => {
  rig = await makeRig()
  keyed = await makeRig({
    guard: { hosts: ['grading.example'], key: KEY },
    onRoute: (route: RouteOptions) => {
      for (const method of [route.method].flat()) routes.push({ method, url: route.url })
    },
  })
})
afterAll(() => Promise.all([rig.close(), keyed.close()]))

const messageOf = (reply: { body: string }): string => (JSON.parse(reply.body) as { message: string }).message

describe('names of the server', () => {
  it('are those of this machine: a name that was made to point here is answered with 421', async () => {
    for (const host of [
      'evil.example',
      'evil.example:4680',
      'localhost.evil.example',
      '127.0.0.1.evil.example',
      '10.0.0.5',
    ])
      for (const method of ['GET', 'POST', 'DELETE'] as const) {
        const reply = await rig.app.inject({ method, url: '/api/productions', headers: { host } })
        expect([reply.statusCode, host]).toEqual([421, host])
      }
    expect(messageOf(await rig.app.inject({ url: '/', headers: { host: 'evil.example' } }))).toMatch(
      /not called 'evil.example'; open it under localhost/,
    )
    for (const host of ['localhost', 'LOCALHOST:4680', '127.0.0.1:4680', '[::1]:4680', '[::1]'])
      expect((await rig.app.inject({ url: '/api/productions', headers: { host } })).statusCode).toBe(200)
  })
})

describe('a page of another site', () => {
  const host = 'localhost:4680'
  const count = async () =>
    (await rig.app.inject({ url: '/api/productions' })).json<{ items: unknown[] }>().items.length

  it('changes nothing here, neither by a script nor by a plain form', async () => {
    const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Mine' } })
    const { id, revision } = made.json<{ id: number; revision: number }>()
    const before = await count()
    const form = multipart([{ name: 'a.png', bytes: Buffer.from('x') }])
    const foreign = [
      { origin: 'https://evil.example' },
      { origin: 'http://localhost:9999' },
      { origin: 'null' },
      { 'sec-fetch-site': 'cross-site' },
      { 'sec-fetch-site': 'same-site', origin: 'http://localhost:4680' },
    ]
    for (const headers of foreign) {
      const asked = [
        { method: 'POST', url: `/api/productions/${id}/media`, payload: form.payload, headers: form.headers },
        { method: 'POST', url: '/api/productions', payload: { name: 'Theirs' } },
        { method: 'DELETE', url: `/api/productions/${id}?revision=${revision}` },
      ] as const
      for (const { headers: own = {}, ...ask } of asked as readonly ((typeof asked)[number] & { headers?: object })[]) {
        const reply = await rig.app.inject({ ...ask, headers: { host, ...own, ...headers } })
        expect([reply.statusCode, JSON.stringify(headers)]).toEqual([403, JSON.stringify(headers)])
      }
    }
    expect(await count()).toBe(before)
  })
  it('of our own, and programs, are let through', async () => {
    for (const headers of [
      {},
      { origin: 'http://localhost:4680', 'sec-fetch-site': 'same-origin' },
      { 'sec-fetch-site': 'none' },
    ]) {
      const ask = {
        method: 'POST',
        url: '/api/productions',
        payload: { name: 'Own' },
        headers: { host, ...headers },
      } as const
      expect((await rig.app.inject(ask)).statusCode).toBe(201)
    }
  })
  it('is told by headers that our page may share memory, and theirs may not embed it', async () => {
    const { headers } = await rig.app.inject({ url: '/api/productions' })
    expect(headers).toMatchObject({
      'cross-origin-embedder-policy': 'require-corp',
      'cross-origin-opener-policy': 'same-origin',
      'cross-origin-resource-policy': 'same-origin',
    })
  })
})

describe('with a key', () => {
  const cookieOf = async (key: string) => {
    const reply = await keyed.app.inject({ method: 'POST', url: '/api/sign-in', payload: { key } })
    return { status: reply.statusCode, cookie: String(reply.headers['set-cookie'] ?? '') }
  }

  it('nothing is answered without it: every route that there is, and every other address', async () => {
    const asked = [
      ...routes.filter((r) => r.method !== 'HEAD'),
      ...['/', '/index.html', '/assets/x.js', '/bench/1', '/api/nothing', '/..%2fkey'].map((url) => ({
        method: 'GET',
        url,
      })),
    ].filter(({ url }) => !['/sign-in', '/sign-in.js', '/api/sign-in'].includes(url))
    expect(asked.length).toBeGreaterThan(30)
    for (const { method, url } of asked) {
      const path = url.replace(/:\w+/g, '1').replace('*', 'x')
      const wrong = { authorization: `Bearer ${'x'.repeat(43)}`, cookie: `fogbath=${KEY}` }
      for (const headers of [{}, wrong]) {
        const reply = await keyed.app.inject({ method: method as 'GET', url: path, headers })
        expect([reply.statusCode, `${method} ${url}`]).toEqual([401, `${method} ${url}`])
        expect(reply.body).not.toContain('"id"')
      }
    }
  })
  it('is taken as a bearer token, or once on the page, which then has a cookie that scripts cannot read', async () => {
    const bearer = { authorization: `Bearer ${KEY}` }
    expect((await keyed.app.inject({ url: '/api/productions', headers: bearer })).statusCode).toBe(200)
    const { status, cookie } = await cookieOf(KEY)
    expect(status).toBe(204)
    expect(cookie).toMatch(/HttpOnly/)
    expect(cookie).toMatch(/SameSite=Strict/)
    expect(cookie).not.toContain(KEY)
    const own = { cookie: cookie.split(';')[0]! }
    expect((await keyed.app.inject({ url: '/api/productions', headers: own })).statusCode).toBe(200)
    expect(
      (await keyed.app.inject({ url: '/api/productions', headers: { cookie: `${own.cookie}x` } })).statusCode,
    ).toBe(401)
  })
  it('refuses a wrong one in words, and guessing after some attempts', async () => {
    const replies = []
    for (let i = 0; i < 12; i++)
      replies.push(await keyed.app.inject({ method: 'POST', url: '/api/sign-in', payload: { key: `guess ${i}` } }))
    expect(messageOf(replies[0]!)).toBe('That is not the key of this server.')
    expect(replies.at(-1)!.statusCode).toBe(429)
  })
  it('leads a person to the page where it is given, and knows the names it was told', async () => {
    const html = { accept: 'text/html,*/*', host: 'grading.example:4680' }
    const reply = await keyed.app.inject({ url: '/bench/3', headers: html })
    expect([reply.statusCode, reply.headers.location]).toEqual([302, '/sign-in'])
    const page = await keyed.app.inject({ url: '/sign-in', headers: html })
    expect(page.body).toContain('Key of this server')
    expect(page.body).not.toContain(KEY)
    expect((await keyed.app.inject({ url: '/sign-in', headers: { host: 'evil.example' } })).statusCode).toBe(421)
  })
})

describe('the key', () => {
  it('is made once, of 32 random bytes, for its owner alone', async () => {
    const folder = mkdtempSync(join(tmpdir(), 'fogbath-key-'))
    try {
      const path = join(folder, 'key')
      const key = await keyIn(path)
      expect(Buffer.from(key, 'base64url')).toHaveLength(32)
      expect(await keyIn(path)).toBe(key)
      expect(statSync(path).mode & 0o777).toBe(0o600)
      expect(readFileSync(path, 'utf8')).toBe(key)
      expect(await keyIn(join(folder, 'other'))).not.toBe(key)
    } finally {
      rmSync(folder, { recursive: true, force: true })
    }
  })
  it('is compared whole', () => {
    expect(sameSecret('abc', 'abc')).toBe(true)
    for (const other of ['', 'ab', 'abd', 'abcd', 'ABC']) expect(sameSecret('abc', other)).toBe(false)
  })
})

describe('health', () => {
  it('asks the database and the queue', async () => {
    expect((await rig.app.inject({ url: '/api/health' })).json()).toEqual({
      ok: true,
      database: true,
      rendering: 'idle',
    })
  })
})
