// npm run bench: medians in milliseconds, each beside a reference measured in the same run, interleaved with it.
import { execFileSync } from 'node:child_process'
import {
  DISPLAY,
  SCENE,
  SHIPPED_RECIPES,
  Workbench,
  bakeLut,
  changeSettings,
  compileLine,
  plainLine,
  applyLutPlain,
  runPlan,
  seededRandom,
} from '@fogbath/core'
import { blurRecords } from '../packages/core/src/kernels/blur'

const [WIDTH, HEIGHT, ROUNDS] = [1920, 1080, 7]
const N = WIDTH * HEIGHT

const median = (v: number[]): number => v.sort((a, b) => a - b)[v.length >> 1]!

/** Times several pieces of work in turn, so that all meet the same machine. */
function race(works: Record<string, () => void>): Record<string, number> {
  const times: Record<string, number[]> = Object.fromEntries(Object.keys(works).map((k) => [k, []]))
  for (let round = 0; round < ROUNDS; round++)
    for (const [name, work] of Object.entries(works)) {
      const start = performance.now()
      work()
      if (round > 0) times[name]!.push(performance.now() - start)
    }
  return Object.fromEntries(Object.entries(times).map(([k, v]) => [k, median(v)]))
}

const random = seededRandom(1)
/** Smooth like footage, with some noise: a LUT's speed depends on how near neighbours lie. */
const picture = Float32Array.from({ length: 4 * N }, (_, i) => {
  const [x, y] = [(i >> 2) % WIDTH, Math.floor((i >> 2) / WIDTH)]
  return 0.02 + (0.9 * x) / WIDTH + (0.6 * y * ((i & 3) + 1)) / (3 * HEIGHT) + 0.01 * random()
})
const target = new Float32Array(4 * N)
const line = plainLine(SHIPPED_RECIPES[1]!)
const lut = bakeLut(line, SCENE, 33)
/** The same job that the reference does: no shaper before the cube. */
const plainCube = bakeLut(line, DISPLAY, 33)
const preview = picture.slice(0, 4 * 960 * 540)
const workbench = new Workbench()

/** ffmpeg's lut3d alone: a run of many frames less a run of few, over their difference. */
function ffmpegLut(): number {
  const cube = '/tmp/fogbath-bench.cube'
  execFileSync('sh', [
    '-c',
    `awk 'BEGIN{print "LUT_3D_SIZE 33";for(b=0;b<33;b++)for(g=0;g<33;g++)for(r=0;r<33;r++)print r/32,g/32,b/32}' > ${cube}`,
  ])
  const run = (filter: string, frames: number): number => {
    const start = performance.now()
    execFileSync('ffmpeg', [
      '-v',
      'error',
      '-threads',
      '1',
      '-filter_threads',
      '1',
      '-f',
      'lavfi',
      '-i',
      `testsrc2=s=${WIDTH}x${HEIGHT}`,
      '-vf',
      `format=gbrpf32le${filter}`,
      '-frames:v',
      String(frames),
      '-f',
      'null',
      '-',
    ])
    return performance.now() - start
  }
  const times = Array.from({ length: 5 }, () => {
    const lutted = run(`,lut3d=file=${cube}:interp=tetrahedral`, 12) - run(`,lut3d=file=${cube}:interp=tetrahedral`, 2)
    return (lutted - (run('', 12) - run('', 2))) / 10
  })
  return median(times)
}

const reference = ffmpegLut()
const t = race({
  copy: () => target.set(picture),
  lut: () => plainCube.apply(picture, target, N),
  shaped: () => lut.apply(picture, target, N),
  lutPlain: () => applyLutPlain(plainCube, picture, target, N),
  blur12: () => blurRecords([6.25, 6.25, 6.25], target, WIDTH, HEIGHT),
  bake33: () => void bakeLut(line, SCENE, 33),
  slider: () => {
    const recipe = changeSettings(SHIPPED_RECIPES[1]!, 'bath-1', { bleachPrint: 100 * random() })
    runPlan(compileLine(recipe, { size: 21 }), preview, 960, 540, workbench)
  },
})

const row = (name: string, value: string, goal: string): void =>
  console.log(`${name.padEnd(46)} ${value.padStart(22)}   ${goal}`)
row('ffmpeg lut3d tetrahedral, gbrpf32, one thread', `${reference.toFixed(1)} ms`, 'reference')
row('copy of a float frame', `${t['copy']!.toFixed(1)} ms`, 'reference')
row(
  '3D LUT, 33 nodes, SIMD kernel',
  `${t['lut']!.toFixed(1)} ms = ${(t['lut']! / reference).toFixed(2)} x`,
  'must <= 0.75, goal <= 0.45 of lut3d',
)
row(
  'the same behind the shaper of scene light',
  `${t['shaped']!.toFixed(1)} ms = ${(t['shaped']! / reference).toFixed(2)} x`,
  'for comparison',
)
row(
  '3D LUT, plain form',
  `${t['lutPlain']!.toFixed(0)} ms = ${(t['lutPlain']! / reference).toFixed(1)} x`,
  'must <= 3.5, goal <= 2.4 of lut3d',
)
row(
  'blur, sigma 12, three records',
  `${t['blur12']!.toFixed(0)} ms = ${(t['blur12']! / t['copy']!).toFixed(0)} x`,
  'must <= 3, goal <= 1.6 of a copy',
)
row('bake a process, 33 nodes', `${t['bake33']!.toFixed(1)} ms`, 'must <= 20 (60 for now), goal <= 5 ms')
row('slider to picture in core, 960x540, 21 nodes', `${t['slider']!.toFixed(1)} ms`, 'must <= 50, goal <= 16 ms')
