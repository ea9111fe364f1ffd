import { execFileSync, spawnSync } from 'node:child_process'
import { createHash } from 'node:crypto'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { newBath, type Recipe } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { sheetOf } from '@fogbath/sheet'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-sheet-test-'))
const still = join(folder, 'still.png')
beforeAll(() => {
  execFileSync('ffmpeg', ['-v', 'error', '-f', 'lavfi', '-i', 'testsrc2=s=320x180', '-frames:v', '1', still])
})
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const program = join(import.meta.dirname, '../bin/fogbath.js')
const run = (args: string[], path = process.env['PATH']) =>
  spawnSync(process.execPath, [program, 'sheet', ...args], {
    cwd: folder,
    encoding: 'utf8',
    env: { ...process.env, PATH: path },
  })

const shipped = (id: string): Recipe => SHIPPED_RECIPES.find((r) => r.id === id)!

describe('the text of a sheet', () => {
  const facts = { version: 'as shipped', date: '2026-01-02', shot: null }
  it('tells the line with what differs from the default, in units', async () => {
    const lane = { times: 'start', keys: [{ at: 0, value: 1, way: 'held' }] } as const
    const keys = { push: lane, strength: lane }
    const bath = { ...newBath('colour-print', 'p', { push: 1.5 }), name: 'Pushed <b>', strength: 80, keys }
    const text = await sheetOf({ ...shipped('plain'), name: 'A & B', baths: [bath] }, facts)
    const words = text
      .replace(/<style>[\s\S]*?<\/style>/, '')
      .replace(/<[^>]*>/g, ' ')
      .replace(/\s+/g, ' ')
    expect(words).toMatch(/A &#38; B/)
    expect(text).not.toContain('Pushed <b>')
    expect(words).toMatch(
      /Pushed &#60;b&#62; Colour print strength 80 % · over the shot changes: push or pull, strength/,
    )
    expect(words).toMatch(/Push \/ pull 1\.5 stop \(0 stop\)|Push[^(]*1\.5[^(]*\(0/)
  })
  it('gives two recipes that do the same one hash, and any other another', async () => {
    const hash = async (recipe: Recipe) => /[0-9a-f]{64}/.exec(await sheetOf(recipe, facts))![0]
    const sepia = shipped('sepia')
    expect(await hash({ ...sepia, name: 'Called otherwise' })).toBe(await hash(sepia))
    expect(await hash({ ...sepia, strength: 99 })).not.toBe(await hash(sepia))
  })
  it('can be made of every shipped recipe, with a wedge of 21 steps and charts of vectors', async () => {
    for (const recipe of SHIPPED_RECIPES) {
      const text = await sheetOf(recipe, facts)
      expect(text.match(/<tbody>[\s\S]*<\/tbody>/)![0].match(/<tr/g), recipe.id).toHaveLength(21)
      expect(text, recipe.id).not.toMatch(/NaN|undefined|Infinity/)
      expect(text).not.toContain('<canvas')
    }
  })
  it('names the shot with its frame, timecode and what the shot adds', async () => {
    const shot = {
      name: 'Lock',
      production: 'Almanac',
      file: 'lock.mp4',
      frame: 30,
      timecode: '00:00:01:06',
      sha256: 'ab'.repeat(32),
      before: 'blob:a',
      after: 'blob:b',
      notes: [{ at: '00:00:00:12', text: 'Mind the lamp', author: 'A' }],
      around: { preparation: [newBath('balance', 'shot', { exposure: 0.5 })], after: [] },
    }
    const text = await sheetOf(shipped('sepia'), { ...facts, shot })
    for (const words of [
      'Lock, frame 30',
      'Mind the lamp (A)',
      '00:00:01:06',
      'Before it on this shot: Balance: exposure 0.5 stop.',
      'ab'.repeat(32),
      'Almanac',
    ])
      expect(text).toContain(words)
  })
})

describe('fogbath sheet', () => {
  it('prints an A4 PDF of one or two pages through Chromium, with its typefaces in it', () => {
    const { status, stderr } = run(['--recipe', 'sepia', '--input', still, '-o', 'sepia.pdf'])
    expect(stderr).toBe('')
    expect(status).toBe(0)
    const pdf = readFileSync(join(folder, 'sepia.pdf'), 'latin1')
    expect(pdf.slice(0, 5)).toBe('%PDF-')
    const pages = pdf.match(/\/Type \/Page\b/g)!.length
    expect(pages).toBeGreaterThanOrEqual(1)
    expect(pages).toBeLessThanOrEqual(2)
    // A4 in points.
    expect(pdf).toMatch(/\/MediaBox \[0 0 59[45]\.\d+ 84[12]\.\d+\]|\/MediaBox \[0 0 59[45] 84[12]\]/)
    expect(pdf).toContain('ArchivoNarrow')
  })
  it('writes the page itself, with the hash of the footage', () => {
    expect(run(['--recipe', 'plain', '--input', still, '-o', 'plain.html']).status).toBe(0)
    const page = readFileSync(join(folder, 'plain.html'), 'utf8')
    expect(page).toContain(createHash('sha256').update(readFileSync(still)).digest('hex'))
    expect(page.match(/data:image\/jpeg;base64,/g)).toHaveLength(2)
  })
  it.each([
    [['-o', 'x.doc'], /must end in \.pdf or \.html/],
    [['--input', still, '--frame', '3', '-o', 'x.html'], /frames 0 to 0/],
    [['--input', 'no.mp4', '-o', 'x.html'], /no\.mp4/],
  ])('refuses %j in one sentence', (args, why) => {
    const { status, stderr } = run(['--recipe', 'plain', ...args])
    expect([2, 3]).toContain(status)
    expect(stderr).toMatch(why)
    expect(stderr.trim().split('\n')).toHaveLength(1)
  })
  it('says what to do where Chromium is not there', () => {
    const { status, stderr } = run(['--recipe', 'plain', '-o', 'y.pdf'], '/nowhere')
    expect(status).toBe(5)
    expect(stderr).toMatch(/install Debian’s package chromium.*or write a page with -o sheet\.html/)
  })
  it('does not write over what is there', () => {
    writeFileSync(join(folder, 'there.html'), 'mine')
    expect(run(['--recipe', 'plain', '-o', 'there.html']).stderr).toMatch(/exists already; add --force/)
    expect(readFileSync(join(folder, 'there.html'), 'utf8')).toBe('mine')
  })
})
