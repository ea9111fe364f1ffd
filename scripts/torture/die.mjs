// Loaded before the server (node --import): ends it like kill -9 at the n-th thing it does to the outside, where a number
// stands in the file FOGBATH_DIE. Counted are changes of files, programs that are started, and writes to the database.
// The file is only read here, and put there whole by others; the last thing done is to leave word beside it (FOGBATH_DIE.died).
import childProcess from 'node:child_process'
import { readFileSync, writeFileSync } from 'node:fs'
import files from 'node:fs/promises'
import { syncBuiltinESMExports } from 'node:module'
import net from 'node:net'

const path = process.env.FOGBATH_DIE

let done = 0

function step() {
  if (!path) return
  const last = wanted()
  done = last === null ? 0 : done + 1
  if (last === null || done < last) return
  writeFileSync(`${path}.died`, '')
  process.kill(process.pid, 'SIGKILL')
}

function wanted() {
  try {
    return Number(readFileSync(path, 'utf8'))
  } catch {
    return null
  }
}

const counted = (work) =>
  function (...args) {
    step()
    return work.apply(this, args)
  }

for (const name of ['rename', 'rm', 'mkdir', 'writeFile', 'unlink', 'link', 'cp']) files[name] = counted(files[name])
childProcess.spawn = counted(childProcess.spawn)
syncBuiltinESMExports()

const { write } = net.Socket.prototype
net.Socket.prototype.write = function (...args) {
  if (this.remotePort === Number(process.env.FOGBATH_DB_PORT)) step()
  return write.apply(this, args)
}
