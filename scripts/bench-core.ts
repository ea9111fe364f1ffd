// The part of npm run bench that times core: medians, each beside a reference measured in the same run, interleaved with it.
import { execFileSync } from 'node:child_process'
import { existsSync, writeFileSync } from 'node:fs'
import { Worker } from 'node:worker_threads'
import { kindById } from '@fogbath/core/baths'
import { Pictures, kernelMemory, threadCount, useThreads, type Picture } from '@fogbath/core/cpu'
import { changeSettings, compileLine, compileScene, newBath, type Recipe, type Refers } from '@fogbath/core/line'
import { seededRandom } from '@fogbath/core/numbers'
import { PlanRunner, type Plan } from '@fogbath/core/plan'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { type Grain, type PointStage } from '@fogbath/core/stages'
import { blurRecords } from '../packages/core/src/cpu/blur'
import { grainStep } from '../packages/core/src/cpu/grain'
import { runAlone, runSteps } from '../packages/core/src/cpu/program'
import { figure, median } from './lib/figures.mjs'

const [WIDTH, HEIGHT, ROUNDS] = [1920, 1080, 7]
const N = WIDTH * HEIGHT

const since = (start: number): number => performance.now() - start

/** Times several pieces of work in turn, so that all meet the same machine; each three times a round. */
function race(works: Record<string, () => number>): Record<string, number> {
  const times: Record<string, number[]> = Object.fromEntries(Object.keys(works).map((k) => [k, []]))
  for (let round = 0; round < ROUNDS; round++)
    for (const [name, work] of Object.entries(works))
      for (let i = 0; i < (name === 'lut3d' ? 1 : 3); i++) {
        const time = work()
        if (round > 0) times[name]!.push(time)
      }
  return Object.fromEntries(Object.entries(times).map(([k, v]) => [k, median(v)]))
}

const timed = (work: () => void) => (): number => {
  const start = performance.now()
  work()
  return since(start)
}

const CUBE = '/tmp/fogbath-bench.cube'
/** ffmpeg's lut3d alone: a run of many frames less a run of few, over their difference. */
function lut3d(): number {
  if (!existsSync(CUBE)) {
    const axis = Array.from({ length: 33 }, (_, i) => i / 32)
    const rows = axis.flatMap((b) => axis.flatMap((g) => axis.map((r) => `${r} ${g} ${b}`)))
    writeFileSync(CUBE, `LUT_3D_SIZE 33\n${rows.join('\n')}\n`)
  }
  const run = (filter: string, frames: number): number => {
    const start = performance.now()
    const source = `-f lavfi -i testsrc2=s=${WIDTH}x${HEIGHT} -vf format=gbrpf32le${filter} -frames:v ${frames} -f null -`
    execFileSync('ffmpeg', ['-v', 'error', '-threads', '1', '-filter_threads', '1', ...source.split(' ')])
    return since(start)
  }
  const filter = `,lut3d=file=${CUBE}:interp=tetrahedral`
  return (run(filter, 12) - run(filter, 2) - (run('', 12) - run('', 2))) / 10
}

const random = seededRandom(1)
const pictures = new Pictures()
/** Code values of a frame of the demo. A solid's speed depends on how near neighbours lie, and on how strong colours are. */
function frameOf(clip: string, width: number, height: number): Float32Array {
  const source = `-i demo/footage/${clip}.mp4 -frames:v 1 -vf scale=${width}:${height},format=gbrpf32le -f rawvideo -`
  const raw = execFileSync('ffmpeg', ['-v', 'error', ...source.split(' ')], { maxBuffer: 1e9 })
  const planes = new Float32Array(raw.buffer.slice(raw.byteOffset, raw.byteOffset + raw.length))
  const n = width * height
  // G, B, R one after the other.
  return Float32Array.from({ length: 4 * n }, (_, i) => ((i & 3) === 3 ? 1 : planes[[2, 0, 1][i & 3]! * n + (i >> 2)]!))
}
const codes = pictures.copy('codes', frameOf('keeper-and-apprentice', WIDTH, HEIGHT))
const preview = pictures.copy('preview', frameOf('keeper-and-apprentice', 960, 540))
const strong = pictures.copy('strong', frameOf('regatta-bunting', WIDTH, HEIGHT))
/** Scene light: of the preview the page keeps it while a frame rests under a slider. */
const lightOf = (name: string, of: Picture, width: number, height: number): Picture =>
  pictures.copy(name, new PlanRunner().run(compileScene('display'), of, width, height).pixels)
