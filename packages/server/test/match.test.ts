import { execFileSync } from 'node:child_process'
import { existsSync, mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { checkRecipe, type Recipe } from '@fogbath/core/line'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { runProgram } from './program'

const CLIP = join(import.meta.dirname, '../../../demo/footage/keeper-and-apprentice.mp4')
const folder = mkdtempSync(join(tmpdir(), 'fogbath-match-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const run = (...args: string[]) => runProgram(folder, args)
const distances = (out: string): number[] => /([\d.]+) before, ([\d.]+) after/.exec(out)!.slice(1).map(Number)

/** A frame of the clip through a process with settings that are to be found. */
beforeAll(async () => {
  const hidden = join(folder, 'hidden.json')
  const text = JSON.stringify({ baths: [{ kind: 'colour-print', settings: { bleachPrint: 40, push: 0.8 } }] })
  execFileSync('tee', [hidden], { input: text })
  const { err } = await run('process', CLIP, '--recipe', hidden, '--frames', '8', '-o', 'reference.png')
  expect(err).toBe('')
})

describe('fogbath match', () => {
  const to = ['--to', 'reference.png', '--to-encoding', 'bt1886']

  it('finds what was hidden in a picture of the same frame, and tells the distance before and after', async () => {
    const args = [CLIP, ...to, '--frame', '8', '--same-frame', '--kind', 'colour-print', '-o', 'found.json']
    const { code, out, err } = await run('match', ...args)
    expect(err).toBe('')
    expect(code).toBe(0)
    const [before, after] = distances(out)
    expect(before).toBeGreaterThan(3)
    expect(after).toBeLessThan(1)
    const found = checkRecipe(JSON.parse(readFileSync(join(folder, 'found.json'), 'utf8')) as Recipe)
    const { settings } = found.baths[0]!
    expect(Math.abs((settings['bleachPrint'] as number) - 40)).toBeLessThan(5)
    expect(Math.abs((settings['push'] as number) - 0.8)).toBeLessThan(0.05 * 5)
    // What was written is taken by the program again.
    expect((await run('process', CLIP, '--recipe', 'found.json', '--frames', '1', '-o', 'again.png')).code).toBe(0)
  })
  it.each([
    ['colour-print', { bleachPrint: 40, push: 0.8 }, 2.5],
    ['black-and-white', { toner1: 'sulphide', far1: 35 }, 1.5],
  ])(
    'finds %s of other frames by tones and colours, and does to this one what was done to them',
    async (kind, settings, within) => {
      writeFileSync(join(folder, 'asked.json'), JSON.stringify({ baths: [{ kind, settings }] }))
      const treat = (recipe: string, frame: string, to: string) =>
        run('process', CLIP, '--recipe', recipe, '--frames', frame, '-o', to, '--force')
      for (const [frame, to] of ['4', '8'].map((f) => [f, `there-${f}.png`] as const))
        await treat('asked.json', frame, to)
      const others = ['--to', 'there-4.png', 'there-8.png', '--to-encoding', 'bt1886']
      const { out, err } = await run(
        'match',
        CLIP,
        ...others,
        '--frame',
        '40',
        '--kind',
        kind,
        '-o',
        'other.json',
        '--force',
      )
      expect(err).toBe('')
      const [before, after] = distances(out)
      expect(after).toBeLessThan(before!)
      await treat('asked.json', '40', 'wanted.png')
      await treat('other.json', '40', 'found.png')
      const compared = await run('compare', 'wanted.png', 'found.png', '--json')
      expect((JSON.parse(compared.out) as { difference: { mean: number } }).difference.mean).toBeLessThan(within)
    },
  )
  it('says what the process does not reach', async () => {
    const { out } = await run('match', CLIP, '--to', CLIP, '--kind', 'two-strip', '--same-frame', '-o', 'two.json')
    expect(out).toMatch(/not reached: its (yellow|green|blue)/)
  })
  it.each([
    [['--kind', 'contrast', '-o', 'x.json'], /'contrast' is no process; use one of: colour-print/],
    [['-o', 'x.txt'], /must end in \.json/],
    [['--frame', '999', '-o', 'x.json'], /Frame 999 of .* does not exist/],
    [['--to-encoding', 'nonsense', '-o', 'x.json'], /is not an encoding/],
  ])('refuses %j in one sentence and writes nothing', async (args, why) => {
    const { code, err } = await run('match', CLIP, '--to', 'reference.png', ...args)
    expect([2, 3]).toContain(code)
    expect(err).toMatch(why)
    expect(err.trim().split('\n')).toHaveLength(1)
    expect(existsSync(join(folder, args.at(-1)!))).toBe(false)
  })
})
