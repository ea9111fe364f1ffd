// Figures of npm run bench: printed in rows, gathered in a file.
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs'
import { dirname, join } from 'node:path'

/** Where the parts of a run gather their figures; the path is given to them in the environment. */
const file = () => process.env['FOGBATH_FIGURES'] ?? join(process.cwd(), '.fogbath/figures.json')

export const median = (values) => [...values].sort((a, b) => a - b)[values.length >> 1]

/**
 * Prints one figure and keeps it.
 * @param wanted {must, goal}: at most so much (`least`: at least so much), or nothing for a reference
 */
export function figure(name, value, unit, wanted = null) {
  const { must = null, goal = null, least = false } = wanted ?? {}
  const meets = (bound) => (least ? value >= bound : value <= bound)
  const sign = least ? '>=' : '<='
  const kept = must === null ? '' : meets(goal) ? 'goal' : meets(must) ? 'must' : 'MISSED'
  const text = must === null ? '' : `must ${sign} ${must}, goal ${sign} ${goal} ${unit}`
  console.log(`${name.padEnd(58)} ${value.toFixed(2).padStart(8)} ${unit.padEnd(8)} ${kept.padEnd(7)} ${text}`)
  const path = file()
  const before = existsSync(path) ? JSON.parse(readFileSync(path, 'utf8')) : {}
  mkdirSync(dirname(path), { recursive: true })
  const all = { ...before, [name]: { value: Number(value.toFixed(3)), unit, must, goal } }
  writeFileSync(path, `${JSON.stringify(all, null, 2)}\n`)
}
