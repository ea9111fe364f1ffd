import { FogBathError } from '@fogbath/core/errors'
import type { FastifyError, FastifyInstance } from 'fastify'
import { ConnectionError, ForeignKeyConstraintError, UniqueConstraintError } from 'sequelize'
import { damageIn } from '../db/check'
import { Fault, STATUS } from '../errors'
import { describeError, firstError } from '../validate'

/** Whether the database did not answer, as opposed to refusing something. */
function databaseGone(error: unknown): boolean {
  if (error instanceof ConnectionError) return true
  const cause = (error as { parent?: { fatal?: boolean; code?: string } }).parent
  return (
    cause?.fatal === true ||
    /^(ECONN|EPIPE|ER_(SOCKET|CONNECTION|GET_CONNECTION|CMD_CONNECTION|SERVER_SHUTDOWN))/.test(cause?.code ?? '')
  )
}

/** Two writers that wait for each other; MariaDB takes one of them back. */
const isDeadlock = (error: unknown): boolean =>
  /^ER_LOCK_(DEADLOCK|WAIT_TIMEOUT)$/.test((error as { parent?: { code?: string } }).parent?.code ?? '')

/** One shape for every refusal: `{ error, message, details? }`. A fallback that tells nothing of the inside comes last. */
export function installErrors(app: FastifyInstance): void {
  app.setErrorHandler((error: FastifyError, request, reply) => {
    if (error instanceof Fault)
      return reply
        .status(STATUS[error.code])
        .send({ error: error.code, message: error.message, details: error.details })
    if (error instanceof FogBathError)
      return reply.status(400).send({ error: 'invalid', message: error.message, details: { subject: error.subject } })
    if (error.validation) {
      const first = firstError(error.validation as never)
      const message = first ? describeError(first, error.validationContext ?? 'body') : error.message
      return reply.status(400).send({ error: 'invalid', message })
    }
    if (databaseGone(error))
      return reply.status(503).header('retry-after', '2').send({
        error: 'busy',
        message: 'The database is being restarted; what is unsaved is kept here and saved when it is back.',
      })
    if (error instanceof ForeignKeyConstraintError)
      return reply.status(409).send({
        error: 'stale',
        message: 'Something that this belongs to was removed meanwhile; load the page again.',
      })
    if (error instanceof UniqueConstraintError)
      return reply.status(409).send({
        error: 'stale',
        message: 'The same thing was made twice at the same moment; load the page again.',
      })
    if (isDeadlock(error))
      return reply
        .status(503)
        .header('retry-after', '1')
        .send({ error: 'busy', message: 'Too much was changed at the same moment; try again.' })
    if (error.code === 'ENOSPC' || error.code === 'EDQUOT')
      return reply.status(507).send({ error: 'full', message: 'The server’s disk is full; make room and try again.' })
    const status = error.statusCode ?? 500
    if (error.code === 'FST_ERR_CTP_BODY_TOO_LARGE')
      return reply.status(status).send({
        error: 'invalid',
        message: `The request is larger than ${request.routeOptions.bodyLimit / 1e6} MB, the most that is taken here.`,
      })
    if (status < 500) return reply.status(status).send({ error: 'invalid', message: error.message })
    request.log.error(error)
    const message = damageIn(error) ?? 'Something went wrong in the server; its log says what.'
    return reply.status(500).send({ error: 'internal', message })
  })
  app.setNotFoundHandler((request, reply) =>
    reply
      .status(404)
      .send({ error: 'not-found', message: `There is nothing at ${request.method} ${request.url.slice(0, 200)}.` }),
  )
}
