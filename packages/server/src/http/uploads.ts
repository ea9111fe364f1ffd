import type { MultipartFile } from '@fastify/multipart'
import type { FastifyRequest } from 'fastify'
import { Fault } from '../errors'

/** The files of an upload, one after the other; a form that is cut short or garbled is refused in words. */
export async function* uploadsOf(request: Pick<FastifyRequest, 'files'>): AsyncGenerator<MultipartFile> {
  try {
    for await (const part of request.files()) {
      try {
        yield part
      } finally {
        // What was refused is read to its end: else the answer would wait for it, and it for the answer.
        part.file.resume()
      }
    }
  } catch (error) {
    // What the parser refuses by a rule of ours names its status; the rest is about the form itself.
    if (((error as { statusCode?: number }).statusCode ?? 500) < 500) throw error
    const reason = error instanceof Error ? error.message : 'it cannot be read'
    throw new Fault('invalid', `The upload is cut short or garbled (${reason}).`)
  }
}
