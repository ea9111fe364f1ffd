// npm run mutate: makes small wrong changes, one at a time, in copies of the packages, and counts those that a test notices.
//   --area TEXT   only areas whose name holds it      --sample N   changes drawn from each area (default 24)
//   --seed N      another draw (default 1)            --named      only the named ones of mutations/named.json
//   --jobs N      copies worked in at once (default 2)
import { spawn } from 'node:child_process'
import {
  cpSync,
  existsSync,
  mkdirSync,
  readFileSync,
  readdirSync,
  rmSync,
  statSync,
  symlinkSync,
  writeFileSync,
} from 'node:fs'
import { join } from 'node:path'
import { parseArgs } from 'node:util'
import { run, say } from './lib/say.mjs'
import { ROOT } from './lib/setup.mjs'
import { AREAS } from './mutations/areas.mjs'
import { mutantsOf } from './mutations/mutants.mjs'

const FOLDER = join(ROOT, '.fogbath-mutate')
/** A change that makes a test run on for ever counts as noticed. */
const MOST_MS = 400_000
const read = (name) => JSON.parse(readFileSync(join(ROOT, 'scripts/mutations', name), 'utf8'))

const { values: options } = parseArgs({
  options: {
    area: { type: 'string', default: '' },
    sample: { type: 'string', default: '24' },
    seed: { type: 'string', default: '1' },
    jobs: { type: 'string', default: '2' },
    named: { type: 'boolean', default: false },
  },
})

/** A copy of all that the tests of a package touch; other packages are found further up. */
function makeCopy(n) {
  const copy = join(FOLDER, String(n))
  rmSync(copy, { recursive: true, force: true })
  mkdirSync(join(copy, 'node_modules/@fogbath'), { recursive: true })
  const leave = (path) => !/\/(dist|node_modules)$/.test(path)
  for (const part of [
    'packages',
    'scripts',
    'demo',
    'package.json',
    'package-lock.json',
    'tsconfig.base.json',
    'tsconfig.json',
  ])
    cpSync(join(ROOT, part), join(copy, part), { recursive: true, filter: leave })
  for (const name of readdirSync(join(copy, 'packages'))) {
    symlinkSync(join(copy, 'packages', name), join(copy, 'node_modules/@fogbath', name))
    const own = join(ROOT, 'packages', name, 'node_modules')
    if (existsSync(own)) symlinkSync(own, join(copy, 'packages', name, 'node_modules'))
  }
  return copy
}

function filesOf({ package: home, folders, skip }) {
  const files = []
  const walk = (path) => {
    if (statSync(join(ROOT, home, path)).isDirectory())
      for (const name of readdirSync(join(ROOT, home, path)).sort()) walk(join(path, name))
    else if (path.endsWith('.ts') && !skip.some((s) => s.test(path))) files.push(path)
  }
  folders.forEach(walk)
  return files
}

/** Numbers 0..1 from a seed (mulberry32). */
function randomFrom(seed) {
  let state = seed
  return () => {
    state = (state + 0x6d2b79f5) | 0
    let t = Math.imul(state ^ (state >>> 15), 1 | state)
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

function drawn(area, count, seed) {
  const known = new Set(read('equivalent.json').map((e) => `${e.file}|${e.code}|${e.what}`))
  const all = filesOf(area).flatMap((path) => {
    const file = join(area.package, path)
    const text = readFileSync(join(ROOT, file), 'utf8')
    const lines = text.split('\n')
    return mutantsOf(file, text)
      .map((m) => ({ area, file, text, ...m, code: lines[m.line - 1].trim() }))
      .filter((m) => !known.has(`${file}|${m.code}|${m.what}`))
  })
  const random = randomFrom(seed)
  return all
    .map((m) => [random(), m])
    .sort((a, b) => a[0] - b[0])
    .slice(0, count)
    .map(([, m]) => m)
}

function named() {
  return read('named.json').map(({ name, area: wanted, file, find, put }) => {
    const text = readFileSync(join(ROOT, file), 'utf8')
    const start = text.indexOf(find)
    if (start < 0 || text.indexOf(find, start + 1) >= 0)
      throw new Error(`'${find}' does not stand exactly once in ${file} (${name}).`)
    const area = AREAS.find((a) => a.name === wanted)
    return {
      area,
      file,
      text,
      start,
      end: start + find.length,
      to: put,
      what: name,
      line: text.slice(0, start).split('\n').length,
      code: find,
    }
  })
}

/** Runs the tests in a copy; true when all pass. */
function passes(copy, home, tests, stdio = 'ignore') {
  const files = tests.map((t) => `test/${t}.test.ts`).filter((t) => existsSync(join(copy, home, t)))
  if (files.length === 0) return true
  return new Promise((done) => {
    const args = ['--no-install', 'vitest', 'run', '--root', join(copy, home), '--bail=1', '--reporter=dot']
    const child = spawn('npx', [...args, ...files], { cwd: ROOT, stdio, detached: true })
    const timer = setTimeout(() => process.kill(-child.pid, 'SIGKILL'), MOST_MS)
    child.on('exit', (code) => {
      clearTimeout(timer)
      done(code === 0)
    })
  })
}

async function survives(copy, { area, file, text, start, end, to }) {
  const path = join(copy, file)
  writeFileSync(path, text.slice(0, start) + to + text.slice(end))
  try {
    for (const tests of area.tests) if (!(await passes(copy, area.package, tests))) return false
    return true
  } finally {
    writeFileSync(path, text)
  }
}

run(async () => {
  const areas = AREAS.filter((a) => a.name.includes(options.area))
  const mutants = named().filter((m) => areas.includes(m.area))
  if (!options.named)
    for (const area of areas) mutants.push(...drawn(area, Number(options.sample), Number(options.seed)))
  const copies = Array.from({ length: Number(options.jobs) }, (_, n) => makeCopy(n))
  for (const area of areas)
    if (!(await passes(copies[0], area.package, area.tests.flat(), 'inherit')))
      throw new Error(`The tests of ${area.name} fail without any change.`)
  const score = new Map(areas.map((a) => [a.name, { noticed: 0, all: 0 }]))
  const left = [...mutants]
  const survivors = []
  const work = async (copy) => {
    for (let m = left.shift(); m; m = left.shift()) {
      const survived = await survives(copy, m)
      const count = score.get(m.area.name)
      count.all++
      if (!survived) count.noticed++
      else survivors.push(m)
      say(`${survived ? 'NOT NOTICED' : 'noticed    '}  ${m.file}:${m.line}  ${m.what}   ${m.code.slice(0, 90)}`)
    }
  }
  await Promise.all(copies.map(work))
  rmSync(FOLDER, { recursive: true, force: true })
  say('')
  for (const [name, { noticed, all }] of score)
    say(`${name.padEnd(16)} ${noticed} of ${all}  ${Math.round((100 * noticed) / all)} %`)
  const sum = (key) => [...score.values()].reduce((total, s) => total + s[key], 0)
  say(`${'all'.padEnd(16)} ${sum('noticed')} of ${sum('all')}  ${Math.round((100 * sum('noticed')) / sum('all'))} %`)
  return survivors.length ? 1 : 0
})
