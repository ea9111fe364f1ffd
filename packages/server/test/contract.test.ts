import { HEADINGS, ROUTES, type Route } from '@fogbath/contract'
import { Validator } from '@seriousme/openapi-schema-validator'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { validatorFor } from '../src/validate'
import { makeRig, type Rig } from './helpers'

let rig: Rig
/** Routes under /api as the server has them. */
const served = new Set<string>()
beforeAll(async () => {
  const guard = { hosts: [], key: 'a-key' }
  rig = await makeRig({
    guard,
    onRoute: ({ method, url }) => [method].flat().forEach((m) => served.add(`${m} ${url}`)),
  })
})
afterAll(() => rig.close())
const get = (url: string) => rig.app.inject({ url, headers: { authorization: 'Bearer a-key' } })

describe('the contract', () => {
  const nameOf = ({ method, path }: Route): string => `${method} /api${path}`

  it('names every route once, and the server has those and no others', () => {
    const all = Object.values(HEADINGS).flatMap((routes) => Object.values(routes).map(nameOf))
    expect(new Set(all).size).toBe(all.length)
    expect(Object.values(ROUTES).map(nameOf).sort()).toEqual([...all].sort())
    const others = /^(HEAD|OPTIONS) |\/api\/(openapi\.json|docs)/
    expect([...served].filter((r) => / \/api\//.test(r) && !others.test(r)).sort()).toEqual([...all].sort())
  })

  it.each(Object.entries<Route>(ROUTES))('describes what stands in the path of %s', (_, { path, params }) => {
    const named = [...path.matchAll(/:(\w+)/g)].map(([, name]) => name)
    expect(Object.keys(params?.properties ?? {}).sort()).toEqual(named.sort())
  })

  // The server compiles a schema when it is first needed; one that cannot be compiled is not to be found by a user.
  it('has schemas that can be compiled, and refuse what is no part of them', () => {
    for (const [name, { params, query, body }] of Object.entries<Route>(ROUTES))
      for (const [httpPart, schema] of Object.entries({ params, querystring: query, body }))
        if (schema) expect([name, httpPart, validatorFor({ schema, httpPart })([[]])]).toEqual([name, httpPart, false])
  })
})

describe('the description of the API', () => {
  it('is one file: the forms that its page would work out anew for each who asks lead to it', async () => {
    for (const form of ['json', 'yaml', 'yaml?width=64']) {
      const { statusCode, headers } = await get(`/api/docs/${form}`)
      expect([form, statusCode, headers.location]).toEqual([form, 302, '/api/openapi.json'])
    }
  })

  it('is OpenAPI by the published schema of 3.1, with an answer and a sentence for every route', async () => {
    const description = (await get('/api/openapi.json')).json<{
      openapi: string
      paths: Record<string, Record<string, { summary: string; responses: Record<string, { content?: object }> }>>
    }>()
    const { valid, errors } = await new Validator().validate(description as never)
    expect(errors ?? []).toEqual([])
    expect([valid, description.openapi]).toEqual([true, '3.1.0'])
    for (const [name, route] of Object.entries<Route>(ROUTES)) {
      const path = `/api${route.path.replace(/:(\w+)/g, '{$1}')}`
      const found = description.paths[path]?.[route.method.toLowerCase()]
      expect(found, name).toMatchObject({ operationId: name, summary: route.says })
      const usual = Object.entries(found!.responses).filter(([status]) => status.startsWith('2'))
      expect(usual.length, name).toBeGreaterThan(0)
      for (const [status, answer] of usual)
        expect([name, status === '204' || 'content' in answer]).toEqual([name, true])
    }
  })

  it('is a page as well, which names nothing outside', async () => {
    const page = await get('/api/docs/')
    expect(page.headers['content-type']).toMatch(/^text\/html/)
    const named = [...page.body.matchAll(/(?:src|href)="([^"]+)"/g)].map(([, address]) => address!)
    expect(named.length).toBeGreaterThan(3)
    expect(named.filter((address) => /^([a-z]+:)?\/\//.test(address))).toEqual([])
    for (const address of named)
      expect([address, (await get(new URL(address, 'http://x/api/docs/').pathname)).statusCode]).toEqual([address, 200])
    // The name that its package keeps the page under leads to it, whatever is asked along.
    for (const query of ['', '?a=1']) {
      const moved = await get(`/api/docs/static/index.html${query}`)
      expect([moved.statusCode, moved.headers.location]).toEqual([302, '/api/docs/'])
    }
  })
})
