import { existsSync } from 'node:fs'
import { fileURLToPath } from 'node:url'

/** A thread begins with a built file: beside the program, or where that runs from source, among what was built of it. */
export function threadFile(name: string): string {
  const beside = fileURLToPath(new URL(`./${name}`, import.meta.url))
  return existsSync(beside) ? beside : fileURLToPath(new URL(`../dist/${name}`, import.meta.url))
}
