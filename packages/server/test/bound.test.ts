import { spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { makeFootage } from './helpers'
import { PROGRAM } from './program'

/** Those that write into this folder, with their state (proc(5)). */
function writersOf(folder: string): { pid: number; state: string }[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .flatMap((pid) => {
      try {
        const [program, ...args] = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').slice(0, -1)
        const state = /State:\s+(\S)/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'))![1]!
        return program === 'ffmpeg' && args.at(-1)!.startsWith(`file:${folder}`) ? [{ pid: Number(pid), state }] : []
      } catch {
        return []
      }
    })
}

it('a program that writes a file ends with a program that was killed, also when it was held up itself', async () => {
  const folder = mkdtempSync(join(tmpdir(), 'fogbath-bound-'))
  const args = ['process', makeFootage(folder).clip, '--recipe', 'plain', '-o', join(folder, 'out.mp4')]
  const made = spawn(process.execPath, [PROGRAM, ...args], { cwd: folder, stdio: 'inherit' })
  try {
    const ended = new Promise((done) => made.once('exit', done))
    await expect.poll(() => writersOf(folder).length, { timeout: 30_000, interval: 5 }).toBe(1)
    const { pid } = writersOf(folder)[0]!
    // Held up, as on a machine that does too much: it cannot notice by itself that nothing more will come.
    process.kill(pid, 'SIGSTOP')
    made.kill('SIGKILL')
    await ended
    await expect.poll(() => writersOf(folder).filter((w) => w.state !== 'Z')).toEqual([])
  } finally {
    for (const { pid } of writersOf(folder)) process.kill(pid, 'SIGKILL')
    rmSync(folder, { recursive: true, force: true })
  }
})
