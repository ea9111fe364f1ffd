import { join } from 'node:path'
import { Worker } from 'node:worker_threads'
import { buildSync } from 'esbuild'
import { afterEach, describe, expect, it } from 'vitest'
import { encodingById } from '../src/encodings'
import { emit16, emit8, kernelMemory, makeIngest, helpersSeen, Pictures, useThreads } from '../src/cpu'
import { seededRandom } from '../src/numbers'
import { instantiate } from '../src/cpu/wasm'
import { lineOf, shipped, treated } from './helpers'
import { maskOf, part } from './mask-helpers'

const [WIDTH, HEIGHT] = [403, 301]
const N = WIDTH * HEIGHT
const random = seededRandom(77)
const light = Float32Array.from({ length: 4 * N }, (_, i) => ((i & 3) === 3 ? 1 : 0.6 * random() ** 2))

let helpers: Worker[] = []
/** A thread cannot begin with a TypeScript file, so it is bundled first. */
const BEGIN = buildSync({
  entryPoints: [join(import.meta.dirname, 'helper-thread.ts')],
  bundle: true,
  write: false,
  platform: 'node',
  format: 'cjs',
  target: 'node20',
}).outputFiles[0]!.text

async function helped(threads: number): Promise<void> {
  const before = helpersSeen()
  helpers = Array.from(
    { length: threads - 1 },
    (_, i) => new Worker(BEGIN, { eval: true, workerData: { memory: kernelMemory().memory, thread: i + 1 } }),
  )
  await expect.poll(() => helpersSeen(), { timeout: 90_000 }).toBe(before + threads - 1)
  useThreads(threads)
}
afterEach(async () => {
  useThreads(1)
  await Promise.all(helpers.map((w) => w.terminate()))
})

const masked = lineOf(
  'colour-print',
  { bleachPrint: 0 },
  {
    mask: maskOf([part('tone', { from: 30, soft: 20 }), part('ellipse')], { soften: 6 }),
  },
)
const LINES = [
  shipped('plain'),
  shipped('three-strip-misregistered'),
  shipped('instant'),
  shipped('split-tone'),
  shipped('silver-grit'),
  shipped('dream-glow'),
  shipped('silent-era'),
  masked,
]

describe('any number of threads', () => {
  it('makes the same picture, bit by bit, with every kind of step', async () => {
    const alone = LINES.map((line) => treated(line, light, WIDTH, HEIGHT))
    for (const threads of [2, 3]) {
      await helped(threads)
      // Several rounds: the helpers come in whenever they are ready.
      for (let round = 0; round < 4; round++)
        LINES.forEach((line, i) => {
          const shared = treated(line, light, WIDTH, HEIGHT)
          expect(Buffer.from(shared.buffer).equals(Buffer.from(alone[i]!.buffer)), `${threads} ${line.id}`).toBe(true)
        })
      useThreads(1)
      await Promise.all(helpers.map((w) => w.terminate()))
    }
  })
  it('reads and writes the same frames', async () => {
    const pictures = new Pictures()
    const codes = Uint16Array.from({ length: 3 * N }, () => 65535 * random())
    const frames = () => {
      const picture = pictures.take('frame', N)
      makeIngest(encodingById('bt2020'), 'u16')(codes, picture)
      const [bytes, words] = [new Uint8ClampedArray(4 * N), new Uint16Array(3 * N)]
      emit8(picture, bytes, 3)
      emit16(picture, words, 10, 3)
      return [picture.pixels, bytes, words].map((a) =>
        Buffer.from(a.buffer, a.byteOffset, a.byteLength).toString('latin1'),
      )
    }
    const alone = frames()
    await helped(3)
    for (let round = 0; round < 3; round++) expect(frames().map((f, i) => f === alone[i])).toEqual([true, true, true])
  })
})

describe('a memory that cannot be shared', () => {
  it('runs the same kernels', () => {
    const memory = new WebAssembly.Memory({ initial: 4, maximum: 65536 })
    const { tile } = instantiate(memory as never)
    // A job that copies one pixel through the registers: load, store, end.
    const words = new Uint32Array(memory.buffer)
    const at = (address: number) => address / 4
    words.set([1, 1, 256, 8192], at(4096))
    words.set([1, 16, 12288, 0, 2, 16, 16384, 0, 0], at(8192))
    new Float32Array(memory.buffer).set([0.25, 0.5, 0.75, 0], at(12288))
    tile(4096, 0, 32768)
    expect([...new Float32Array(memory.buffer, 16384, 4)]).toEqual([0.25, 0.5, 0.75, 1])
  })
})
