// The edition of core: a digest of its sources, which hold the kernels as well. See packages/core/src/treat/edition.ts.
import { createHash } from 'node:crypto'
import { readFileSync, readdirSync } from 'node:fs'
import { join } from 'node:path'

const CORE = join(import.meta.dirname, '../../packages/core/src')

function edition() {
  const hash = createHash('sha256')
  for (const name of readdirSync(CORE, { recursive: true }).sort())
    if (/\.(ts|json)$/.test(name)) hash.update(`${name}\0`).update(readFileSync(join(CORE, name)))
  return hash.digest('hex').slice(0, 12)
}

/** What a bundler puts in its place. */
export const DEFINED = { FOGBATH_EDITION: JSON.stringify(edition()) }
