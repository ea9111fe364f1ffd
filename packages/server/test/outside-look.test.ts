import { execFileSync } from 'node:child_process'
import { mkdtempSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { bt709ToLab, ciede2000, displayLight, type Triple, three } from '@fogbath/core/colour'
import { encodingById, lightOfColour } from '@fogbath/core/encodings'
import { plainLine, type Recipe } from '@fogbath/core/line'
import { makeLook, wideColours, withoutNotHeld } from '@fogbath/core/look'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { afterAll, describe, expect, it } from 'vitest'
import { throughOcio } from './ocio'

/** Files of looks, read by OpenColorIO from Debian and compared with the process in double precision. */

const folder = mkdtempSync(join(tmpdir(), 'fogbath-look-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))

const shipped = (id: string): Recipe => withoutNotHeld(SHIPPED_RECIPES.find((r) => r.id === id)!)
const lab = (codes: Triple) => bt709ToLab(codes.map(displayLight) as unknown as Triple)

interface Asked {
  readonly format?: 'clf' | 'cube'
  /** Colours of a picture on which the file is to say how far off it is. */
  readonly frame?: readonly Triple[]
}

/** CIEDE2000 of a file, as OpenColorIO reads it, from the process, and what the file says of itself. */
function apart(recipe: Recipe, takes: string, codes: readonly Triple[], { format = 'clf', frame = [] }: Asked = {}) {
  const { text, errors } = makeLook(recipe, { format, takes, frame })
  const path = join(folder, `${recipe.id}-${takes}.${format}`)
  writeFileSync(path, text)
  const how = format === 'clf' ? 'BEST' : 'TETRAHEDRAL'
  const read = throughOcio(`t = o.FileTransform('${path}', interpolation=o.INTERP_${how})`, codes)
  const encoding = encodingById(takes)
  const line = plainLine(recipe, undefined, encoding.refers)
  const out = three()
  const off = codes
    .map((c, i) => {
      const taken = takes === 'bt1886' ? c : lightOfColour(encoding, c)
      line(...taken, out)
      return ciede2000(lab([out[0]!, out[1]!, out[2]!]), lab(read[i]!))
    })
    .sort((a, b) => a - b)
  return {
    mean: off.reduce((a, b) => a + b) / off.length,
    most: off[Math.floor(0.99 * (off.length - 1))]!,
    told: errors!,
  }
}

describe('a .clf', () => {
  it.each([
    ['plain', 'bt1886'],
    ['two-strip', 'bt1886'],
    ['sepia', 'bt1886'],
    // Laid on each other in another mode: a grid of its own.
    ['bypass-added', 'bt1886'],
    ['infrared', 'bt1886'],
    // Wide colours of camera light lie far outside of what a screen shows.
    ['three-strip', 'acescct', 2],
    ['plain', 'linear', 2],
  ])(
    'of %s for %s does in OpenColorIO what the process does, and is as far off as it says',
    (id, takes, limit = 0.8) => {
      const { mean, most, told } = apart(shipped(id), takes, wideColours(encodingById(takes)))
      expect(mean).toBeLessThan(limit / 8)
      expect(most).toBeLessThan(limit)
      expect(Math.abs(mean - told.wide.mean)).toBeLessThan(0.02)
    },
  )
})

/** Numbers of one frame of a demo clip at a width, every so many pixels. */
function coloursOf(clip: string, width: number, every: number): Triple[] {
  const path = join(import.meta.dirname, '../../../demo/footage', clip)
  const how = ['-v', 'error', '-ss', '1', '-i', path, '-frames:v', '1']
  const size = ['-vf', `scale=${width}:-2:flags=area`, '-pix_fmt', 'rgb48le', '-f', 'rawvideo', '-']
  const bytes = execFileSync('ffmpeg', [...how, ...size], { maxBuffer: 1e8 })
  const numbers = new Uint16Array(bytes.buffer.slice(bytes.byteOffset, bytes.byteOffset + bytes.byteLength))
  return Array.from({ length: Math.floor(numbers.length / 3 / every) }, (_, i): Triple => {
    const at = 3 * i * every
    return [numbers[at]! / 65535, numbers[at + 1]! / 65535, numbers[at + 2]! / 65535]
  })
}

describe('what a file says of a picture', () => {
  it.each([
    ['keeper-and-apprentice.mp4', 'bt1886'],
    ['lock-gate-acescct.mp4', 'acescct'],
  ])('is within a third of what is measured on the whole of it: %s', (clip, takes) => {
    // The page says it of a small picture.
    const frame = coloursOf(clip, 320, 1)
    const codes = coloursOf(clip, 1280, 97)
    for (const id of ['two-strip', 'infrared'])
      for (const format of ['clf', 'cube'] as const) {
        const { mean, most, told } = apart(shipped(id), takes, codes, { format, frame })
        expect(told.frame!.mean / mean, `${id} ${format}, mean ${mean}`).toBeGreaterThan(2 / 3)
        expect(told.frame!.mean / mean, `${id} ${format}, mean ${mean}`).toBeLessThan(4 / 3)
        expect(told.frame!.most / most, `${id} ${format}, 99th percentile ${most}`).toBeGreaterThan(2 / 3)
        expect(told.frame!.most / most, `${id} ${format}, 99th percentile ${most}`).toBeLessThan(4 / 3)
      }
  })
})
