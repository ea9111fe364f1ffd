// Loaded before the server (node --import): ends it like kill -9 at the n-th thing it does to the outside, where a number
// stands in the file FOGBATH_DIE. Counted are changes of files, programs that are started, and writes to the database.
import childProcess from 'node:child_process'
import { existsSync, readFileSync, writeFileSync } from 'node:fs'
import files from 'node:fs/promises'
import { syncBuiltinESMExports } from 'node:module'
import net from 'node:net'

const path = process.env.FOGBATH_DIE

function step() {
  if (!path || !existsSync(path)) return
  const left = Number(readFileSync(path, 'utf8')) - 1
  writeFileSync(path, String(left))
  if (left <= 0) process.kill(process.pid, 'SIGKILL')
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
