// What git runs at a commit: `subject FILE` looks at the message, `changed` at the files that go into it.
import { execFileSync, spawnSync } from 'node:child_process'
import { existsSync, readFileSync } from 'node:fs'
import { Problem, run } from './lib/say.mjs'

const MOST_LETTERS = 72
/** The script of package.json that checks the types of these files. */
const TYPES = [
  [/^packages\/core\/src\//, 'types:core'],
  [/^(packages\/(server|contract|sheet|core\/test)|demo|e2e|scripts)\/.*\.ts$/, 'types:node'],
  [/^packages\/web\/src\/workers\//, 'types:workers'],
  [/^packages\/web\/.*\.(ts|vue)$/, 'types:page'],
]

function checkSubject(file) {
  const [subject = ''] = readFileSync(file, 'utf8').split('\n')
  if (subject.length > MOST_LETTERS)
    throw new Problem(`The subject has ${subject.length} letters; it may have ${MOST_LETTERS}. Say the rest below it.`)
}

function checkChanged() {
  const listed = execFileSync('git', ['diff', '--cached', '--name-only', '-z', '--diff-filter=d'], { encoding: 'utf8' })
  const changed = listed.split('\0').filter((path) => path && existsSync(path))
  if (changed.length === 0) return
  const checks = [['exec', '--', 'oxfmt', '--check', '--no-error-on-unmatched-pattern', ...changed]]
  for (const [of, script] of TYPES) if (changed.some((path) => of.test(path))) checks.push(['run', script])
  for (const [how, ...args] of checks) {
    const { status, stdout, stderr } = spawnSync('npm', ['--silent', how, ...args], { encoding: 'utf8' })
    if (status !== 0) throw new Problem(`${args.join(' ')} is not content:\n${`${stdout}${stderr}`.trim()}`)
  }
}

run(async () => {
  const [what, file] = process.argv.slice(2)
  if (what === 'subject') checkSubject(file)
  else checkChanged()
  return 0
})
