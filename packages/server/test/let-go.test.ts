import { execFileSync } from 'node:child_process'
import { chmodSync, mkdtempSync, readFileSync, readdirSync, rmSync, statSync, writeFileSync } from 'node:fs'
import { request } from 'node:http'
import { connect, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { keyIn } from '../src/http/key'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

let rig: Rig
let address: URL
const UNREAD_MS = 1500
beforeAll(async () => {
  rig = await makeRig({ unreadMs: UNREAD_MS })
  const { id } = (await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Large' } })).json<{
    id: number
  }>()
  // More than the system's own buffers take.
  const path = join(rig.folder, 'noise.mkv')
  const noise = ['-f', 'lavfi', '-i', 'nullsrc=s=640x360:r=24:d=1.5,geq=random(1)*255:128:128', '-c:v', 'ffv1', path]
  execFileSync('ffmpeg', ['-v', 'error', ...noise])
  const form = multipart([{ name: 'noise.mkv', bytes: readFileSync(path) }])
  await rig.app.inject({ method: 'POST', url: `/api/productions/${id}/media`, ...form })
  makeFootage(rig.folder)
  address = new URL(await rig.app.listen({ host: '127.0.0.1', port: 0 }))
})
afterAll(() => rig.close())

/** Asks, and never reads the answer. */
function askUnread(path: string): Promise<{ socket: Socket; closed: Promise<void> }> {
  return new Promise((resolve, reject) => {
    const socket = connect(Number(address.port), '127.0.0.1', () => {
      socket.write(`GET ${path} HTTP/1.1\r\nhost: ${address.host}\r\n\r\n`)
      socket.pause()
      resolve({ socket, closed: new Promise((done) => socket.once('close', () => done())) })
    })
    socket.on('error', () => undefined)
    socket.once('timeout', reject)
  })
}

describe('backups that nobody reads', () => {
  it('hold up nobody, are let go of, and leave nothing behind', async () => {
    const backups = (): string[] => readdirSync(join(rig.folder, 'backups'))
    const all = await Promise.all(Array.from({ length: 14 }, () => askUnread('/api/backup')))
    await expect.poll(() => backups().length, { timeout: 60_000 }).toBe(14)
    // As many requests as the database has connections, at once: each is answered.
    const asked = Array.from({ length: 24 }, () => fetch(new URL('/api/productions', address)).then((r) => r.status))
    expect(await Promise.all(asked)).toEqual(Array(24).fill(200))
    await expect.poll(backups, { timeout: 60 * UNREAD_MS }).toEqual([])
    for (const { socket } of all) socket.destroy()
  })
  it('one that is read, however slowly, is not', async () => {
    const bytes = await new Promise<number>((resolve, reject) => {
      request(new URL('/api/backup', address), (reply) => {
        let sum = 0
        reply.on('data', (part: Buffer) => {
          sum += part.length
          reply.pause()
          setTimeout(() => reply.resume(), 10)
        })
        reply.once('end', () => resolve(sum))
        reply.once('error', reject)
      })
        .once('error', reject)
        .end()
    })
    expect(bytes).toBeGreaterThan(5e6)
  })
})

describe('the key', () => {
  const folder = mkdtempSync(join(tmpdir(), 'fogbath-keys-'))
  afterAll(() => rmSync(folder, { recursive: true, force: true }))
  it('that is empty or short opens nothing: the start is refused in words', async () => {
    for (const text of ['', '   \n', 'short', 'k'.repeat(31)]) {
      const path = join(folder, 'key')
      writeFileSync(path, text)
      await expect(keyIn(path)).rejects.toThrow(/is \d+ bytes long; it must be at least 32\. Remove the file/)
      expect(readFileSync(path, 'utf8')).toBe(text)
    }
  })
  it('of one’s own is taken, and closed to others', async () => {
    const path = join(folder, 'own')
    writeFileSync(path, `${'k'.repeat(32)}\n`)
    chmodSync(path, 0o644)
    expect(await keyIn(path)).toBe('k'.repeat(32))
    expect(statSync(path).mode & 0o777).toBe(0o600)
    expect(readdirSync(folder).filter((name) => name.endsWith('.part'))).toEqual([])
  })
})
