import type { Static, TObject, TSchema } from 'typebox'

/** What an answer is that is not JSON: a media type (RFC 6838), or several. */
export interface FileReply {
  readonly file: readonly [string, ...string[]]
}

/** A route of the API, said once: the server serves it, the page asks it, and its description is made of it. */
export interface Route {
  readonly method: 'GET' | 'POST' | 'PUT' | 'PATCH' | 'DELETE'
  /** Behind `/api`; what stands in it is `:named` and described by `params`. */
  readonly path: `/${string}`
  /** What it is for, a sentence. */
  readonly says: string
  readonly params?: TObject
  readonly query?: TObject
  readonly body?: TSchema
  /** Files as a form (multipart/form-data), in place of a body. */
  readonly form?: true
  /** JSON of that form; a file; or null for an answer without a body (204). */
  readonly reply: TSchema | FileReply | null
  /** The usual status, where it is not 200 (204 without a body); 202 where the work may go on behind the answer. */
  readonly status?: 201 | readonly [200 | 201, 202]
  /** Most bytes of the body, where it is not the usual million. */
  readonly mostBytes?: number
}
export const route = <const R extends Route>(it: R): R => it

/** The same, where its lists need not be writable. */
type Readable<T> = { readonly [K in keyof T]: T[K] extends (infer U)[] ? readonly U[] : T[K] }

type Part<R, K extends 'params' | 'query' | 'body'> = R extends { readonly [P in K]: infer S extends TSchema }
  ? { readonly [P in K]: Static<S> }
  : unknown
/** What a route is asked with, as the server has it. */
export type Asked<R extends Route> = Part<R, 'params'> & Part<R, 'query'> & Part<R, 'body'>
/** The same as whoever asks gives it. */
export type Given<R extends Route> =
  unknown extends Asked<R> ? unknown : { readonly [K in keyof Asked<R>]: Readable<Asked<R>[K]> }

/** What a route answers. */
export type Reply<R extends Route> = R['reply'] extends TSchema ? Static<R['reply']> : void

interface Parts {
  readonly params?: Readonly<Record<string, string | number>>
  readonly query?: Readonly<Record<string, string | number | undefined>>
}
/** What an address is made of. */
type Addressed<R extends Route> = Part<R, 'params'> & Part<R, 'query'>

/** Where a route is asked, from the root of the server on. The route alone says what is given (see NoInfer in docs/architecture.md). */
export function addressOf<R extends Route>(
  { path }: R,
  ...[given]: NoInfer<unknown extends Addressed<R> ? [] : [given: Addressed<R>]>
): string {
  const { params = {}, query = {} } = (given ?? {}) as Parts
  const filled = path.replace(/:(\w+)/g, (_, name: string) => encodeURIComponent(params[name]!))
  const asked = Object.entries(query).flatMap(([name, value]) => (value === undefined ? [] : [`${name}=${value}`]))
  return `/api${filled}${asked.length ? `?${asked.join('&')}` : ''}`
}
