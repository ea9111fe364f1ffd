import { HEADINGS, Refusal, type Asked, type Reply, type Route } from '@fogbath/contract'
import type { FastifyReply, FastifyRequest, RouteShorthandOptions } from 'fastify'
import type { TSchema } from 'typebox'
import type { App } from './context'

/** The request of a route, its parts typed and checked. */
type RequestOf<R extends Route> = Omit<FastifyRequest, 'params' | 'query' | 'body'> & Asked<R>

/** What may be handed over for an answer: rows are sent as their values, dates as text. */
type Sendable<T> = unknown extends T
  ? unknown
  : T extends string
    ? T | Date
    : T extends readonly (infer U)[]
      ? readonly Sendable<U>[]
      : T extends object
        ? { readonly [K in keyof T]: Sendable<T[K]> }
        : T
type Handed<R extends Route> = R['reply'] extends TSchema
  ? Sendable<Reply<R>> | FastifyReply
  : R['reply'] extends null
    ? void | FastifyReply
    : FastifyReply
type Handler<R extends Route> = (request: RequestOf<R>, reply: FastifyReply) => Handed<R> | Promise<Handed<R>>

const asAnswer = (spec: Route): object => {
  if (spec.reply === null) return { 204: { type: 'null', description: 'Done.' } }
  const [usual, ...others] = [spec.status ?? 200].flat()
  if (!('file' in spec.reply))
    return Object.fromEntries([usual!, ...others].map((status) => [status, { ...spec.reply, description: spec.says }]))
  const schema = { type: 'string', format: 'binary' }
  const content = Object.fromEntries(spec.reply.file.map((type) => [type, { schema }]))
  return { [usual!]: { description: spec.says, content } }
}

/** Under which heading, and by which name, routes are described. */
const PLACES = new Map(
  Object.entries(HEADINGS).flatMap(([heading, routes]) =>
    Object.entries(routes).map(([name, spec]): [Route, { tags: string[]; operationId: string }] => [
      spec,
      { tags: [heading], operationId: name },
    ]),
  ),
)

/** Everything that is checked, and described, of a route. */
function schemaOf(spec: Route) {
  return {
    ...(spec.params && { params: spec.params }),
    ...(spec.query && { querystring: spec.query }),
    ...(spec.body && { body: spec.body }),
    ...(spec.form && { consumes: ['multipart/form-data'] }),
    response: { ...asAnswer(spec), '4xx': Refusal, '5xx': Refusal },
    summary: spec.says,
    ...PLACES.get(spec),
  }
}

/** Serves routes of the contract. */
export const serverOf =
  (app: App) =>
  <R extends Route>(spec: R, handler: Handler<NoInfer<R>>, more: RouteShorthandOptions = {}): void => {
    const status = spec.reply === null ? 204 : [spec.status ?? 200].flat()[0]!
    app.route({
      ...(more as object),
      method: spec.method,
      url: `/api${spec.path}`,
      schema: schemaOf(spec),
      ...(spec.mostBytes && { bodyLimit: spec.mostBytes }),
      // The status stands before the handler begins, so that it need only name another one.
      handler: (request, reply) => handler(request as never, reply.code(status) as never) as never,
    })
  }
