import { execFile } from 'node:child_process'
import { join } from 'node:path'

/** The command line as it is installed. */
export const PROGRAM = join(import.meta.dirname, '../bin/fogbath.js')

/** Runs it in a folder to its end. */
export const runProgram = (cwd: string, args: readonly string[]): Promise<{ code: number; out: string; err: string }> =>
  new Promise((resolve) => {
    execFile(process.execPath, [PROGRAM, ...args], { cwd, maxBuffer: 1e8 }, (error, out, err) =>
      resolve({ code: typeof error?.code === 'number' ? error.code : error ? 1 : 0, out, err }),
    )
  })
