import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { NOTHING_AROUND } from '@fogbath/core/line'
import { makeLook } from '@fogbath/core/look'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Treatment } from '@fogbath/core/treat'
import { afterAll, expect, it } from 'vitest'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-cube-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const [WIDTH, HEIGHT] = [320, 180]
const CODES = `zscale=w=${WIDTH}:h=${HEIGHT}:matrixin=709:rangein=limited:matrix=gbr:range=full:dither=none,format=gbrp16le`

/** A frame of a demo clip as 16-bit codes, through a filter. */
function frame(clip: string, ...filters: string[]): Uint16Array {
  const path = join(import.meta.dirname, '../../../demo/footage', `${clip}.mp4`)
  const input = ['-v', 'error', '-ss', '0.8', '-i', path, '-frames:v', '1', '-vf', [CODES, ...filters].join(',')]
  const bytes = execFileSync('ffmpeg', [...input, '-f', 'rawvideo', '-pix_fmt', 'rgb48le', '-'], { maxBuffer: 1e9 })
  return new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.length))
}

/** The .cube of a recipe, read by ffmpeg, against the process: code values of 8 bits, 99th percentile. */
function apart(id: string, clip: string, shaped: boolean): number {
  const shipped = SHIPPED_RECIPES.find((r) => r.id === id)!
  // A .cube holds no grain.
  const baths = shipped.baths.map((b) => ({
    ...b,
    settings: { ...b.settings, ...('grain' in b.settings && { grain: 0 }) },
  }))
  const recipe = { ...shipped, baths }
  const [cube, first] = [join(folder, `${id}.cube`), join(folder, `${id}-shaper.cube`)]
  const { text, shaper } = makeLook(recipe, { format: 'cube', shaper: shaped })
  writeFileSync(cube, text)
  if (shaper) writeFileSync(first, shaper)
  const filters = [...(shaper ? [`lut1d=file=${first}`] : []), `lut3d=file=${cube}:interp=tetrahedral`]
  const back = 'zscale=matrixin=gbr:matrix=gbr:rangein=full:range=full:dither=none,format=gbrp16le'
  const looked = frame(clip, 'format=gbrpf32le', ...filters, 'format=gbrpf32le', back)
  const { pixels } = new Treatment().run(
    { data: frame(clip), format: 'u16', width: WIDTH, height: HEIGHT, frame: 0 },
    { recipe, ...NOTHING_AROUND, encoding: 'bt1886' },
  )
  const differences = Array.from(looked, (v, i) =>
    Math.abs((255 * v) / 65535 - 255 * pixels[4 * Math.floor(i / 3) + (i % 3)]!),
  ).sort((a, b) => a - b)
  return differences[Math.floor(0.99 * differences.length)]!
}

it.each([
  ['plain', 'keeper-and-apprentice'],
  ['two-strip', 'keeper-and-apprentice'],
  ['sepia', 'keeper-and-apprentice'],
  ['bleach-bypass', 'dawn-fog'],
  ['bleach-bypass', 'keeper-and-apprentice'],
  ['bleach-bypass', 'regatta-bunting'],
  ['three-strip', 'keeper-and-apprentice'],
  ['three-strip', 'regatta-bunting'],
  ['faded', 'keeper-and-apprentice'],
  ['day-for-night', 'dawn-fog'],
  ['day-for-night', 'keeper-and-apprentice'],
  ['infrared', 'dawn-fog'],
  ['infrared', 'keeper-and-apprentice'],
  ['infrared', 'regatta-bunting'],
])('a .cube of %s is within a code of the process on %s', (id, clip) => {
  expect(apart(id, clip, false)).toBeLessThan(1)
})

// Saturated cloth in the sun: the hardest of the demo's pictures.
it.each(['bleach-bypass', 'sepia', 'litho-warm', 'tint-amber', 'bypass-added', 'night-by-hand', 'three-strip'])(
  'behind its shaper a .cube of %s is within a code of the process on flags too',
  (id) => {
    expect(apart(id, 'regatta-bunting', true)).toBeLessThan(1)
  },
)
