import { createHash } from 'node:crypto'
import { createWriteStream } from 'node:fs'
import { Transform, type Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { Fault } from '../errors'
import { fullDisk } from '../files/writing'

interface Received {
  readonly sha256: string
  readonly size: number
}

/**
 * Writes a stream to a file, hashed on the way. One that is refused is left where it is; the caller drains or ends it.
 * @param most bytes that are taken
 */
export async function receive(stream: Readable, path: string, name: string, most: number): Promise<Received> {
  const hash = createHash('sha256')
  let size = 0
  const measure = new Transform({
    transform(chunk: Buffer, _encoding, done) {
      size += chunk.length
      if (size > most)
        return done(new Fault('media', `${name} is larger than ${most / 1e6} MB, the most that is taken in.`))
      hash.update(chunk)
      done(null, chunk)
    },
  })
  try {
    // Part of an upload must be read to its end even when it is refused; so the stream is left whole.
    await pipeline(stream.iterator({ destroyOnReturn: false }), measure, createWriteStream(path, { flush: true }))
  } catch (error) {
    throw fullDisk(error, name) ?? error
  }
  return { sha256: hash.digest('hex'), size }
}
