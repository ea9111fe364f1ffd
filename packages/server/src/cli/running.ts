import { randomUUID } from 'node:crypto'
import { request as httpRequest, type IncomingMessage } from 'node:http'
import { request as httpsRequest } from 'node:https'
import { basename, join } from 'node:path'
import type { Readable } from 'node:stream'
import { pipeline } from 'node:stream/promises'
import { text as textOf } from 'node:stream/consumers'
import { Fault } from '../errors'
import { readOwn } from '../files/own'

/** The running application: its data go through it, so that nothing is read or written past it. */
export class Running {
  private constructor(
    private readonly address: string,
    private readonly key: string | null,
  ) {}

  static async find(data: string): Promise<Running> {
    let address: unknown
    try {
      address = (JSON.parse((await readOwn(join(data, 'running.json'))).toString('utf8')) as { address?: unknown })
        .address
    } catch {
      address = undefined
    }
    if (typeof address !== 'string')
      throw new Fault('usage', `Fog Bath is not running with the data folder ${data}; start it first (npm start).`)
    const key = await readOwn(join(data, 'key')).then(
      (bytes) => bytes.toString('utf8').trim(),
      () => null,
    )
    return new Running(address, key)
  }

  async ask(path: string, init: RequestInit = {}): Promise<Response> {
    const reply = await fetch(new URL(path, this.address), {
      ...init,
      headers: { ...(init.headers as Record<string, string>), ...this.keyed() },
    }).catch((error: unknown) => {
      if (init.signal?.aborted) throw error
      throw this.away()
    })
    if (reply.ok) return reply
    throw refused(reply.status, await reply.text().catch(() => ''))
  }

  async json<T>(path: string, init: RequestInit = {}): Promise<T> {
    return (await (await this.ask(path, init)).json()) as T
  }

  /** Sends a file as a form, for as long as it takes: the usual way gives up after five minutes. */
  async send<T>(path: string, file: Readable, name: string): Promise<T> {
    const boundary = `fogbath-${randomUUID()}`
    const plain = basename(name).replace(/["\\\r\n]/g, '_')
    const url = new URL(path, this.address)
    const headers = { 'content-type': `multipart/form-data; boundary=${boundary}`, ...this.keyed() }
    const asking = (url.protocol === 'https:' ? httpsRequest : httpRequest)(url, { method: 'POST', headers })
    const answered = new Promise<IncomingMessage>((resolve, reject) => {
      asking.once('response', resolve)
      asking.once('error', () => reject(this.away()))
    })
    async function* form(): AsyncGenerator<Buffer> {
      const head = `content-disposition: form-data; name="file"; filename="${plain}"\r\ncontent-type: application/octet-stream`
      yield Buffer.from(`--${boundary}\r\n${head}\r\n\r\n`)
      yield* file as AsyncIterable<Buffer>
      yield Buffer.from(`\r\n--${boundary}--\r\n`)
    }
    // A refusal may come before all of it is sent.
    const sent = pipeline(form(), asking).catch(() => undefined)
    const reply = await answered
    await sent
    const text = await textOf(reply)
    const status = reply.statusCode ?? 0
    if (status < 200 || status > 299) throw refused(status, text)
    return JSON.parse(text) as T
  }

  private keyed(): Record<string, string> {
    return this.key ? { authorization: `Bearer ${this.key}` } : {}
  }
  private away(): Fault {
    return new Fault('program', `Fog Bath does not answer at ${this.address}; start it again (npm start).`)
  }
}

function refused(status: number, text: string): Fault {
  let message: unknown
  try {
    message = (JSON.parse(text) as { message?: unknown }).message
  } catch {
    message = undefined
  }
  const code = status === 507 ? 'full' : status >= 500 ? 'program' : 'media'
  return new Fault(code, typeof message === 'string' ? message : `Fog Bath answered ${status}.`)
}
