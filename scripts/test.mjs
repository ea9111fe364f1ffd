// npm test                    all of it: set-up, types, lint, format, tests of core, server and page, browser tests, torture
// npm test -- PART [NAME ...] one part (checks, core, server, page, browser, torture), of it the files whose names hold NAME;
//                             what stands behind a second -- is handed on to Vitest or Playwright
// npm run test:quick          what tells within a minute and a half: types, lint, core without its slow files, page
// Ends with `N passed, N failed`.
import { mkdirSync } from 'node:fs'
import { parseArgs } from 'node:util'
import { Problem, run, say } from './lib/say.mjs'
import { build, buildServer, checkDisk, checkNode, installPackages, installPrograms } from './lib/setup.mjs'
import { FOLDER, browser, check, checks, together, vitest } from './lib/test-parts.mjs'

/** Files of core that take longest; they try every recipe through everything. */
const SLOW = ['look', 'grain', 'line', 'emulsion', 'match', 'unprint', 'model', 'kernels', 'golden', 'plan', 'scopes']
/** As many letters of what a failed test said are repeated in the end. */
const MOST_SAID = 1500
/** As many of the slowest files are named in the end. */
const NAMED = 15

const torture = () => check('torture, one minute', 'torture', '--', '--minutes', '1')

/** What each part needs beside the packages, and how it is run. */
const PARTS = {
  checks: { run: checks },
  core: { programs: ['spec2cie'], run: (only, more) => vitest('packages/core', only, more) },
  server: {
    programs: ['mariadbd', 'ffmpeg', 'PyOpenColorIO', 'PIL'],
    build: buildServer,
    run: (only, more) => vitest('packages/server', only, more),
  },
  page: { run: (only, more) => vitest('packages/web', only, more) },
  browser: { programs: ['mariadbd', 'ffmpeg', 'chromium-headless-shell'], build, run: browser },
  torture: { programs: ['mariadbd', 'ffmpeg'], build, run: torture },
}

function prepare(parts) {
  checkNode()
  checkDisk()
  installPrograms([...new Set(parts.flatMap((p) => p.programs ?? []))])
  installPackages()
  for (const make of new Set(parts.flatMap((p) => p.build ?? []))) make()
  mkdirSync(FOLDER, { recursive: true })
}

/**
 * Checks go on beside tests until they are done, then the torture, which mostly waits for disks and programs: its limits are
 * times that no load reaches. Browser tests are alone, because they take both processors.
 */
async function all() {
  prepare(Object.values(PARTS))
  const beside = checks().then(async (count) => together([count, await PARTS.torture.run()]))
  const counts = []
  for (const name of ['core', 'page', 'server']) counts.push(await timed(name, PARTS[name].run))
  counts.push(await timed('what went on beside them', () => beside))
  counts.push(await timed('browser', PARTS.browser.run))
  return together(counts)
}

/** @returns what the part gives; says how long it took, which a table of files that ran beside each other does not tell */
async function timed(name, part) {
  const began = Date.now()
  const count = await part()
  say(`\n== ${name}: ${((Date.now() - began) / 60_000).toFixed(1)} minutes`)
  return count
}

async function quick() {
  prepare([PARTS.core])
  const beside = Promise.all([check('types', 'types'), check('lint', 'lint')])
  const core = await vitest('packages/core', [], ['--exclude', `test/{${SLOW.join(',')}}*.test.ts`])
  return together([core, await PARTS.page.run(), ...(await beside)])
}

function partOf(name) {
  const part = PARTS[name]
  if (!part) throw new Problem(`There is no part '${name}'; the parts are ${Object.keys(PARTS).join(', ')}.`)
  return part
}

function timesOf(files) {
  const slowest = [...files].sort((a, b) => b[1] - a[1]).slice(0, NAMED)
  return slowest.map(([name, seconds]) => `${seconds.toFixed(0).padStart(6)} s  ${name}`).join('\n')
}

run(async () => {
  const { tokens } = parseArgs({ allowPositionals: true, tokens: true })
  const end = tokens.find((t) => t.kind === 'option-terminator')?.index ?? Infinity
  const values = (after) => tokens.filter((t) => t.kind === 'positional' && t.index > end === after).map((t) => t.value)
  const [name, ...only] = values(false)
  const began = Date.now()
  let count
  if (name === undefined) count = await all()
  else if (name === 'quick') count = await quick()
  else {
    const part = partOf(name)
    prepare([part])
    count = await part.run(only, values(true))
  }
  say(`\nThe slowest files:\n${timesOf(count.files)}`)
  const failed = count.failed.length
  if (failed > 0) say(`\nFailed:\n${count.failed.map((f) => f.slice(0, MOST_SAID)).join('\n')}`)
  say(`\n${((Date.now() - began) / 60_000).toFixed(1)} minutes\n${count.passed} passed, ${failed} failed`)
  return failed === 0 ? 0 : 1
})