const camera = lightOf('camera', codes, WIDTH, HEIGHT)
const strongLight = lightOf('strong light', strong, WIDTH, HEIGHT)
const previewLight = lightOf('preview light', preview, 960, 540)
const other = pictures.take('other', N)
const target = new Float32Array(4 * N)
const runner = new PlanRunner()
const small = new PlanRunner()
const shipped = (id: string): Recipe => SHIPPED_RECIPES.find((r) => r.id === id)!

/** A process and six Finish baths, each doing something. */
const FINISH = ['contrast', 'curves', 'ranges', 'saturation', 'mixer', 'split-by-hand']
const finishBaths = FINISH.map((kind) => newBath(kind, kind, kindById(kind).sample))
const withFinish = compileLine({ ...shipped('plain'), baths: [...shipped('plain').baths, ...finishBaths] })

/** The solid of the plain print alone, between loading and storing. */
const stages = compileLine(shipped('plain')).ops.flatMap((op) =>
  op.op === 'run' ? op.steps.flatMap((s) => (s.do === 'stage' ? [s.stage] : [])) : [],
)
const solid = stages.find((s): s is Extract<PointStage, { at: 'solid' }> => s.at === 'solid')!
const own = { register: 'own' } as const
const solidAlone = (): void =>
  runSteps(
    [
      { do: 'load', address: camera.at, ...own },
      { do: 'stage', stage: solid },
      { do: 'store', address: other.at, ...own },
    ],
    N,
  )

const bath = 'bath-1'
/** From a changed setting to a plan that is laid out: the picture is of one pixel. */
const one = pictures.take('one', 1)
const single = new PlanRunner()
const ready = (change: () => object) =>
  timed(() => {
    single.run(
      compileLine(changeSettings(shipped('bleach-bypass'), bath, change() as Recipe['baths'][number]['settings'])),
      one,
      1,
      1,
    )
  })
const anywhere = (low: number, high: number): number => low + (high - low) * random()

const GRAIN: Grain = {
  rms: 6,
  gauge: 22_000,
  clump: 4,
  colour: 0.3,
  seed: 1,
  clear: [0, 0, 0],
  silver: [0, 0, 0],
}
let frame = 0
const lineOf = (...baths: Parameters<typeof newBath>[]): Recipe => ({
  ...shipped('plain'),
  baths: baths.map(([kind, , settings], i) => newBath(kind, `bath-${i}`, settings)),
})
const PRINT = ['colour-print', '', {}] as const
const GLOW = ['glow', '', { radius: 6.25 }] as const
const [withoutGlow, withGlow, textured] = [
  lineOf([...PRINT]),
  lineOf([...PRINT], [...GLOW]),
  lineOf(['colour-print', '', { grain: 6 }], [...GLOW], ['vignette', '', {}]),
].map((recipe) => compileLine(recipe)) as [Plan, Plan, Plan]

