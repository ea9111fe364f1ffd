import type { FastifyReply } from 'fastify'
import type { App } from './context'

/** How long those that are being answered may take to hear of it, ms. */
const PATIENCE_MS = 1000

const INTERNAL = {
  error: 'internal',
  message: 'Something went wrong in the server; its log says what. It is started again.',
}

/** Answers that are on their way. */
const underway = new WeakMap<App, Set<FastifyReply>>()

export function installLastResort(app: App): void {
  const replies = new Set<FastifyReply>()
  underway.set(app, replies)
  app.addHook('onRequest', async (_request, reply) => {
    replies.add(reply)
    reply.raw.once('close', () => replies.delete(reply))
  })
}

/**
 * After an error that nobody caught the program's state is not known. It is told, whoever waits for an answer gets one, and
 * the program ends, to be started again.
 * @param end ends everything in order
 */
export async function lastResort(app: App, error: unknown, end: () => Promise<void>): Promise<void> {
  process.stderr.write(
    `fogbath: not caught: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`,
  )
  for (const { raw } of underway.get(app) ?? []) {
    if (raw.headersSent) raw.destroy()
    else raw.writeHead(500, { 'content-type': 'application/json', connection: 'close' }).end(JSON.stringify(INTERNAL))
  }
  await Promise.race([end(), new Promise((done) => setTimeout(done, PATIENCE_MS))])
}
