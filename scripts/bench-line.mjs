// The part of npm run bench that times the command line: a clip of 1920x1080 to H.264, against ffmpeg that does the same with
// a .cube through lut3d, and the memory of a long run.
import { execFileSync, spawn } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { figure, median } from './lib/figures.mjs'

const FRAMES = 96
const ROUNDS = 3
const folder = mkdtempSync(join(tmpdir(), 'fogbath-bench-'))
const at = (name) => join(folder, name)
const ffmpeg = (args) => execFileSync('ffmpeg', ['-v', 'error', '-y', ...args])
const fogbath = (args) =>
  execFileSync(process.execPath, ['packages/server/dist/fogbath.js', ...args], { stdio: 'pipe', maxBuffer: 1e8 })
const timed = (work) => {
  const start = performance.now()
  work()
  return performance.now() - start
}

/** Greatest memory of a process and what it starts while it puts a long clip through a recipe, early and late. */
async function memoryOf(args) {
  const child = spawn(process.execPath, ['packages/server/dist/fogbath.js', ...args], { stdio: 'ignore' })
  const seen = []
  const timer = setInterval(() => {
    try {
      const status = readFileSync(`/proc/${child.pid}/status`, 'utf8')
      seen.push(Number(/VmRSS:\s+(\d+)/.exec(status)[1]) / 1024)
    } catch {
      // It has just ended.
    }
  }, 250)
  await new Promise((done) => child.once('exit', done))
  clearInterval(timer)
  const part = (from, to) => Math.max(...seen.slice(Math.floor(from * seen.length), Math.ceil(to * seen.length)))
  return { early: part(0.2, 0.4), late: part(0.8, 1) }
}

try {
  const clip = at('clip.mp4')
  const scale = 'scale=1920:1080:flags=bilinear,format=yuv420p10le'
  const coded = ['-c:v', 'libx264', '-preset', 'medium', '-crf', '12', '-profile:v', 'high10']
  const loop = (times) => ['-stream_loop', String(times), '-i', 'demo/footage/regatta-bunting.mp4', '-an']
  ffmpeg([...loop(3), '-vf', scale, '-frames:v', String(FRAMES), ...coded, clip])
  // Without its grain, which a .cube cannot hold and which costs the coder more than all the rest.
  const shipped = JSON.parse(fogbath(['recipes', '--json'])).find(({ id }) => id === 'bleach-bypass')
  const baths = shipped.baths.map((bath) => ({ ...bath, settings: { ...bath.settings, grain: 0 } }))
  writeFileSync(at('bypass.json'), JSON.stringify({ ...shipped, baths }))
  fogbath(['lut', '--recipe', at('bypass.json'), '--size', '33', '-o', at('look.cube')])
  const zscale = 'zscale=matrixin=709:rangein=limited:matrix=gbr:range=full,format=gbrpf32le'
  const back = 'zscale=matrixin=gbr:rangein=full:matrix=709:range=limited,format=yuv420p10le'
  const byCube = ['-i', clip, '-vf', `${zscale},lut3d=file=${at('look.cube')}:interp=tetrahedral,${back}`, ...coded]
  const times = { cube: [], line: [] }
  for (let round = 0; round < ROUNDS; round++) {
    times.cube.push(timed(() => ffmpeg([...byCube, at('cube.mp4')])))
    times.line.push(
      timed(() => fogbath(['process', clip, '--recipe', at('bypass.json'), '-o', at('line.mp4'), '--force'])),
    )
  }
  const [cube, line] = [median(times.cube), median(times.line)]
  figure(`reference: ffmpeg with a .cube, ${FRAMES} frames 1080p to H.264`, cube / 1000, 's')
  figure('command line, the same with bleach bypass, of it', line / cube, 'x', { must: 1.3, goal: 1 })
  const small = 'scale=640:360:flags=bilinear,format=yuv420p10le'
  ffmpeg([...loop(41), '-vf', small, '-frames:v', '2000', '-c:v', 'libx264', '-preset', 'ultrafast', at('long.mp4')])
  const long = ['process', at('long.mp4'), '--recipe', 'three-strip', '-o', at('long-out.mp4'), '--force']
  const { early, late } = await memoryOf(long)
  figure('command line, 2 000 frames: memory early', early, 'MB')
  figure('command line, 2 000 frames: memory late, of early', late / early, 'x', { must: 1.1, goal: 1.03 })
} finally {
  rmSync(folder, { recursive: true, force: true })
}
