// npm run bench: core, the command line, the server's lists, then the page in Chromium. `-- --json FILE` writes the figures
// as well; `-- core`, `-- line`, `-- server` or `-- page` runs one part.
import { spawnSync } from 'node:child_process'
import { copyFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { buildSync } from 'esbuild'
import { Problem, run } from './lib/say.mjs'
import { ROOT, build, installPrograms } from './lib/setup.mjs'

const FIGURES = join(ROOT, '.fogbath/figures.json')
const bundle = join(ROOT, '.fogbath/bench.mjs')
const PARTS = {
  core: bundle,
  line: 'scripts/bench-line.mjs',
  server: 'scripts/bench-server.mjs',
  page: 'scripts/bench-page.mjs',
}

run(async () => {
  const { values, positionals } = parseArgs({ allowPositionals: true, options: { json: { type: 'string' } } })
  const wrong = positionals.find((name) => !(name in PARTS))
  if (wrong)
    throw new Problem(`'${wrong}' is no part of the bench; it must be one of: ${Object.keys(PARTS).join(', ')}.`)
  installPrograms(['mariadbd', 'ffmpeg', 'chromium-headless-shell'])
  build()
  rmSync(FIGURES, { force: true })
  buildSync({
    entryPoints: [join(ROOT, 'scripts/bench-core.ts')],
    outfile: bundle,
    bundle: true,
    platform: 'node',
    format: 'esm',
    logLevel: 'warning',
  })
  for (const name of positionals.length > 0 ? positionals : Object.keys(PARTS)) {
    const env = { ...process.env, FOGBATH_FIGURES: FIGURES }
    if (spawnSync(process.execPath, [PARTS[name]], { cwd: ROOT, stdio: 'inherit', env }).status !== 0) return 1
  }
  if (values.json) copyFileSync(FIGURES, values.json)
  return 0
})
