import { execFileSync } from 'node:child_process'
import { chmodSync, mkdirSync, symlinkSync, writeFileSync } from 'node:fs'
import { createServer } from 'node:net'
import { join } from 'node:path'
import { ROUTES } from '@fogbath/contract'
import type { Ledger } from './ledger'
import type { Sample } from './media'
import type { Target } from './target'

const CLASS = 'watched folder'

const NAMES = [
  ...['-i.png', '%d.png', '%s%s%n.png', 'concat:x|y.png', 'file:x.png', 'a b.png', "quote'.png", 'double".png'],
  ...['$(touch owned).png', '`id`.png', 'new\nline.png', 'tab\t.png', '..png', '...', 'ünï✂️.png', '\u202egnp.exe'],
  ...['pipe:0', 'con.png', `${'n'.repeat(250)}.png`, '<img src=x onerror=alert(1)>.png', '*?[].png', '~.png'],
]
const OUTSIDE = ['../key', '/etc/passwd', '../../../../etc/passwd', 'a\0b.png', '', '.', '..', 'nowhere.png']

/** Fills the watched folder with what should not be there, lists it, and picks everything. */
export async function hostileWatched(target: Target, ledger: Ledger, samples: readonly Sample[]): Promise<void> {
  const folder = join(target.data, 'watched')
  mkdirSync(join(folder, 'deeper/still'), { recursive: true })
  const picture = samples.find((s) => s.name.endsWith('.png'))!.bytes
  for (const name of NAMES) writeFileSync(join(folder, name), picture)
  writeFileSync(
    Buffer.concat([Buffer.from(`${folder}/bytes-`), Buffer.from([0x80, 0xff]), Buffer.from('.png')]),
    picture,
  )
  writeFileSync(join(folder, 'empty.png'), '')
  writeFileSync(join(folder, 'closed.png'), picture)
  chmodSync(join(folder, 'closed.png'), 0)
  for (let i = 0; i < 5; i++) execFileSync('mkfifo', [join(folder, `fifo${i}.png`)])
  for (const [to, name] of [
    ['/etc/passwd', 'leads-out.png'],
    ['/dev/zero', 'zero.png'],
    ['loop-b.png', 'loop-a.png'],
    ['loop-a.png', 'loop-b.png'],
    ['/etc', 'folder-out'],
    ['.', 'round'],
  ] as const)
    symlinkSync(to, join(folder, name))
  const socket = createServer()
  await new Promise<void>((done) => socket.listen(join(folder, 'socket.png'), done))
  const id = await target.production(CLASS, 'Watched')
  const { files } = (await target.call(CLASS, ROUTES.watched)).answer()
  for (const bad of ['leads-out.png', 'zero.png', 'fifo0.png', 'socket.png'])
    ledger.holds(CLASS, !files.some((f) => f.path === bad), `${bad} is offered`)
  const special = ['fifo0', 'fifo1', 'fifo2', 'fifo3', 'fifo4', 'socket', 'zero', 'leads-out', 'loop-a', 'closed'].map(
    (name) => `${name}.png`,
  )
  const paths = [...files.map((f) => f.path), ...special, ...OUTSIDE, 'folder-out/passwd', 'round/-i.png', 'deeper']
  const pick = (path: string, asSequence: boolean) =>
    target.call(CLASS, ROUTES.pick, { params: { id }, body: { paths: [path], asSequence } })
  for (const path of paths) {
    const { status } = await pick(path, false)
    if ([...special.slice(0, 9), ...OUTSIDE, 'folder-out/passwd'].includes(path))
      ledger.holds(CLASS, status >= 400, `${JSON.stringify(path)} was taken in`)
  }
  for (const path of paths.slice(0, 6)) await pick(path, true)
  await new Promise((done) => socket.close(done))
}