const whole = (id: string, picture = camera, refers: Refers = 'scene') => {
  const plan = compileLine(shipped(id), { refers })
  return timed(() => void runner.run(plan, picture, WIDTH, HEIGHT))
}
const works = {
  copy: timed(() => void target.set(camera.pixels)),
  print: whole('plain'),
  // Display footage is unprinted first.
  displayed: whole('plain', codes, 'display'),
  strong: whole('plain', strongLight),
  solid: timed(solidAlone),
  toned: whole('sepia'),
  finish: timed(() => void runner.run(withFinish, camera, WIDTH, HEIGHT)),
  'three-strip': whole('three-strip'),
  instant: whole('instant'),
  blur12: timed(() => blurRecords([6.25, 6.25, 6.25], other.at, WIDTH, HEIGHT)),
  blur60: timed(() => blurRecords([31.25, 31.25, 31.25], other.at, WIDTH, HEIGHT)),
  grain: timed(() => runAlone(grainStep(GRAIN, WIDTH, frame++), other.at, N)),
  glow12: timed(() => void runner.run(withGlow, camera, WIDTH, HEIGHT)),
  untextured: timed(() => void runner.run(withoutGlow, camera, WIDTH, HEIGHT)),
  textured: timed(() => void runner.run(textured, camera, WIDTH, HEIGHT, { frame: frame++ })),
  light: ready(() => ({ lightRed: anywhere(0, 50) })),
  push: ready(() => ({ push: anywhere(-2, 3) })),
  bleachNegative: ready(() => ({ bleachNegative: anywhere(0, 100) })),
  bleachPrint: ready(() => ({ bleachPrint: anywhere(0, 100) })),
  slider: timed(() => {
    const recipe = changeSettings(shipped('bleach-bypass'), bath, { bleachPrint: anywhere(0, 100) })
    small.run(compileLine(recipe, { refers: 'display', given: true }), preview, 960, 540, { scene: previewLight })
  }),
}

/** Helpers that share the work, as the render starts them. */
async function withHelpers(threads: number): Promise<() => Promise<unknown>> {
  const file = new URL('../packages/server/dist/helper-thread.js', import.meta.url)
  const workers = Array.from(
    { length: threads - 1 },
    (_, i) => new Worker(file, { workerData: { memory: kernelMemory().memory, thread: i + 1 } }),
  )
  await Promise.all(workers.map((w) => new Promise((resolve) => w.once('online', resolve))))
  useThreads(threads)
  return async () => {
    useThreads(1)
    await Promise.all(workers.map((w) => w.terminate()))
  }
}

function report(t: Record<string, number>, suffix: string): void {
  const [lut, copy] = [t['lut3d']!, t['copy']!]
  const against = (name: string, work: string, bounds?: [must: number, goal: number]): void =>
    figure(`${name}${suffix}`, t[work]! / lut, 'x', bounds ? { must: bounds[0], goal: bounds[1] } : null)
  figure(`reference: ffmpeg lut3d, one thread${suffix}`, lut, 'ms')
  figure(`reference: copy of a frame${suffix}`, copy, 'ms')
  against('colour print, whole bath, of lut3d', 'print', [1, 0.6])
  against('the same with display footage, of lut3d', 'displayed')
  against('the same with strong colours all over, of lut3d', 'strong')
  against('solid of 49 nodes alone, of lut3d', 'solid', [0.6, 0.45])
  against('toned black and white, of lut3d', 'toned', [0.4, 0.2])
  against('process and six Finish baths, of lut3d', 'finish', [2, 1.2])
  against('three-strip with bleed, of lut3d', 'three-strip')
  against('instant film with all its steps, of lut3d', 'instant')
  for (const sigma of [12, 60])
    figure(`blur, sigma ${sigma}, of a copy${suffix}`, t[`blur${sigma}`]! / copy, 'x', { must: 3, goal: 1.6 })
  figure(`grain applied, of a copy${suffix}`, t['grain']! / copy, 'x', { must: 4, goal: 2 })
  const glow = Math.max(0, t['glow12']! - t['untextured']!)
  figure(`glow, sigma 12, of a copy${suffix}`, glow / copy, 'x', { must: 4, goal: 2 })
  figure(
    `process, grain, glow, vignette${suffix}`,
    1000 / t['textured']!,
    'frames/s',
    threadCount() > 1 ? { must: 12, goal: 24, least: true } : null,
  )
  const curve = { must: 3, goal: 0.5 }
  figure(`printer light changed, ready${suffix}`, t['light']!, 'ms', curve)
  figure(`push changed, ready${suffix}`, t['push']!, 'ms', curve)
  figure(`bleach of the negative changed, ready${suffix}`, t['bleachNegative']!, 'ms', curve)
  figure(`bleach of the print changed (a solid), ready${suffix}`, t['bleachPrint']!, 'ms', { must: 20, goal: 5 })
  figure(`slider to picture in core, 960x540${suffix}`, t['slider']!, 'ms')
}

report(race({ lut3d, ...works }), '')
const end = await withHelpers(2)
report(race({ lut3d, ...works }), `, ${threadCount()} threads`)
await end()
