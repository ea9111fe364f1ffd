// Processes by their number: one that is gone may have left its number to somebody else's.
import { readFileSync } from 'node:fs'

/**
 * Whether a process runs whose command line holds all of the words. A number alone proves nothing.
 * Where the system does not tell command lines (/proc), it counts as not ours.
 */
export function isRunning(pid, ...words) {
  try {
    const line = readFileSync(`/proc/${pid}/cmdline`, 'utf8').split('\0').join(' ')
    return words.every((word) => line.includes(word))
  } catch {
    return false
  }
}
