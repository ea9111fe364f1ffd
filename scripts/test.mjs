// npm test: set-up, then types, lint, format, unit, server and browser tests, a minute of torture. Ends with `N passed, N failed`.
import { spawn, spawnSync } from 'node:child_process'
import { mkdirSync, readFileSync, rmSync } from 'node:fs'
import { join } from 'node:path'
import { startApplication } from './lib/application.mjs'
import { run, say } from './lib/say.mjs'
import { ROOT, build, checkDisk, checkNode, installPackages, installPrograms } from './lib/setup.mjs'

const FOLDER = join(ROOT, '.fogbath-test')

/** Runs a command with its output shown; gives whether it went well. */
const shown = (command, args, env = {}) =>
  spawnSync(command, args, { cwd: ROOT, stdio: ['ignore', 'inherit', 'inherit'], env: { ...process.env, ...env } })
    .status === 0

/** Checks beside each other; what one says is shown in one piece when it is done. */
const check = (name, ...args) =>
  new Promise((done) => {
    const child = spawn('npm', ['run', '--silent', ...args], { cwd: ROOT, stdio: ['ignore', 'pipe', 'pipe'] })
    let said = ''
    for (const stream of [child.stdout, child.stderr]) stream.on('data', (text) => (said += text))
    child.once('close', (code) => {
      say(`\n== ${name}${code === 0 ? '' : ' failed'}\n${said}`.trimEnd())
      done({ passed: code === 0 ? 1 : 0, failed: code === 0 ? 0 : 1 })
    })
  })

function vitest(folder) {
  say(`\n== tests of ${folder}`)
  const report = join(FOLDER, `${folder.replace('/', '-')}.json`)
  const ok = shown('npx', [
    '--no-install',
    'vitest',
    'run',
    '--root',
    join(ROOT, folder),
    '--reporter=default',
    '--reporter=json',
    `--outputFile.json=${report}`,
  ])
  return countOf(report, ok, ({ numPassedTests, numFailedTests }) => [numPassedTests, numFailedTests])
}

/** A report that is missing, or that says all is well when the run says otherwise, counts as a failure. */
function countOf(report, ok, read) {
  try {
    const [passed, failed] = read(JSON.parse(readFileSync(report, 'utf8')))
    return { passed, failed: failed + (!ok && failed === 0 ? 1 : 0) }
  } catch {
    return { passed: 0, failed: 1 }
  }
}

async function browserTests() {
  say('\n== browser tests')
  const data = join(FOLDER, 'data')
  const application = await startApplication(data)
  let ok
  let stopped
  try {
    ok = shown('npx', ['--no-install', 'playwright', 'test'], {
      FOGBATH_URL: application.url,
      FOGBATH_DATA: data,
    })
  } finally {
    stopped = await application.stop()
  }
  const count = countOf(join(FOLDER, 'e2e.json'), ok, ({ stats }) => [stats.expected + stats.flaky, stats.unexpected])
  // Ctrl+C must end the application cleanly: that is a test as well.
  return { passed: count.passed + (stopped ? 1 : 0), failed: count.failed + (stopped ? 0 : 1) }
}

run(async () => {
  checkNode()
  checkDisk()
  installPrograms(['mariadbd', 'ffmpeg', 'chromium', 'PyOpenColorIO', 'spec2cie'])
  installPackages()
  build()
  rmSync(FOLDER, { recursive: true, force: true })
  mkdirSync(FOLDER, { recursive: true })
  const counts = await Promise.all([
    check('types', 'types'),
    check('lint', 'lint'),
    check('format', 'format:check'),
    check('kernels', 'kernels', '--', '--check'),
  ])
  for (const folder of ['packages/core', 'packages/server', 'packages/web']) counts.push(vitest(folder))
  counts.push(await browserTests())
  // Alone, because it measures memory and how soon answers come.
  counts.push(await check('torture, one minute', 'torture', '--', '--minutes', '1'))
  const sum = (key) => counts.reduce((total, c) => total + c[key], 0)
  say(`\n${sum('passed')} passed, ${sum('failed')} failed`)
  return sum('failed') === 0 ? 0 : 1
})
