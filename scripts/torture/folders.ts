import { execFileSync } from 'node:child_process'
import { mkdirSync, readdirSync, rmSync, symlinkSync, writeFileSync } from 'node:fs'
import { join } from 'node:path'
import { ROUTES } from '@fogbath/contract'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import type { Sample } from './media'
import type { Ledger } from './ledger'
import type { Target } from './target'

const LINKS = 'links and pipes in the shared folder'
const FULL = 'a full disk in each writer'

/** Links out, in circles and to what never ends, and pipes: the list comes in time and tells nothing of what they lead to. */
export async function hostileShared(target: Target, ledger: Ledger): Promise<void> {
  const folder = join(target.data, 'shared')
  mkdirSync(folder, { recursive: true })
  const links = ['/etc/passwd', '/dev/zero', '/proc/kmsg', '/proc/self/mem', 'b.json', '/', '.'] as const
  const names = ['a', 'b', 'c', 'd', 'e', 'f', 'g'].map((name) => `${name}.json`)
  names.forEach((name, i) => symlinkSync(links[i]!, join(folder, name)))
  execFileSync('mkfifo', [join(folder, 'pipe.json')])
  for (const [name, text] of [
    ['deep.json', '['.repeat(1_000_000)],
    ['long.json', ' '.repeat(21e6)],
  ] as const)
    writeFileSync(join(folder, name), text)
  for (let i = 0; i < 3; i++) {
    const { text } = await target.ask(LINKS, '/api/shared')
    ledger.holds(LINKS, !text.includes('root:'), 'the list shows what a link leads to')
  }
  for (const name of [...names, 'pipe.json', 'deep.json', '..', '%2e%2e%2fkey'])
    ledger.holds(LINKS, (await target.ask(LINKS, `/api/shared/${name}`)).status >= 400, `${name} is read`)
  rmSync(folder, { recursive: true })
}

/** Puts a disk of 64 kB in the place of a folder; only the system's root can. @returns how to take it away, or null */
function smallDisk(folder: string): (() => void) | null {
  mkdirSync(folder, { recursive: true })
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', folder], { stdio: 'ignore' })
  } catch {
    return null
  }
  return () => void execFileSync('umount', ['--lazy', folder], { stdio: 'ignore' })
}

/** Each folder in turn has no room: what writes there is refused in words, nothing half-made stays, and the rest goes on. */
export async function fullDisks(
  target: Target,
  ledger: Ledger,
  samples: readonly Sample[],
  clip: { readonly shot: number; readonly medium: number },
): Promise<void> {
  const form = (name: string, bytes: Buffer): RequestInit => {
    const body = new FormData()
    body.append('file', new Blob([new Uint8Array(bytes)]), name)
    return { method: 'POST', body }
  }
  const ask = (path: string, init: RequestInit) => target.ask(FULL, path, init, { full: true })
  const id = await target.production(FULL, 'Full')
  const recipe = SHIPPED_RECIPES[0]!
  const row = (await target.call(FULL, ROUTES.keepRecipe, { body: { name: 'Full', recipe } })).answer().id
  const large = Buffer.alloc(300e3, 7)
  const writers: Record<string, () => Promise<unknown>> = {
    media: () => target.upload(FULL, id, [['large.png', large]], { full: true }),
    imports: () => ask('/api/imports', form('large.zip', large)),
    backups: () => ask('/api/backup?media=0', {}),
    shared: () => ask(`/api/shelf/${row}/share`, target.json('POST', { picture: null })),
    cache: () => ask(`/api/media/${clip.medium}/frames/7?width=160`, {}),
  }
  for (const [name, write] of Object.entries(writers)) {
    const folder = join(target.data, name)
    const away = smallDisk(folder)
    if (!away) return ledger.note(FULL, 'left out: only the system’s root can make small disks')
    try {
      writeFileSync(join(folder, 'filling'), Buffer.alloc(64 * 1024))
      await write()
      await target.ask(FULL, '/api/productions')
      const left = readdirSync(folder, { recursive: true, withFileTypes: true }).filter((e) => e.isFile())
      ledger.holds(FULL, left.length <= 1, `${name}: there is ${left.map((e) => e.name).join(', ')}`)
    } finally {
      away()
    }
    await write()
  }
  const { text } = await target.upload(FULL, id, [['x.png', samples[0]!.bytes]])
  ledger.holds(FULL, text.includes('shotId'), `cannot be used after it: ${text.slice(0, 120)}`)
}
