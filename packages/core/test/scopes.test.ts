import { execFileSync } from 'node:child_process'
import { describe, expect, it } from 'vitest'
import { seededRandom } from '../src/numbers'
import { differenceCiede2000 } from 'culori'
import { newBath } from '../src/line'
import { completeMask, type Mask } from '../src/masks'
import {
  areaWithin,
  chromaOf,
  histograms,
  lumaOf,
  parade,
  pictureFigures,
  skinMasked,
  vectorscope,
  waveform,
  withinBorders,
} from '../src/readings'

/** Runs raw frames through a filter of ffmpeg. */
function filtered(bytes: Uint8Array, format: string, size: string, filter: string, out: string): Uint8Array {
  const args = [
    ...['-v', 'error', '-f', 'rawvideo', '-pixel_format', format, '-video_size', size, '-i', 'pipe:0'],
    ...['-vf', filter, '-frames:v', '1', '-f', 'rawvideo', '-pix_fmt', out, 'pipe:1'],
  ]
  return new Uint8Array(execFileSync('ffmpeg', args, { input: bytes, maxBuffer: 1e8 }))
}

const [WIDTH, HEIGHT] = [64, 48]
const random = seededRandom(5)
/** Footage-like: a gradient with noise, so that cells hold from none to many pixels. */
const level = (x: number, y: number, k: number): number =>
  Math.min(255, Math.max(0, Math.round(90 + x + 30 * k + 0.6 * y + 25 * (random() - 0.5))))
const planes = [0, 1, 2].map((k) =>
  Uint8Array.from({ length: WIDTH * HEIGHT }, (_, i) => level(i % WIDTH, Math.floor(i / WIDTH), k)),
)
const rgba = (r: ArrayLike<number>, g: ArrayLike<number>, b: ArrayLike<number>): Float32Array => {
  const out = new Float32Array(4 * r.length)
  for (let i = 0; i < r.length; i++) out.set([r[i]! / 255, g[i]! / 255, b[i]! / 255, 1], 4 * i)
  return out
}
/** One count is one code value: the filter's intensity is a share of 255. */
const WAVEFORM = 'waveform=mode=column:mirror=1:intensity=0.00395:components=1:filter=lowpass'
const waveformOf = (plane: Uint8Array): Uint8Array =>
  filtered(plane, 'gray', `${WIDTH}x${HEIGHT}`, `format=gray,${WAVEFORM}`, 'gray')

describe('scopes against ffmpeg’s on the same picture', () => {
  it('waveform: the same count in every cell', () => {
    const grey = planes[0]!
    const theirs = waveformOf(grey)
    const ours = waveform(rgba(grey, grey, grey), WIDTH, HEIGHT, WIDTH, 256)
    expect(theirs).toHaveLength(WIDTH * 256)
    expect(Array.from(ours.counts)).toEqual(Array.from(theirs))
    expect(Math.max(...theirs)).toBeGreaterThan(2)
  })

  it('parade: the three channels’ waveforms side by side', () => {
    const ours = parade(rgba(planes[0]!, planes[1]!, planes[2]!), WIDTH, HEIGHT, 3 * WIDTH, 256)
    planes.forEach((plane, k) => {
      const theirs = waveformOf(plane)
      for (let row = 0; row < 256; row++)
        for (let x = 0; x < WIDTH; x++)
          expect(ours.counts[row * ours.columns + k * WIDTH + x]).toBe(theirs[row * WIDTH + x])
    })
  })

  it('vectorscope: the same count in every place', () => {
    const n = WIDTH * HEIGHT
    const [cb, cr] = [0, 1].map((k) =>
      Uint8Array.from({ length: n }, (_, i) => Math.round(128 + (k ? -1 : 1) * 30 * Math.sin(i / 400) + 12 * random())),
    ) as [Uint8Array, Uint8Array]
    const luma = new Uint8Array(n).fill(128)
    // BT.709-6 item 3 solved for R, G and B, in full range.
    const y = 128 / 255
    const [u, v] = [cb, cr].map((plane) => Array.from(plane, (c) => (c - 127.5) / 255)) as [number[], number[]]
    const red = v.map((c) => 255 * (y + 1.5748 * c))
    const blue = u.map((c) => 255 * (y + 1.8556 * c))
    const green = u.map((_, i) => (255 * y - 0.2126 * red[i]! - 0.0722 * blue[i]!) / 0.7152)
    const ours = vectorscope(rgba(red, green, blue), n, 256)
    const theirs = filtered(
      Uint8Array.from([...luma, ...cb, ...cr]),
      'yuv444p',
      `${WIDTH}x${HEIGHT}`,
      'vectorscope=mode=gray:x=1:y=2:intensity=0.00395',
      'yuv444p',
    ).subarray(0, 256 * 256)
    for (let row = 0; row < 256; row++)
      for (let column = 0; column < 256; column++)
        expect(ours.counts[row * 256 + column], `${row},${column}`).toBe(theirs[row * 256 + column])
  })

  it('histogram: bars of the same heights', () => {
    const grey = planes[0]!
    const neutral = new Uint8Array(WIDTH * HEIGHT).fill(128)
    const high = 200
    const theirs = filtered(
      Uint8Array.from([...grey, ...neutral, ...neutral]),
      'yuv444p',
      `${WIDTH}x${HEIGHT}`,
      `histogram=level_height=${high}:scale_height=0:components=1`,
      'gray',
    )
    const counts = histograms(rgba(grey, grey, grey), WIDTH * HEIGHT, 256).subarray(3 * 256)
    const most = Math.max(...counts)
    for (let x = 0; x < 256; x++) {
      let bar = 0
      for (let row = 0; row < high; row++) if (theirs[row * 256 + x]! > 100) bar++
      expect(Math.abs(bar - (high * counts[x]!) / most)).toBeLessThanOrEqual(1)
    }
  })

  it('luma and chroma of the primaries are those of BT.709-6', () => {
    const red = rgba([255], [0], [0])
    expect(lumaOf(red, 0)).toBeCloseTo(0.2126, 4)
    expect(chromaOf(red, 0)[1]).toBeCloseTo(0.5, 4)
    expect(chromaOf(rgba([0], [0], [255]), 0)[0]).toBeCloseTo(0.5, 4)
  })
})

