import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { runProgram } from './program'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-track-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

/** A textured card that ffmpeg moves by three pixels across and one down a frame over a still ground. */
const [FRAMES, W, H] = [60, 640, 360]
beforeAll(() => {
  const card = `testsrc2=s=200x120:r=24:d=1,trim=end_frame=1,loop=-1:1,setpts=N/24/TB,noise=alls=20:all_seed=3`
  const ground = `color=c=gray:s=${W}x${H}:r=24,noise=alls=12:allf=t:all_seed=5`
  const laid = `[1][0]overlay=x='100+3*n':y='80+n':format=gbrp,trim=end_frame=${FRAMES}`
  const inputs = ['-f', 'lavfi', '-i', card, '-f', 'lavfi', '-i', ground]
  const out = ['-frames:v', String(FRAMES), '-c:v', 'ffv1', '-y', join(folder, 'card.mkv')]
  execFileSync('ffmpeg', ['-v', 'error', ...inputs, '-filter_complex', laid, ...out])
  // The card's place in frame 30: its middle 100 + 90 + 100 across, 80 + 30 + 60 down.
  const settings = { x: (100 * 290) / W, y: (100 * 170) / H, width: (100 * 180) / W, height: (100 * 100) / W }
  writeFileSync(join(folder, 'shape.json'), JSON.stringify({ type: 'rectangle', settings }))
})

const track = (...more: string[]) => runProgram(folder, ['track', 'card.mkv', '--shape', 'shape.json', ...more])

interface Found {
  frame: number
  corners: { x: number; y: number }[]
  used: number
}

describe('fogbath track', () => {
  it('tells the corners of a shape’s frame in every frame, before and after the one that shows it', async () => {
    const { code, out, err } = await track('--frame', '30', '--json')
    expect([code, err]).toEqual([0, ''])
    const found = JSON.parse(out) as Found[]
    expect(found.map((f) => f.frame)).toEqual(Array.from({ length: FRAMES }, (_, i) => i))
    const off = found.flatMap(({ frame, corners }) =>
      [
        [200, 120],
        [380, 120],
        [380, 220],
        [200, 220],
      ].map(([x, y], k) => {
        const [u, v] = [x! + 3 * (frame - 30), y! + (frame - 30)]
        return Math.hypot((corners[k]!.x * W) / 100 - u, (corners[k]!.y * H) / 100 - v)
      }),
    )
    expect(off.reduce((a, b) => a + b) / off.length).toBeLessThan(0.5)
    expect(Math.max(...off)).toBeLessThan(1.5)
    expect(found[30]!.used).toBe(1)
    for (const { used } of found) expect(used).toBeGreaterThan(0.5)
  })
  it('tells it in words, and moves only as it is told to', async () => {
    const { out } = await track('--frame', '58', '--motions', 'move')
    expect(out.trim().split('\n')).toHaveLength(FRAMES)
    expect(out).toMatch(/^0: [-\d.]+ [-\d.]+(, [-\d.]+ [-\d.]+){3}; \d+ % used$/m)
  })
  it.each([
    [['--frame', '60'], /Frame 60 of card\.mkv does not exist; it has frames 0 to 59/],
    [['--motions', 'jump'], /'jump' is no motion; the motions are move, turn/],
    [['--shape', 'tone.json'], /'tone' cannot be tracked/],
    [['--shape', 'wide.json'], /wide\.json.*width.*200/],
    [['--shape', 'none.json'], /none\.json/],
  ])('refuses %j in one sentence', async (args, why) => {
    writeFileSync(join(folder, 'tone.json'), JSON.stringify({ type: 'tone' }))
    writeFileSync(join(folder, 'wide.json'), JSON.stringify({ type: 'ellipse', settings: { width: 900 } }))
    const { code, out, err } = await track(...args)
    expect([2, 3]).toContain(code)
    expect(err).toMatch(why)
    expect(err.trim().split('\n')).toHaveLength(1)
    expect(out).toBe('')
  })
})
