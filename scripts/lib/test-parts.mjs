// The parts of `npm test`. Each gives how many passed, the names of what failed, and how many seconds its files took.
import { spawn } from 'node:child_process'
import { existsSync, readFileSync, readdirSync, rmSync } from 'node:fs'
import { join, relative } from 'node:path'
import { startApplication } from './application.mjs'
import { say } from './say.mjs'
import { ROOT } from './setup.mjs'

export const FOLDER = join(ROOT, '.fogbath-test')
/** As many letters of the end of what a failed script said are repeated with its name. */
const LAST_SAID = 1300

/** Runs a command with its output shown; gives whether it went well. */
const shown = (command, args, env = {}) =>
  new Promise((done) => {
    const how = { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } }
    spawn(command, args, how).once('close', (code) => done(code === 0))
  })

/** A script of package.json; what it says is shown in one piece when it is done, because several run beside each other. */
export const check = (name, ...args) =>
  new Promise((done) => {
    const began = Date.now()
    const child = spawn('npm', ['run', '--silent', ...args], { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] })
    let said = ''
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text))
    child.once('close', (code) => {
      say(`\n== ${name}${code === 0 ? '' : ' failed'}\n${said}`.trimEnd())
      const files = [[name, (Date.now() - began) / 1000]]
      const failed = code === 0 ? [] : [`${name}\n${said.trimEnd().slice(-LAST_SAID)}`]
      done({ passed: code === 0 ? 1 : 0, failed, files })
    })
  })

/** Beside each other. */
export const checks = async () =>
  together(
    await Promise.all([
      check('types', 'types'),
      check('lint', 'lint'),
      check('format', 'format:check'),
      check('kernels', 'kernels', '--', '--check'),
    ]),
  )

/** @param only parts of names of files, or nothing for all of them @param more further arguments of Vitest */
export async function vitest(folder, only = [], more = []) {
  say(`\n== tests of ${folder}`)
  const report = join(FOLDER, `${folder.replace('/', '-')}.json`)
  rmSync(report, { force: true })
  const how = ['--reporter=default', '--reporter=json', `--outputFile.json=${report}`, ...more]
  const ok = await shown('npx', ['--no-install', 'vitest', 'run', '--root', join(ROOT, folder), ...only, ...how])
  return countOf(folder, report, ok, ({ numPassedTests, testResults }) => ({
    passed: numPassedTests,
    failed: testResults.flatMap(failedOf),
    files: testResults.map((t) => [relative(ROOT, t.name), (t.endTime - t.startTime) / 1000]),
  }))
}

/** A failed test with what it said; a file that failed before its tests began, with why. */
function failedOf({ name, status, message, assertionResults }) {
  const file = relative(ROOT, name)
  const failed = assertionResults.filter((a) => a.status === 'failed')
  if (status === 'failed' && failed.length === 0) return [`${file}: ${message}`]
  return failed.map((a) => `${file} › ${a.fullName}\n${a.failureMessages.join('\n')}`)
}

/** A report that is missing, or that says all is well when the run says otherwise, counts as a failure. */
function countOf(name, report, ok, read) {
  try {
    const count = read(JSON.parse(readFileSync(report, 'utf8')))
    return ok || count.failed.length > 0 ? count : { ...count, failed: [`${name}: ended badly though no test failed`] }
  } catch (error) {
    return { passed: 0, failed: [`${name}: no report (${error.message})`], files: [] }
  }
}

/** What the page held when a browser test failed: on another machine it is all there is to go by. */
function pagesOfFailures() {
  for (const name of readdirSync(join(FOLDER, 'playwright'))) {
    const path = join(FOLDER, 'playwright', name, 'error-context.md')
    if (!existsSync(path)) continue
    const page = /```yaml[^]*?```/.exec(readFileSync(path, 'utf8'))?.[0]
    if (page) say(`\n== the page of ${name}\n${page.slice(0, 6000)}`)
  }
}

const secondsOf = ({ specs = [], suites = [] }) =>
  specs.flatMap((s) => s.tests.flatMap((t) => t.results)).reduce((sum, r) => sum + r.duration / 1000, 0) +
  suites.reduce((sum, s) => sum + secondsOf(s), 0)

const failedSpecs = ({ specs = [], suites = [] }) => [
  ...specs
    .filter((s) => !s.ok)
    .map((s) => `e2e/${s.file} › ${s.title}\n${s.tests.at(-1)?.results.at(-1)?.error?.message ?? ''}`),
  ...suites.flatMap(failedSpecs),
]

export async function browser(only = [], more = []) {
  say('\n== browser tests')
  const data = join(FOLDER, 'data')
  rmSync(data, { recursive: true, force: true })
  const application = await startApplication(data)
  const env = { FOGBATH_URL: application.url, FOGBATH_DATA: data }
  let ok
  let stopped
  try {
    ok = await shown('npx', ['--no-install', 'playwright', 'test', ...only, ...more], env)
  } finally {
    stopped = await application.stop()
  }
  if (!ok) pagesOfFailures()
  const count = countOf('browser tests', join(FOLDER, 'e2e.json'), ok, ({ stats, suites }) => ({
    passed: stats.expected + stats.flaky,
    failed: suites.flatMap(failedSpecs),
    files: suites.map((s) => [`e2e/${s.file}`, secondsOf(s)]),
  }))
  // Ctrl+C must end the application cleanly: that is a test as well.
  if (stopped) return { ...count, passed: count.passed + 1 }
  return { ...count, failed: [...count.failed, 'the application did not end cleanly after the browser tests'] }
}

/** Counts of several parts as one. */
export const together = (counts) => ({
  passed: counts.reduce((sum, c) => sum + c.passed, 0),
  failed: counts.flatMap((c) => c.failed),
  files: counts.flatMap((c) => c.files),
})
