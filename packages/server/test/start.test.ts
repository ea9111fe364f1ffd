import { spawn, spawnSync, type ChildProcess } from 'node:child_process'
import {
  existsSync,
  mkdirSync,
  mkdtempSync,
  readFileSync,
  readdirSync,
  renameSync,
  rmSync,
  statSync,
  writeFileSync,
} from 'node:fs'
import { connect } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import mariadb from 'mariadb'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

/** The program as `npm start` runs it, built. */
const START = join(import.meta.dirname, '../../../scripts/start.mjs')

let folder: string
beforeAll(() => {
  // Not below a private folder: the database runs as an account of its own, which must get there.
  folder = mkdtempSync(join(tmpdir(), 'fogbath-start-'))
  spawnSync('chmod', ['755', folder])
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

interface Started {
  readonly child: ChildProcess
  readonly url: string
  readonly said: () => string
  readonly ended: Promise<number | null>
}

function launch(data: string, env: NodeJS.ProcessEnv = {}) {
  const child = spawn(process.execPath, [START], {
    env: { ...process.env, FOGBATH_DATA: data, FOGBATH_PORT: '0', FOGBATH_DEMO: '', ...env },
    stdio: ['ignore', 'pipe', 'pipe'],
  })
  let said = ''
  for (const stream of [child.stdout, child.stderr]) stream.on('data', (chunk: Buffer) => (said += chunk.toString()))
  const ended = new Promise<number | null>((resolve) => child.once('exit', resolve))
  return { child, said: () => said, ended }
}
async function start(data: string, env: NodeJS.ProcessEnv = {}): Promise<Started> {
  const port = 20_000 + Math.floor(Math.random() * 20_000)
  const run = launch(data, { FOGBATH_PORT: String(port), ...env })
  // With the demo it takes some seconds, and far more beside other tests.
  for (let i = 0; i < 3600; i++) {
    const found = /ready: (\S+)/.exec(run.said())
    if (found) return { ...run, url: found[1]! }
    if (run.child.exitCode !== null) break
    await sleep(50)
  }
  throw new Error(`It did not start: ${run.said()}`)
}
async function refused(data: string, env: NodeJS.ProcessEnv = {}): Promise<string> {
  const run = launch(data, { FOGBATH_PORT: '4699', ...env })
  expect(await run.ended).toBe(1)
  return run.said()
}
const health = (url: string) =>
  fetch(`${url}/api/health`).then(
    (r) => r.status,
    () => 0,
  )
const until = (url: string, status: number) =>
  expect.poll(() => health(url), { timeout: 180_000, interval: 50 }).toBe(status)
/** Processes whose command line holds a text. */
const running = (text: string): number[] =>
  readdirSync('/proc')
    .filter((n) => /^\d+$/.test(n))
    .filter((n) => {
      try {
        return (
          readFileSync(`/proc/${n}/cmdline`, 'utf8').includes(text) &&
          readFileSync(`/proc/${n}/stat`, 'utf8').split(') ')[1]![0] !== 'Z'
        )
      } catch {
        return false
      }
    })
    .map(Number)
/** The server that was started for a data folder. */
const serverOf = (data: string): number =>
  running('packages/server/dist/serve.js').find((pid) =>
    readFileSync(`/proc/${pid}/environ`, 'utf8').includes(`FOGBATH_DATA=${data}\0`),
  )!
const stop = async (run: Started): Promise<void> => {
  run.child.kill('SIGTERM')
  expect(await run.ended).toBe(0)
}

describe('the application as it is started', () => {
  const data = () => join(folder, 'one')

  it('lets nobody into the database but itself, and ends all it started when it is told to', async () => {
    const run = await start(data())
    const [server] = running(`--datadir=${join(data(), 'db/data')}`)
    const line = readFileSync(`/proc/${server}/cmdline`, 'utf8')
    const port = Number(/--port=(\d+)/.exec(line)![1])
    // Whoever starts this, the database is never the system's root.
    expect(/^Uid:\s+(\d+)/m.exec(readFileSync(`/proc/${server}/status`, 'utf8'))![1]).not.toBe('0')
    const enter = (user: string, password: string) =>
      mariadb.createConnection({ host: '127.0.0.1', port, user, password, connectTimeout: 3000 })
    for (const user of ['root', 'mysql', '', 'fogbath']) await expect(enter(user, '')).rejects.toThrow(/Access denied/)
    const secret = join(data(), 'db/secret')
    expect(statSync(secret).mode & 0o777).toBe(0o600)
    const own = await enter('fogbath', readFileSync(secret, 'utf8'))
    await expect(own.query('CREATE DATABASE other')).rejects.toThrow(/Access denied/)
    await expect(own.query(`SELECT 1 INTO OUTFILE '${folder}/out'`)).rejects.toThrow(/Access denied/)
    await expect(own.query('SELECT * FROM mysql.global_priv')).rejects.toThrow(/denied/)
    const [[, priv]] = (await own.query({ sql: "SHOW VARIABLES LIKE 'secure_file_priv'", rowsAsArray: true })) as [
      [string, string],
    ]
    expect(priv).toContain('files')
    await own.end()
    expect(statSync(join(data(), 'db/socket')).mode & 0o777).toBe(0o700)
    const all = [...running(data()), run.child.pid!]
    expect(all.length).toBeGreaterThan(1)
    await stop(run)
    await expect.poll(() => running(data()), { timeout: 90_000 }).toEqual([])
  })

  it('goes on when the database or the server is killed, with what was acknowledged', async () => {
    const run = await start(data())
    const made = await fetch(`${run.url}/api/productions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"name":"Kept"}',
    })
    expect(made.status).toBe(201)
    process.kill(running(`--datadir=${join(data(), 'db/data')}`)[0]!, 'SIGKILL')
    await until(run.url, 503)
    const away = await fetch(`${run.url}/api/productions`)
    expect([away.status, ((await away.json()) as { message: string }).message]).toEqual([
      503,
      'The database is being restarted; what is unsaved is kept here and saved when it is back.',
    ])
    await until(run.url, 200)
    process.kill(serverOf(data()), 'SIGKILL')
    await until(run.url, 0)
    await until(run.url, 200)
    const list = (await (await fetch(`${run.url}/api/productions`)).json()) as { items: { name: string }[] }
    expect(list.items.map((p) => p.name)).toEqual(['Kept'])
    await stop(run)
  })

  it('after an error that nobody caught tells it, answers who waits with 500, and starts the server again', async () => {
    const faulty = join(folder, 'faulty.mjs')
    const throwing = "process.on('SIGUSR2', () => setTimeout(() => { throw new Error('nobody waits for this') }))"
    writeFileSync(faulty, `if (process.argv[1]?.endsWith('serve.js')) ${throwing}\n`)
    const run = await start(data(), { NODE_OPTIONS: `--import=${faulty}` })
    const { port } = new URL(run.url)
    // Half of a request: the server waits for the rest of it.
    const socket = connect(Number(port), '127.0.0.1')
    let answer = ''
    socket.on('data', (text: Buffer) => (answer += text.toString()))
    const closed = new Promise((done) => socket.once('close', done))
    socket.write(
      'POST /api/productions HTTP/1.1\r\nhost: localhost\r\ncontent-type: application/json\r\ncontent-length: 99\r\n\r\n{',
    )
    await sleep(300)
    process.kill(serverOf(data()), 'SIGUSR2')
    await closed
    expect(answer).toMatch(/^HTTP\/1\.1 500 /)
    expect(answer).toContain('"message":"Something went wrong in the server; its log says what. It is started again."')
    await until(run.url, 0)
    await until(run.url, 200)
    expect(run.said()).toMatch(/fogbath: not caught: Error: nobody waits for this\n\s+at /)
    await stop(run)
  })

  it('does not mind a note of another start that is garbled, or whose number is somebody else’s by now', async () => {
    for (const note of ['{"pid": 12', JSON.stringify({ pid: process.pid, address: 'http://elsewhere' }), '']) {
      writeFileSync(join(data(), 'running.json'), note)
      await stop(await start(data()))
    }
  })

  it('is started once for one data folder', async () => {
    const run = await start(data())
    expect(await refused(data())).toContain(`already running at ${run.url}`)
    await stop(run)
  })

  it('with a password of the database that is cut short is refused in words, and starts when the file is removed', async () => {
    const secret = join(data(), 'db/secret')
    writeFileSync(secret, '')
    expect(await refused(data())).toMatch(/db\/secret is cut short or garbled; it must be 64 hexadecimal digits/)
    rmSync(secret)
    await stop(await start(data()))
    expect(readFileSync(secret, 'utf8')).toMatch(/^[0-9a-f]{64}$/)
  })

  it('never throws away a database folder that lacks a part, and says what can be done', async () => {
    const inner = join(data(), 'db/data')
    rmSync(join(inner, 'mysql'), { recursive: true })
    const before = readdirSync(inner).sort()
    expect(before).toContain('fogbath')
    expect(await refused(data())).toMatch(/its part “mysql” is missing.*Nothing has been changed.*backup/s)
    expect(readdirSync(inner).sort()).toEqual(before)
  })
})

describe('a data folder', () => {
  it('with footage and no database is not taken for a first start', async () => {
    const data = join(folder, 'two')
    mkdirSync(join(data, 'media/ab'), { recursive: true })
    expect(await refused(data)).toMatch(/holds footage \(media\) but no database/)
    expect(existsSync(join(data, 'db/data'))).toBe(false)
  })
  it('whose database was emptied, or dropped, keeps all footage: it is set aside, told, and comes back', async () => {
    const data = join(folder, 'six')
    const run = await start(data)
    const get = async (url: string) => (await fetch(`${run.url}${url}`)).json() as Promise<any>
    const made = await fetch(`${run.url}/api/productions`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: '{"name":"Mine"}',
    })
    const { id } = (await made.json()) as { id: number }
    const still = join(folder, 'mine.png')
    spawnSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=64x36:d=0.1', '-frames:v', '1', still])
    const form = new FormData()
    form.append('file', new Blob([readFileSync(still)]), 'mine.png')
    await fetch(`${run.url}/api/productions/${id}/media`, { method: 'POST', body: form })
    const { sha256 } = (await get(`/api/productions/${id}`)).shots[0].medium as { sha256: string }
    await stop(run)
    const path = join(data, 'media', sha256.slice(0, 2), sha256)
    renameSync(join(data, 'db/data'), join(folder, 'data-kept'))
    mkdirSync(join(data, 'db/data'))
    const demo = join(import.meta.dirname, '../../../demo')
    const empty = await start(data, { FOGBATH_DEMO: demo })
    expect(empty.said()).toMatch(
      /Loaded the demo production[^]*1 files that this database does not know were set aside/,
    )
    const { unknown } = (await (await fetch(`${empty.url}/api/storage`)).json()) as { unknown: object[] }
    expect(unknown).toMatchObject([{ key: sha256, name: 'mine.png', kind: 'footage' }])
    await stop(empty)
    expect(existsSync(path)).toBe(false)
    rmSync(join(data, 'db/data'), { recursive: true })
    renameSync(join(folder, 'data-kept'), join(data, 'db/data'))
    const again = await start(data)
    expect(again.said()).toMatch(/1 files of footage that this database knows again were put back/)
    expect(readFileSync(path).equals(readFileSync(still))).toBe(true)
    await stop(again)
  })
  it('whose first start was cut off early is begun again', async () => {
    const data = join(folder, 'three')
    mkdirSync(join(data, 'db/data.new/half'), { recursive: true })
    await stop(await start(data))
    expect(existsSync(join(data, 'db/data.new'))).toBe(false)
  })
  it('whose database has a damaged table is not worked with; with the table back all is there', async () => {
    const data = join(folder, 'five')
    const run = await start(data)
    const made = { method: 'POST', headers: { 'content-type': 'application/json' }, body: '{"name":"Still here"}' }
    expect((await fetch(`${run.url}/api/productions`, made)).status).toBe(201)
    await stop(run)
    const table = join(data, 'db/data/fogbath/production.ibd')
    const whole = readFileSync(table)
    // The page of its rows, not those by which InnoDB knows the file.
    writeFileSync(table, Buffer.from(whole).fill(0xa5, 3 * 16_384))
    const said = await refused(data)
    expect(said).toMatch(/The table “production” of the database is damaged/)
    expect(said).toMatch(
      /Nothing has been changed\. Bring the folder db .* back from a copy; or start with a new data folder/,
    )
    expect(said).not.toMatch(/drop the table|started again in/)
    writeFileSync(table, whole)
    const again = await start(data)
    const { items } = (await (await fetch(`${again.url}/api/productions`)).json()) as { items: { name: string }[] }
    expect(items.map((p) => p.name)).toEqual(['Still here'])
    await stop(again)
    writeFileSync(join(data, 'db/data/ib_logfile0'), Buffer.alloc(12_288, 0x5a))
    expect(await refused(data)).toMatch(
      /The database did not start\. Its log says: (?!Aborting).*Nothing has been changed/s,
    )
  })
  it('that cannot be used, or a missing folder for temporary files, is said', async () => {
    writeFileSync(join(folder, 'file'), '')
    expect(await refused(join(folder, 'file/data'))).toMatch(/cannot be written \(ENOTDIR\)/)
    expect(await refused(join(folder, 'four'), { TMPDIR: join(folder, 'nowhere') })).toMatch(
      /temporary files, .*nowhere, cannot be written/,
    )
    expect(await refused(join(folder, 'four'), { FOGBATH_PORT: '99999' })).toMatch(/FOGBATH_PORT is '99999'/)
  })
})