describe('readings of a part', () => {
  const whole = rgba(planes[0]!, planes[1]!, planes[2]!)
  const n = WIDTH * HEIGHT
  const inside = (i: number): boolean => (i * 7) % 5 < 2
  const area = Float32Array.from({ length: n }, (_, i) => (inside(i) ? 0.6 : 0.4))
  const parts = Array.from({ length: n }, (_, i) => i).filter(inside)
  const cut = Float32Array.from(parts.flatMap((i) => [...whole.subarray(4 * i, 4 * i + 4)]))

  it('count what counting the cut-out pixels alone gives', () => {
    const plain = (counts: Uint32Array): number[] => Array.from(counts)
    expect(plain(histograms(whole, n, 64, area))).toEqual(plain(histograms(cut, parts.length, 64)))
    expect(plain(vectorscope(whole, n, 32, area).counts)).toEqual(plain(vectorscope(cut, parts.length, 32).counts))
    // In one column the place across does not matter.
    expect(plain(waveform(whole, WIDTH, HEIGHT, 1, 64, area).counts)).toEqual(
      plain(waveform(cut, parts.length, 1, 1, 64).counts),
    )
    expect(plain(parade(whole, WIDTH, HEIGHT, 3, 64, area).counts)).toEqual(
      plain(parade(cut, parts.length, 1, 3, 64).counts),
    )
  })
  it('are shares of that part', () => {
    const grey = Float32Array.from({ length: 4 * n }, () => 0.5)
    const picture = Float32Array.from({ length: 4 * n }, (_, i) => (inside(i >> 2) && (i >> 2) % 2 === 0 ? 0.01 : 0.5))
    const black = parts.filter((i) => i % 2 === 0).length
    expect(pictureFigures(picture, grey, n, area)[0]!.value).toBeCloseTo((100 * black) / parts.length, 9)
    expect(pictureFigures(picture, grey, n)[0]!.value).toBeCloseTo((100 * black) / n, 9)
    expect(pictureFigures(picture, grey, n, new Float32Array(n))[0]!.value).toBe(0)
  })
  it('tells how far the skin of the picture has moved, by its own place alone', () => {
    // Two display colours whose CIEDE2000 an independent library tells.
    const [from, to] = [
      [0.8, 0.6, 0.5],
      [0.7, 0.55, 0.52],
    ] as const
    const skin = Float32Array.from({ length: n }, (_, i) => Number(i % 7 === 3))
    const fill = (there: readonly number[]) =>
      Float32Array.from({ length: 4 * n }, (_, i) => (skin[i >> 2]! ? (there[i % 4] ?? 1) : 0.3))
    const asColor = ([r, g, b]: readonly number[]) => ({ mode: 'lrgb', r: r! ** 2.4, g: g! ** 2.4, b: b! ** 2.4 })
    const figure = pictureFigures(fill(to), fill(from), n, null, skin).find((f) => f.id === 'own-skin')!
    expect(figure.value).toBeCloseTo(differenceCiede2000()(asColor(from), asColor(to)), 2)
    expect(pictureFigures(fill(to), fill(from), n).some((f) => f.id === 'own-skin')).toBe(false)
    expect(pictureFigures(fill(to), fill(from), n, null, new Float32Array(n)).some((f) => f.id === 'own-skin')).toBe(
      false,
    )
  })
  it('leaves out the borders that baths have painted', () => {
    const framed = [newBath('frame', 'a', { ratio: 'square', margin: 50 }), newBath('contrast', 'b')]
    // A square of a picture twice as wide, inside of a card of 50 per mille of the width.
    const edges = withinBorders(framed, 2)!
    expect(edges).toEqual({ left: 0.3, right: 0.7, top: 0.1, bottom: 0.9 })
    expect(withinBorders([{ ...framed[0]!, in: false }, framed[1]!], 2)).toBeNull()
    const area = areaWithin(edges, 20, 10)!
    const columns = Array.from({ length: 20 }, (_, x) => area[5 * 20 + x])
    expect(columns).toEqual(Array.from({ length: 20 }, (_, x) => Number(x >= 6 && x < 14)))
    expect(Array.from({ length: 10 }, (_, y) => area[20 * y + 10])).toEqual([0, 1, 1, 1, 1, 1, 1, 1, 1, 0])
    const half = new Float32Array(200).fill(0.5)
    expect(areaWithin(edges, 20, 10, half)!.reduce((a, b) => a + b)).toBe(0.5 * 64)
    expect(areaWithin(null, 20, 10)).toBeNull()
  })
  it('knows a mask that was picked on skin, of any tone, from one on sky or leaves', () => {
    const masked = (pick: number[]) => {
      const mask = completeMask({ parts: [{ type: 'colour', settings: { picks: [pick] } }] }, 'mask')
      return skinMasked([newBath('contrast', 'a'), { ...newBath('contrast', 'b'), mask: mask as Mask }])
    }
    // Patches of the colour chart (light and dark skin, sky, foliage), CIE L*a*b* from memory.
    expect(masked([66, 18, 18])).toBe('b')
    expect(masked([38, 14, 14])).toBe('b')
    expect(masked([50, -5, -22])).toBeNull()
    expect(masked([43, -13, 22])).toBeNull()
  })
})
