// One application for one data folder.
import { existsSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { isRunning } from './processes.mjs'
import { Problem } from './say.mjs'
import { writeWhole } from './whole-file.mjs'

/** Who holds the folder; a note that was cut short or damaged names nobody. */
function holderOf(path) {
  if (!existsSync(path)) return null
  try {
    const { pid, address } = JSON.parse(readFileSync(path, 'utf8'))
    return Number.isInteger(pid) && pid !== process.pid && isRunning(pid, 'start.mjs') ? { address } : null
  } catch {
    return null
  }
}

export function lock(data) {
  const path = join(data, 'running.json')
  const holder = holderOf(path)
  if (holder)
    throw new Problem(
      `Fog Bath is already running${holder.address ? ` at ${holder.address}` : ''} with this data folder (${data}).`,
    )
  const write = (address) => writeWhole(path, JSON.stringify({ pid: process.pid, address }))
  write()
  return { write, release: () => rmSync(path, { force: true }) }
}
