import type { FastifyReply } from 'fastify'
import { Fault } from '../errors'
import { WIDTHS, type ServedFrame } from '../media/frames'

/** Pages ask for frames as fast as they play them. */
export const MANY_FRAMES = { config: { rateLimit: { max: 20_000, timeWindow: '1 minute' } } }

/** Answers with a frame; it is not made any more when whoever asked has gone. */
export async function answerFrame(
  reply: FastifyReply,
  width: number,
  make: (width: number, gone: AbortSignal) => Promise<ServedFrame>,
): Promise<FastifyReply> {
  if (width < WIDTHS.lowest || width > WIDTHS.highest)
    throw new Fault('invalid', `width is ${width}; it must lie between ${WIDTHS.lowest} and ${WIDTHS.highest}.`)
  const gone = new AbortController()
  reply.raw.once('close', () => !reply.raw.writableEnded && gone.abort())
  const frame = await make(width, gone.signal)
  return reply
    .header('content-type', 'application/octet-stream')
    .header('cache-control', 'private, max-age=31536000, immutable')
    .headers({
      'x-frame-width': String(frame.width),
      'x-frame-height': String(frame.height),
      'x-frame-format': frame.format,
    })
    .send(frame.bytes)
}
