import { execFileSync } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { HEADINGS, Refusal, type Route } from '@fogbath/contract'
import mariadb from 'mariadb'
import type { TSchema } from 'typebox'
import { expect } from 'vitest'
import { Imports } from '../src/backup/imports'
import { Backups } from '../src/backup/write'
import { connect } from '../src/db/connect'
import { buildApp, type AppOptions } from '../src/http/app'
import type { App, Context } from '../src/http/context'
import { CutSearches } from '../src/media/cut-search'
import { Trackings } from '../src/media/trackings'
import { FrameCache } from '../src/media/frames'
import { Proxies } from '../src/media/proxies'
import { MediaStore } from '../src/media/store'
import { SharedFolder } from '../src/shared/files'
import { Storage } from '../src/storage/storage'
import { RenderQueue } from '../src/render/queue'
import { validator } from '../src/validate'

const env = (name: string): string => process.env[name]!

export interface Rig {
  readonly app: App
  readonly context: Context
  readonly folder: string
  readonly close: () => Promise<void>
  /** The same data under a new server: what a restart finds. */
  readonly restart: () => Promise<Rig>
}

/** An application on an empty database. */
export async function makeRig(options: Partial<AppOptions> = {}): Promise<Rig> {
  const folder = mkdtempSync(join(tmpdir(), 'fogbath-test-'))
  const database = `fogbath_${randomUUID().replaceAll('-', '')}`
  const root = await mariadb.createConnection({
    host: '127.0.0.1',
    port: Number(env('TEST_DB_PORT')),
    user: env('TEST_DB_USER'),
    password: env('TEST_DB_PASSWORD'),
  })
  await root.query(`CREATE DATABASE ${database}`)
  await root.end()
  return startRig(folder, database, options)
}

async function startRig(folder: string, database: string, options: Partial<AppOptions>): Promise<Rig> {
  const db = await connect({
    port: Number(env('TEST_DB_PORT')),
    user: env('TEST_DB_USER'),
    password: env('TEST_DB_PASSWORD'),
    database,
  })
  const store = new MediaStore(join(folder, 'media'), 30e6)
  const queue = new RenderQueue(join(folder, 'renders'), store, join(folder, 'deliveries'))
  // What a test brings is seen to its end, however busy the machine is.
  const imports = new Imports(join(folder, 'imports'), db, store, 100_000)
  const backups = new Backups(join(folder, 'backups'), db, store)
  const isOpen = (path: string): boolean => imports.isOpen(path) || backups.isOpen(path)
  const context: Context = {
    db,
    store,
    queue,
    imports,
    backups,
    storage: new Storage(folder, db, store, { isOpen }),
    frames: new FrameCache(join(folder, 'cache'), 3e6),
    proxies: new Proxies(join(folder, 'proxies')),
    cuts: new CutSearches(),
    trackings: new Trackings(),
    watched: join(folder, 'watched'),
    shared: new SharedFolder(join(folder, 'shared')),
  }
  const app = await buildApp({ context, page: null, ...options })
  const wrong = watchAnswers(app)
  const stop = async (): Promise<void> => {
    await app.close()
    await queue.close()
    await context.proxies.close()
    await context.cuts.close()
    await imports.close()
    await db.close()
  }
  return {
    app,
    context,
    folder,
    close: async () => {
      await stop()
      expect(wrong, 'answers that are not what the contract says').toEqual([])
      rmSync(folder, { recursive: true, force: true })
    },
    restart: async () => {
      await stop()
      return startRig(folder, database, options)
    },
  }
}

const SPECS = new Map<string, Route>(
  Object.values(HEADINGS).flatMap((routes) =>
    Object.values(routes).map((spec: Route) => [`${spec.method} /api${spec.path}`, spec] as const),
  ),
)

/** Holds every JSON answer against the contract. @returns what is wrong with them, a list that grows */
function watchAnswers(app: App): string[] {
  const wrong: string[] = []
  app.addHook('onSend', async (request, reply, payload) => {
    const at = `${request.method} ${request.routeOptions.url}`
    const spec = SPECS.get(at)
    if (!spec || typeof payload !== 'string') return
    const may = [spec.reply, ...(reply.statusCode >= 400 ? [Refusal] : [])].filter(
      (r): r is TSchema => !!r && !('file' in r),
    )
    const problems = may.map((schema) => validator(schema)(JSON.parse(payload), 'answer'))
    if (!problems.includes(null)) wrong.push(`${at}, ${reply.statusCode}: ${problems.at(-1) ?? payload.slice(0, 80)}`)
  })
  return wrong
}

const ffmpeg = (...args: string[]): void => void execFileSync('ffmpeg', ['-v', 'error', '-y', ...args])

