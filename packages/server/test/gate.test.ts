import { execFileSync } from 'node:child_process'
import {
  chmodSync,
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  rmSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { type SharedRecipe } from '@fogbath/core/shelf'
import { afterAll, afterEach, beforeAll, describe, expect, it } from 'vitest'
import { listInside, openInside, openRegular, readText } from '../src/files/inside'
import { writeWhole } from '../src/files/writing'
import { parseShared } from '../src/validate'
import { makeFootage, makeRig, multipart, type Rig } from './helpers'

/** Folders that others put files into. */

let rig: Rig
beforeAll(async () => {
  rig = await makeRig()
})
afterAll(() => rig.close())
const call = async (method: 'GET' | 'POST', url: string, payload?: object) => {
  const reply = await rig.app.inject({ method, url, ...(payload ? { payload } : {}) })
  return { status: reply.statusCode, body: reply.json<any>() }
}
const shared = (...names: string[]): string => join(rig.folder, 'shared', ...names)
const keep = async (name: string) =>
  (await call('POST', '/api/shelf', { name, recipe: SHIPPED_RECIPES[0] })).body as { id: number; key: string }

it('is the only way to files that somebody else made: nothing else in the sources opens any', () => {
  const source = join(import.meta.dirname, '../src')
  const readers =
    /\b(readFile|readFileSync|createReadStream|open|openSync|opendir|readdir|readdirSync|openAsBlob|watch|cp|fdopen)\b/
  const found = readdirSync(source, { recursive: true })
    .map(String)
    .filter((name) => name.endsWith('.ts') && !name.startsWith('files/'))
    .filter((name) =>
      [
        ...readFileSync(join(source, name), 'utf8').matchAll(/import ([^;]*?) from '(?:node:)?fs(?:\/promises)?'/g),
      ].some(([, names]) => readers.test(names!) || !names!.includes('{')),
    )
  expect(found).toEqual([])
})

describe('the gate', () => {
  const folder = () => ({ path: shared(), name: 'the shared folder' })
  const read = (path: string) => readText(openInside(folder(), path), 1000, path)
  it('lets in regular files of the folder itself, and no link, pipe, device or other way out', async () => {
    mkdirSync(shared('deeper'), { recursive: true })
    writeFileSync(shared('plain.json'), 'plain')
    writeFileSync(shared('deeper/one.json'), 'deeper')
    symlinkSync('plain.json', shared('within.json'))
    symlinkSync('deeper', shared('round'))
    symlinkSync('/etc/shadow', shared('out.json'))
    symlinkSync('/proc/kmsg', shared('kmsg.json'))
    symlinkSync('/dev/zero', shared('zero.json'))
    execFileSync('mkfifo', [shared('pipe.json')])
    expect([await read('plain.json'), await read('deeper/one.json'), await read('./deeper/../plain.json')]).toEqual([
      ...['plain', 'deeper', 'plain'],
    ])
    for (const path of ['within.json', 'round/one.json', 'out.json', 'kmsg.json', 'zero.json'])
      await expect(read(path)).rejects.toThrow(
        /is a link, or goes through one; only files that lie in the shared folder/,
      )
    for (const path of ['../elsewhere/plain.json', '/etc/shadow', '..', '.', ''])
      await expect(read(path), path).rejects.toThrow(/lies outside the shared folder|is not in the shared folder/)
    await expect(read('pipe.json')).rejects.toThrow('pipe.json is not a file.')
    await expect(read('deeper')).rejects.toThrow('deeper is not a file.')
    await expect(read('a\0b')).rejects.toThrow(/zero character/)
  })
  it('lists what it can: a folder that is closed hides what it holds, and nothing else', async () => {
    mkdirSync(shared('shut/inner'), { recursive: true })
    writeFileSync(shared('shut/inner/one.json'), '')
    chmodSync(shared('shut'), 0)
    // The system's root may read everything; for a moment we are somebody else.
    const root = process.getuid!() === 0
    if (root) chmodSync(rig.folder, 0o755)
    if (root) process.seteuid!(65534)
    try {
      const { files } = await listInside(folder(), { deep: true, most: 100 })
      expect(files.map((f) => f.path)).toEqual(['deeper/one.json', 'plain.json'])
    } finally {
      if (root) process.seteuid!(0)
      chmodSync(shared('shut'), 0o755)
      rmSync(shared('shut'), { recursive: true })
    }
  })
  it('reads no more than it may, also of a file that says it is empty', async () => {
    writeFileSync(shared('long.json'), 'x'.repeat(1001))
    await expect(read('long.json')).rejects.toThrow('long.json is larger than 0.001 MB, the most that is read of it.')
    // The kernel's own files have no size.
    await expect(readText(openRegular('/proc/self/environ'), 3, 'environ')).rejects.toThrow(/environ is larger than/)
  })
})

describe('the shared folder', () => {
  it('full of links and pipes is listed at once, and nothing of what they lead to is told', async () => {
    const { status, body } = await call('GET', '/api/shared')
    expect(status).toBe(200)
    expect(body.files.map((f: any) => f.file)).toEqual(['long.json', 'plain.json'])
    expect(JSON.stringify(body)).not.toContain('root:')
    for (const name of ['out.json', 'kmsg.json', 'pipe.json', 'nowhere.json']) {
      const one = await call('GET', `/api/shared/${name}`)
      expect([one.status >= 400 && one.status < 500, JSON.stringify(one.body).includes('root:')]).toEqual([true, false])
    }
  })
  it('of large files is read a part at a time and told in little; each is fetched alone', async () => {
    const row = await keep('Large')
    const file = (await call('GET', `/api/shelf/${row.id}/file`)).body as SharedRecipe
    for (const name of ['long.json', 'plain.json']) rmSync(shared(name))
    const notes = ' '.repeat(11e6)
    for (let i = 0; i < 5; i++)
      writeFileSync(shared(`large${i}.json`), `${notes}${JSON.stringify({ ...file, key: `largelarge${i}` })}`)
    const first = (await call('GET', '/api/shared')).body
    expect([first.files.length, first.left]).toEqual([2, 3])
    const second = (await call('GET', '/api/shared')).body
    const third = (await call('GET', '/api/shared')).body
    expect([second.files.length, second.left, third.files.length, third.left]).toEqual([4, 1, 5, 0])
    expect(third.files[0]).toEqual({
      file: 'large0.json',
      name: 'Large',
      state: 'new',
      versions: 1,
      own: 0,
      problem: null,
    })
    expect((await call('GET', '/api/shared/large0.json')).body).toMatchObject({ key: 'largelarge0', name: 'Large' })
    writeFileSync(shared('huge.json'), ' '.repeat(20e6 + 1))
    expect((await call('GET', '/api/shared')).body.files.find((f: any) => f.file === 'huge.json').problem).toBe(
      'huge.json is larger than 20 MB, the most that is read of it.',
    )
  })
  it('that is brought in by many at once is taken once', async () => {
    const row = await keep('Often')
    const file = (await call('GET', `/api/shelf/${row.id}/file`)).body as SharedRecipe
    const files = [{ name: 'often.json', text: JSON.stringify({ ...file, key: 'oftenoften' }) }]
    const all = await Promise.all(Array.from({ length: 12 }, () => call('POST', '/api/shelf/import', { files })))
    expect(all.map((r) => r.status)).toEqual(Array(12).fill(200))
    expect(all.reduce((sum, r) => sum + r.body.taken, 0)).toBe(1)
  })
  it('a file that is nested without end, or holds half a character, is refused in words', async () => {
    const nested = `${'{"a":'.repeat(5000)}1${'}'.repeat(5000)}`
    for (const text of [nested, '['.repeat(200_000), '{"form":2,"name":"a\\ud800"}', '{"form":2,"name":"a\\u0000"}']) {
      const { status, body } = await call('POST', '/api/shelf/preview', { files: [{ name: 'odd.json', text }] })
      expect([status, body[0].state]).toEqual([200, 'broken'])
      expect(body[0].problem).toMatch(/odd\.json.*(nested more than 24|half a character|zero character)/)
      expect((await call('POST', '/api/shelf/import', { files: [{ name: 'odd.json', text }] })).status).toBe(400)
      expect(() => parseShared(text, 'odd.json')).toThrow(/odd\.json/)
    }
  })
})

/** A disk of 64 kB; only the system's root can make one. */
const small = mkdtempSync(join(tmpdir(), 'fogbath-small-disk-'))
let mounted = false
try {
  execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', small], { stdio: 'ignore' })
  mounted = true
} catch {
  mounted = false
}
afterAll(() => {
  if (mounted) execFileSync('umount', [small])
  rmSync(small, { recursive: true, force: true })
})

describe.skipIf(!mounted)('on a full disk', () => {
  afterEach(() => readdirSync(small).forEach((name) => rmSync(join(small, name), { recursive: true })))
  it('what is shared is refused with 507 and leaves nothing, not even an empty file', async () => {
    const row = await keep('Full')
    rmSync(shared(), { recursive: true })
    symlinkSync(small, shared())
    writeFileSync(join(small, 'filling'), Buffer.alloc(64 * 1024))
    const { status, body } = await call('POST', `/api/shelf/${row.id}/share`, { picture: null })
    expect([status, body]).toEqual([
      507,
      {
        error: 'full',
        message: 'The disk is full: full-v1.json could not be stored. Make room and try again.',
        details: {},
      },
    ])
    expect(readdirSync(small)).toEqual(['filling'])
    rmSync(join(small, 'filling'))
    expect((await call('POST', `/api/shelf/${row.id}/share`, { picture: null })).body).toEqual({ file: 'full-v1.json' })
    rmSync(shared())
  })
  it('footage, a backup that comes in and one that goes out are refused with 507, and nothing is left', async () => {
    const { clip } = makeFootage(rig.folder)
    const { id } = (await call('POST', '/api/productions', { name: 'Full' })).body
    const form = multipart([{ name: 'clip.mp4', bytes: readFileSync(clip) }])
    await rig.app.inject({ method: 'POST', url: `/api/productions/${id}/media`, ...form })
    const archive = (await rig.app.inject({ url: '/api/backup' })).rawPayload
    const large = multipart([{ name: 'large.bin', bytes: Buffer.alloc(100e3, 7) }])
    const folders = { media: 'media', imports: 'imports' } as const
    for (const folder of Object.values(folders)) rmSync(join(rig.folder, folder), { recursive: true, force: true })
    for (const folder of Object.values(folders)) symlinkSync(small, join(rig.folder, folder))
    const taken = await rig.app.inject({ method: 'POST', url: `/api/productions/${id}/media`, ...large })
    expect(taken.json<any>().message).toMatch(/The disk is full: large\.bin could not be stored/)
    expect(readdirSync(small)).toEqual([])
    // With room for a folder and not for the file, and with none at all.
    writeFileSync(join(small, 'filling'), Buffer.alloc(64 * 1024))
    for (const url of ['/api/imports', `/api/productions/${id}/media`])
      expect(JSON.stringify((await rig.app.inject({ method: 'POST', url, ...large })).json<any>())).toMatch(
        /disk is full/,
      )
    rmSync(join(small, 'filling'))
    expect(readdirSync(small)).toEqual([])
    const brought = await rig.app.inject({ method: 'POST', url: '/api/imports', ...large })
    expect([brought.statusCode, brought.json<any>().message]).toEqual([507, expect.stringMatching(/The disk is full/)])
    expect(readdirSync(small)).toEqual([])
    // It comes whole, and has no room to be unpacked: the directory tells.
    const unpacked = await rig.app.inject({
      method: 'POST',
      url: '/api/imports',
      ...multipart([{ name: 'all.zip', bytes: archive }]),
    })
    expect([unpacked.statusCode, unpacked.json<any>().message]).toEqual([
      507,
      expect.stringMatching(/has room for 0 MB/),
    ])
    expect(readdirSync(small)).toEqual([])
  })
  it('a file that is written keeps what was there before', async () => {
    writeFileSync(join(small, 'key'), 'before')
    await expect(writeWhole(join(small, 'key'), Buffer.alloc(100e3))).rejects.toThrow(/The disk is full: key/)
    expect([readdirSync(small), readFileSync(join(small, 'key'), 'utf8')]).toEqual([['key'], 'before'])
    await writeWhole(join(small, 'key'), 'after')
    expect(readFileSync(join(small, 'key'), 'utf8')).toBe('after')
    await expect(writeWhole(join(small, 'key'), 'once more', { fresh: true })).rejects.toThrow(/EEXIST/)
    expect(existsSync(join(small, 'key'))).toBe(true)
  })
})
