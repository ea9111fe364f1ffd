import cookies from '@fastify/cookie'
import { hostname, networkInterfaces } from 'node:os'
import { isIP } from 'node:net'
import type { FastifyReply, FastifyRequest } from 'fastify'
import { ROUTES, type Asked } from '@fogbath/contract'
import type { App } from './context'
import { sameSecret, sessionOf } from './key'
import { serverOf } from './serve-route'
import { SIGN_IN_PAGE, SIGN_IN_SCRIPT } from './sign-in'

export interface Guard {
  /** Names under which the server may be called besides those of this machine. */
  readonly hosts: readonly string[]
  /** What everybody must know who asks for anything, or null where only this machine can ask. */
  readonly key: string | null
}

const COOKIE = 'fogbath'
/** Thirty days, in seconds. */
const COOKIE_AGE = 30 * 24 * 3600
const READING = ['GET', 'HEAD', 'OPTIONS']
const OPEN = ['/sign-in', '/sign-in.js', '/api/sign-in']

const LOOPBACK = ['localhost', '127.0.0.1', '[::1]']

/** The host of a Host header or an origin, without its port, in small letters. */
const nameOf = (host: string): string => host.toLowerCase().replace(/:\d+$/, '')

/** With a key the machine's own names and addresses count too; a page elsewhere cannot use the key's cookie. */
function namesOf({ hosts, key }: Guard): ReadonlySet<string> {
  const own =
    key === null ? [] : [hostname(), ...Object.values(networkInterfaces()).flatMap((all) => (all ?? []).map(addressOf))]
  return new Set([...LOOPBACK, ...hosts, ...own].map((name) => name.toLowerCase()))
}
const addressOf = ({ address }: { address: string }): string => (isIP(address) === 6 ? `[${address}]` : address)

/**
 * Who may ask. A page of another site can make a browser here send requests, and a name that somebody else owns can be
 * made to point here (DNS rebinding): so only known names are answered, and what changes something must come from a page
 * of ours. With a key nothing is answered without it.
 */
export async function installGuard(app: App, guard: Guard): Promise<void> {
  const names = namesOf(guard)
  await app.register(cookies)
  app.addHook('onRequest', async (request, reply) => {
    const host = request.headers.host ?? ''
    if (!names.has(nameOf(host)))
      return reply.status(421).send({
        error: 'denied',
        message: `This server is not called '${host.slice(0, 100)}'; open it under ${[...names].slice(0, 3).join(', ')}, or name the host in FOGBATH_HOSTS.`,
      })
    if (!READING.includes(request.method) && foreign(request, host))
      return reply.status(403).send({ error: 'denied', message: 'This request was made by a page of another site.' })
    if (guard.key !== null && !OPEN.includes(request.routeOptions.url ?? '') && !signedIn(request, guard.key))
      return refuse(request, reply)
  })
}

/** Browsers say where a request comes from; programs need not. */
function foreign({ headers }: FastifyRequest, host: string): boolean {
  const site = headers['sec-fetch-site']
  if (typeof site === 'string' && site !== 'same-origin' && site !== 'none') return true
  if (headers.origin === undefined) return false
  return headers.origin.toLowerCase().replace(/^https?:\/\//, '') !== host.toLowerCase()
}

function signedIn(request: FastifyRequest, key: string): boolean {
  const [scheme, token] = (request.headers.authorization ?? '').split(' ')
  if (scheme?.toLowerCase() === 'bearer' && token && sameSecret(token, key)) return true
  const session = request.cookies[COOKIE]
  return session !== undefined && sameSecret(session, sessionOf(key))
}

/** A person is led to the page where the key is given; a program is told. */
function refuse(request: FastifyRequest, reply: FastifyReply): FastifyReply {
  if (request.method === 'GET' && (request.headers.accept ?? '').includes('text/html'))
    return reply.redirect('/sign-in', 302)
  return reply.status(401).header('www-authenticate', 'Bearer').send({
    error: 'denied',
    message: 'This server asks for its key; give it at /sign-in, or send “Authorization: Bearer <key>”.',
  })
}

/** Where the key is given; guessing it is limited. */
export function signInRoutes(app: App, key: string): void {
  app.get('/sign-in', (_request, reply) => reply.type('text/html; charset=utf-8').send(SIGN_IN_PAGE))
  app.get('/sign-in.js', (_request, reply) => reply.type('text/javascript; charset=utf-8').send(SIGN_IN_SCRIPT))
  const few = { config: { rateLimit: { max: 10, timeWindow: '1 minute' } } }
  const signIn = ({ body }: Asked<typeof ROUTES.signIn>, reply: FastifyReply): FastifyReply => {
    if (!sameSecret(body.key.trim(), key))
      return reply.status(401).send({ error: 'denied', message: 'That is not the key of this server.' })
    return reply
      .setCookie(COOKIE, sessionOf(key), { httpOnly: true, sameSite: 'strict', path: '/', maxAge: COOKIE_AGE })
      .send()
  }
  serverOf(app)(ROUTES.signIn, signIn, few)
}
