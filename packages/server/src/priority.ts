import { constants, setPriority } from 'node:os'

/** Below the usual priority, but never so low that work stands still. */
const POLITE = 10

/**
 * Lets work in the background give way to everything else on this machine. In Linux a priority is a thread's own
 * (setpriority(2)) and goes over to those that it starts; elsewhere it is the whole program's, so a thread keeps its.
 * @param pid a program; this thread when left out
 */
export function giveWay(pid?: number): void {
  if (pid === undefined && process.platform !== 'linux') return
  try {
    setPriority(pid ?? 0, POLITE)
  } catch (error) {
    // One that has ended already has nothing to give.
    if ((error as { info?: { errno?: number } }).info?.errno !== -constants.errno.ESRCH) throw error
  }
}
