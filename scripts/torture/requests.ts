import { buildApp, type AppOptions } from '../../packages/server/src/http/app'
import type { Context } from '../../packages/server/src/http/context'
import { Chance } from './ledger'
import type { Target } from './target'

const CLASS = 'fuzzed requests'

interface Route {
  readonly method: string
  readonly url: string
  readonly body: Schema | undefined
}
interface Schema {
  readonly type?: string
  readonly properties?: Record<string, Schema>
  readonly items?: Schema
  readonly anyOf?: readonly Schema[]
  readonly enum?: readonly unknown[]
  readonly const?: unknown
}

/** Every route that the server has, as it registers them. */
async function routesOf(): Promise<Route[]> {
  const routes: Route[] = []
  const onRoute: AppOptions['onRoute'] = ({ method, url, schema }) => {
    for (const one of [method].flat())
      if (one !== 'HEAD') routes.push({ method: one, url, body: schema?.body as Schema | undefined })
  }
  // Only the table is wanted; nothing is asked of what the routes work with.
  const app = await buildApp({ context: {} as Context, page: null, onRoute })
  await app.close()
  return routes
}

const ODD = [
  ...[null, true, 0, -1, 1e308, 1.5, 2 ** 53, '', 'x'.repeat(5000), '\u0000', '\ud800', '💥', [], {}],
  ...['__proto__', "'; DROP TABLE shot; --", '../../etc/passwd', '<img src=x>', '%00', 'NaN', [[[[[]]]]]],
]

/** Something that fits a schema, or nearly. */
function valueFor(schema: Schema | undefined, chance: Chance, depth = 0): unknown {
  if (!schema || depth > 8 || chance.happens(0.06)) return chance.of(ODD)
  if (schema.const !== undefined) return schema.const
  if (schema.enum) return chance.of(schema.enum)
  if (schema.anyOf) return valueFor(chance.of(schema.anyOf), chance, depth + 1)
  switch (schema.type) {
    case 'object': {
      const entries = Object.entries(schema.properties ?? {}).filter(() => chance.happens(0.93))
      const made = entries.map(([key, inner]) => [key, valueFor(inner, chance, depth + 1)] as const)
      return Object.fromEntries(chance.happens(0.05) ? [...made, [String(chance.of(ODD)), 1]] : made)
    }
    case 'array':
      return Array.from({ length: chance.below(4) }, () => valueFor(schema.items, chance, depth + 1))
    case 'integer':
      return chance.of([1, 2, 3, 0, 10, 1000])
    case 'number':
      return chance.of([0, 1, -1, 0.5, 50, 100, 1e9])
    case 'boolean':
      return chance.happens(0.5)
    default:
      return chance.of(['plain', 'A', 'x', 'Dawn fog', '1', 'bt1886'])
  }
}

const IDS = [
  '0',
  '-1',
  '1',
  '2',
  '7',
  '99999',
  '99999999999',
  'abc',
  '1e3',
  '%00',
  '..%2f..',
  '1;2',
  '%F0',
  'x'.repeat(2000),
]
const QUERIES = [
  '',
  '',
  '?revision=1',
  '?revision=x',
  '?width=64',
  '?width=0',
  '?width=99999',
  '?media=0',
  '?before=3',
  '?a[]=1&a[]=2',
  '?%',
]
const TYPES = [
  'application/json',
  'text/plain',
  'application/x-www-form-urlencoded',
  'multipart/form-data; boundary=x',
  'application/xml',
  '',
]

/** A body as it goes over the wire: most fit the schema, some are cut, deep, or no JSON at all. */
function bodyOf(route: Route, chance: Chance): string {
  const text = JSON.stringify(valueFor(route.body, chance)) ?? 'null'
  if (chance.happens(0.05)) return text.slice(0, chance.below(text.length + 1))
  if (chance.happens(0.03)) return '['.repeat(2000) + ']'.repeat(2000)
  if (chance.happens(0.03))
    return `--x\r\ncontent-disposition: form-data; name="file"; filename="${text.slice(0, 50)}"\r\n\r\n${text}`
  if (chance.happens(0.02)) return '{"a":1e999999,"__proto__":{"x":1}}'
  return text
}

/** Asks every route for what it does not expect, each once, then over and over and each as often as the others. */
export async function fuzzRequests(target: Target, chance: Chance, until = 0): Promise<void> {
  const routes = (await routesOf()).filter((r) => r.url.startsWith('/api/'))
  let i = 0
  const lane = async (): Promise<void> => {
    while (i < routes.length || Date.now() < until) await once(target, chance, routes[i++ % routes.length]!)
  }
  await Promise.all([lane(), lane(), lane(), lane()])
}

async function once(target: Target, chance: Chance, route: Route): Promise<void> {
  const path = route.url.replace(/:[a-z]+/g, () => chance.of(IDS)) + chance.of(QUERIES)
  const type = chance.happens(0.85) ? TYPES[0]! : chance.of(TYPES)
  const headers: Record<string, string> = {
    ...(type && route.method !== 'GET' ? { 'content-type': type } : {}),
    ...(chance.happens(0.05) ? { range: chance.of(['bytes=9-1', 'bytes=-', 'bytes=0-99999999999', 'x']) } : {}),
    ...(chance.happens(0.05) ? { accept: chance.of(['text/html', '*/*;q=nan', '']) } : {}),
  }
  const init = { method: route.method, headers, ...(route.method === 'GET' ? {} : { body: bodyOf(route, chance) }) }
  // A stream of events has no end.
  await target.ask(CLASS, path, init, { quiet: route.url.endsWith('/events') })
}