/** Small footage of several kinds, drawn by ffmpeg. */
export function makeFootage(folder: string): Record<'clip' | 'png' | 'exr' | 'jpeg' | 'tiff' | 'dpx' | 'ffv1', string> {
  const at = (name: string): string => join(folder, name)
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'gradients=s=160x96:r=24:d=2:speed=0.03:seed=5',
    '-vf',
    'format=yuv420p10le',
    '-c:v',
    'libx264',
    '-colorspace',
    'bt709',
    '-color_range',
    'tv',
    at('clip.mp4'),
  )
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=160x96:r=24:d=0.5', '-pix_fmt', 'gbrp16le', '-c:v', 'ffv1', at('clip.mkv'))
  for (const [name, format] of [
    ['still.png', 'rgb48be'],
    ['still.tif', 'rgb48le'],
    ['still.dpx', 'gbrp10le'],
  ] as const)
    ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=160x96:d=0.1', '-frames:v', '1', '-pix_fmt', format, at(name))
  ffmpeg('-f', 'lavfi', '-i', 'testsrc2=s=160x96:d=0.1', '-frames:v', '1', '-pix_fmt', 'yuvj444p', at('still.jpg'))
  ffmpeg(
    '-f',
    'lavfi',
    '-i',
    'testsrc2=s=160x96:d=0.1',
    '-frames:v',
    '1',
    '-pix_fmt',
    'gbrpf32le',
    '-format',
    'float',
    at('still.exr'),
  )
  return {
    clip: at('clip.mp4'),
    png: at('still.png'),
    exr: at('still.exr'),
    jpeg: at('still.jpg'),
    tiff: at('still.tif'),
    dpx: at('still.dpx'),
    ffv1: at('clip.mkv'),
  }
}

/** Broken files, each with what its refusal must say. */
export function makeBroken(
  folder: string,
  whole: ReturnType<typeof makeFootage>,
): Record<string, { path: string; says: RegExp }> {
  const put = (name: string, bytes: Buffer | string): string => {
    writeFileSync(join(folder, name), bytes)
    return join(folder, name)
  }
  const png = readFileSync(whole.png)
  const huge = Buffer.from(png)
  huge.writeUInt32BE(30000, 16)
  huge.writeUInt32BE(30000, 20)
  huge.writeInt32BE(crc32(huge.subarray(12, 29)), 29)
  return {
    empty: { path: put('empty.png', ''), says: /empty \(0 bytes\)/ },
    text: { path: put('text.mp4', 'This is no clip.\n'), says: /not a picture or clip/ },
    cutStill: { path: put('cut.png', half(png)), says: /damaged|cut short|no picture/ },
    cutClip: { path: put('cut.mp4', half(readFileSync(whole.clip))), says: /not a picture or clip|cut short|damaged/ },
    huge: { path: put('huge.png', huge), says: /30000x30000; the largest picture|no picture|not a picture|damaged/ },
  }
}

const half = (bytes: Buffer): Buffer => bytes.subarray(0, bytes.length >> 1)

function crc32(bytes: Buffer): number {
  let crc = -1
  for (const byte of bytes) {
    crc ^= byte
    for (let i = 0; i < 8; i++) crc = (crc >>> 1) ^ (0xedb88320 & -(crc & 1))
  }
  return ~crc
}

/** A picture as 16-bit interleaved RGB, read by ffmpeg alone. */
export function readPixels(path: string, frame = 0): Uint16Array {
  const filter =
    path.endsWith('.mp4') || path.endsWith('.mov')
      ? 'zscale=matrixin=709:rangein=limited:matrix=gbr:range=full:dither=none,format=gbrp16le'
      : 'zscale=dither=none,format=gbrp16le'
  const bytes = execFileSync(
    'ffmpeg',
    [
      '-v',
      'error',
      '-i',
      path,
      '-vf',
      `select=eq(n\\,${frame}),${filter}`,
      '-frames:v',
      '1',
      '-f',
      'rawvideo',
      '-pix_fmt',
      'rgb48le',
      'pipe:1',
    ],
    { maxBuffer: 1e9 },
  )
  return new Uint16Array(bytes.buffer, bytes.byteOffset, bytes.length / 2)
}

/** A multipart body of files. */
export function multipart(files: readonly { name: string; bytes: Buffer }[]): {
  payload: Buffer
  headers: Record<string, string>
} {
  const boundary = 'fogbathboundary'
  const parts = files.flatMap(({ name, bytes }) => [
    Buffer.from(
      `--${boundary}\r\ncontent-disposition: form-data; name="file"; filename="${name}"\r\ncontent-type: application/octet-stream\r\n\r\n`,
    ),
    bytes,
    Buffer.from('\r\n'),
  ])
  return {
    payload: Buffer.concat([...parts, Buffer.from(`--${boundary}--\r\n`)]),
    headers: { 'content-type': `multipart/form-data; boundary=${boundary}` },
  }
}
