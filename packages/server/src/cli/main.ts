import { EDITION } from '@fogbath/core/treat'
import { Command } from 'commander'
import { version as VERSION } from '../../package.json'
import { sentenceOf } from '../errors'
import { addCare } from './commands/care'
import { addDeliveries } from './commands/deliveries'
import { addEdits } from './commands/edits'
import { addMatch, addProcess } from './commands/footage'
import { addLists } from './commands/lists'
import { addLut, addSheet } from './commands/papers'
import { EXIT, exitCodeOf } from './exit'

/** @param signal stops what is being written */
function makeProgram(signal: AbortSignal): Command {
  const program = new Command('fogbath').description('Historical photochemical laboratory processes on footage.')
  program.version(`${VERSION}, edition ${EDITION}`, '--version', 'say which version this is')
  program.showHelpAfterError(false).exitOverride()
  addProcess(program, signal)
  addLut(program)
  addSheet(program, signal)
  addMatch(program)
  addLists(program)
  addEdits(program, signal)
  addDeliveries(program, signal)
  addCare(program, signal)
  return program
}

/** Runs the command line; the exit code says how it ended (exit.ts), and an error is one sentence on stderr. */
export async function main(argv: readonly string[]): Promise<number> {
  const interrupted = new AbortController()
  // Kept listening: the packages that run ffmpeg end the program where nobody else listens any more.
  for (const name of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(name, () => interrupted.abort(name))
  // Whoever reads what is printed may have had enough of it, as `head` does.
  process.stdout.on('error', (error: NodeJS.ErrnoException) => error.code === 'EPIPE' && process.exit(0))
  const program = makeProgram(interrupted.signal)
  program.configureOutput({ outputError: (text, write) => write(text.replace(/^error: /, 'fogbath: ')) })
  program.commands.forEach((c) =>
    c.exitOverride().configureOutput({ outputError: (text, write) => write(text.replace(/^error: /, 'fogbath: ')) }),
  )
  try {
    await program.parseAsync([...argv], { from: 'user' })
    return 0
  } catch (error) {
    const { code, exitCode } = error as { code?: string; exitCode?: number }
    if (code?.startsWith('commander.')) return exitCode === 0 ? EXIT.done : EXIT.wrongUse
    if (interrupted.signal.aborted) {
      process.stderr.write('\nfogbath: stopped; nothing was written.\n')
      return EXIT.stopped
    }
    process.stderr.write(`fogbath: ${sentenceOf(error).replace(/\s+/g, ' ')}\n`)
    return exitCodeOf(error)
  }
}
