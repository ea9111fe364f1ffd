import { mkdirSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeRig, type Rig } from './helpers'

let rig: Rig
const folder = mkdtempSync(join(tmpdir(), 'fogbath-page-'))
beforeAll(async () => {
  mkdirSync(join(folder, 'assets'))
  writeFileSync(join(folder, 'index.html'), '<!doctype html><title>page</title>')
  writeFileSync(join(folder, 'assets/own.js'), 'export {}')
  rig = await makeRig({ page: folder })
})
afterAll(async () => {
  await rig.close()
  rmSync(folder, { recursive: true, force: true })
})

describe('an address that is asked for by a reload', () => {
  const router = readFileSync(join(import.meta.dirname, '../../web/src/router.ts'), 'utf8')
  const known = [...router.matchAll(/path: '([^']+)'/g)].map(([, path]) => path!.replaceAll(/:\w+/g, '7'))
  it.each([...known, '/a/view/that/comes/later', '/apiary'])('%s is the page', async (url) => {
    expect(known.length).toBeGreaterThan(5)
    const reply = await rig.app.inject({ url: `${url}?frame=3` })
    expect([reply.statusCode, reply.headers['content-type']]).toEqual([200, expect.stringMatching(/^text\/html/)])
  })
  it.each(['/api', '/api/nothing', '/api/shelf/x/y', '/assets/none.js', '/favicon.ico'])('%s is not', async (url) => {
    const reply = await rig.app.inject({ url })
    expect([reply.statusCode, reply.json<{ error: string }>().error]).toEqual([404, 'not-found'])
  })
  it('a file of the page is that file', async () => {
    expect((await rig.app.inject({ url: '/assets/own.js' })).body).toBe('export {}')
  })
})

describe('numbers in paths and queries', () => {
  it('are numbers, and what is none is refused by its place and rule', async () => {
    for (const [url, says] of [
      ['/api/shots/abc', /params\/id is "abc"; it must be of type integer/],
      ['/api/shots/1.5', /params\/id is "1.5"; it must be of type integer/],
      ['/api/shots/0', /params\/id is 0; it must be >= 1/],
      ['/api/shots/9999999999', /params\/id is 9999999999; it must be <= 2147483647/],
      ['/api/media/1/frames/-1', /params\/frame is -1; it must be >= 0/],
      ['/api/renders?before=x', /querystring\/before is "x"; it must be of type integer/],
    ] as const) {
      const reply = await rig.app.inject({ url })
      expect([reply.statusCode, reply.json<{ message: string }>().message]).toEqual([400, expect.stringMatching(says)])
    }
    expect((await rig.app.inject({ url: '/api/shots/7' })).statusCode).toBe(404)
    // In bodies a number is a number.
    const payload = { shots: ['1'] }
    expect((await rig.app.inject({ method: 'PUT', url: '/api/productions/1/order', payload })).statusCode).toBe(400)
  })
})
