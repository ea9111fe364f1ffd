import { PATCHES } from '../charts/charts'
import { ciede2000 } from '../colour/difference'
import { bt709ToLab, hue } from '../colour/lab'
import { type Triple, three } from '../colour/matrix'
import { luminance } from '../colour/spaces'
import { displayLight } from '../colour/transfer'
import type { PointFunction } from '../stages/stage'
import { lumaOf, type Area } from './scopes'

/** A reading in words: what it is, its value, and advice when it has gone too far. */
export interface Figure {
  readonly id: 'grey' | 'black' | 'white' | 'shadows' | 'highlights' | 'skin' | 'skin-hue' | 'own-skin'
  readonly label: string
  readonly value: number
  readonly text: string
  readonly advice: string | null
}

function colourOf(point: PointFunction, light: Triple): Triple {
  const out = three()
  point(light[0], light[1], light[2], out)
  return [displayLight(out[0]), displayLight(out[1]), displayLight(out[2])]
}

/** Distance from the neutral of the same lightness, dE2000. */
function tintOf(c: Triple): number {
  const lab = bt709ToLab(c)
  return ciede2000([lab[0], 0, 0], lab)
}

/** What rounds to nothing has no minus. */
const signed = (v: number, digits: number): string =>
  `${Number(v.toFixed(digits)) < 0 ? '−' : '+'}${Math.abs(v).toFixed(digits)}`

/** How the figures of a line are said, how far each may go, and what to do beyond. Thresholds are common practice. */
const LINE_FIGURES = {
  grey: {
    label: 'Mid grey moved',
    say: (v) => `${signed(v, 2)} stop`,
    limit: 0.25,
    advice: 'Mid grey has moved; hold mid grey or trim the exposure.',
  },
  black: {
    label: 'Tint of black',
    say: (v) => `${v.toFixed(1)} dE`,
    limit: 2,
    advice: 'Black is tinted; balance the shadows unless it is meant.',
  },
  white: {
    label: 'Tint of white',
    say: (v) => `${v.toFixed(1)} dE`,
    limit: 4,
    advice: 'White is tinted; by the base, or by the printer lights.',
  },
  skin: {
    label: 'Skin patch moved',
    say: (v) => `${v.toFixed(1)} dE`,
    limit: 12,
    advice: 'The skin patch has gone far; dial the line back, or use a mask.',
    masked: 'The skin patch goes far under the mask; see that it spares faces.',
  },
  'skin-hue': {
    label: 'Skin patch turned',
    say: (v) => `${signed(v, 0)}°`,
    limit: 18,
    advice: 'The skin patch has changed its hue; look at the faces before going on.',
  },
} satisfies Partial<Record<Figure['id'], LineFigure>>

interface LineFigure {
  readonly label: string
  readonly say: (value: number) => string
  readonly limit: number
  readonly advice: string
  /** Advice where the line works under a mask. */
  readonly masked?: string
}

/** What the line does to mid grey (stops), black, white and skin (dE2000), and to skin's hue (degrees). */
function lineValues(whole: PointFunction, footage: PointFunction): Record<keyof typeof LINE_FIGURES, number> {
  const greyBy = (point: PointFunction): number => luminance(colourOf(point, [0.18, 0.18, 0.18]))
  const skins = PATCHES.filter((p) => p.skin).map(
    (p) => [bt709ToLab(colourOf(footage, p.light)), bt709ToLab(colourOf(whole, p.light))] as const,
  )
  return {
    grey: Math.log2(Math.max(1e-6, greyBy(whole)) / greyBy(footage)),
    black: tintOf(colourOf(whole, [0.003, 0.003, 0.003])),
    white: tintOf(colourOf(whole, [3.2, 3.2, 3.2])),
    skin: skins.reduce((sum, [a, b]) => sum + ciede2000(a, b), 0) / skins.length,
    'skin-hue': skins.reduce((sum, [a, b]) => sum + wrap(hue(b) - hue(a)), 0) / skins.length,
  }
}

/**
 * Figures of the line itself: what it does to mid grey, black, white and skin.
 * @param masked some bath works only under a mask; the figures tell what it does there
 */
export function lineFigures(whole: PointFunction, footage: PointFunction, masked = false): Figure[] {
  const values = lineValues(whole, footage)
  return (Object.keys(LINE_FIGURES) as (keyof typeof LINE_FIGURES)[]).map((id) => {
    const { label, say, limit, advice, masked: underMask }: LineFigure = LINE_FIGURES[id]
    const value = values[id]
    const said = masked && underMask ? underMask : advice
    return { id, label, value, text: say(value), advice: Math.abs(value) > limit ? said : null }
  })
}

const wrap = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180

/** As many pixels of skin are measured at most: a mean of more says the same. */
const MOST_SKIN = 4000

/** How far the picture's own skin has moved, a mean of dE2000; null where there is none. */
function ownSkin(picture: Float32Array, footage: Float32Array, skin: Float32Array): number | null {
  const all: number[] = []
  for (let i = 0; i < skin.length; i++) if (skin[i]! >= 0.5) all.push(4 * i)
  const labAt = (pixels: Float32Array, at: number): Triple =>
    bt709ToLab([displayLight(pixels[at]!), displayLight(pixels[at + 1]!), displayLight(pixels[at + 2]!)])
  const step = Math.max(1, Math.ceil(all.length / MOST_SKIN))
  const read = all.filter((_, i) => i % step === 0)
  const sum = read.reduce((total, at) => total + ciede2000(labAt(footage, at), labAt(picture, at)), 0)
  return read.length === 0 ? null : sum / read.length
}

/**
 * Shares of the picture that lost their detail: nearly black where the footage was not, and nearly white likewise; and what
 * became of its skin, where it is known where that is.
 * @param picture,footage RGBA code values (BT.1886) of the same pixels @param area the part that is read, or null for all
 * @param skin where skin is, or null
 */
export function pictureFigures(
  picture: Float32Array,
  footage: Float32Array,
  n: number,
  area: Area = null,
  skin: Area = null,
): Figure[] {
  let shadows = 0
  let highlights = 0
  let read = 0
  for (let i = 0; i < 4 * n; i += 4) {
    if (area && area[i >> 2]! < 0.5) continue
    read++
    const now = lumaOf(picture, i)
    if (now < 0.03 && lumaOf(footage, i) >= 0.05) shadows++
    else if (now > 0.985 && lumaOf(footage, i) <= 0.97) highlights++
  }
  const share = (id: Figure['id'], label: string, count: number, advice: string): Figure => {
    const value = (100 * count) / Math.max(1, read)
    return { id, label, value, text: `${value.toFixed(1)} %`, advice: value > 3 ? advice : null }
  }
  const moved = skin && ownSkin(picture, footage, skin)
  const { say, limit } = LINE_FIGURES.skin
  const own: Figure[] =
    moved === null
      ? []
      : [
          {
            id: 'own-skin',
            label: 'Skin here moved',
            value: moved,
            text: say(moved),
            advice: moved > limit ? 'The skin of this picture has gone far; dial the line back, or use a mask.' : null,
          },
        ]
  return [
    ...own,
    share('shadows', 'Shadows squeezed', shadows, 'Shadow detail is lost; flash, pull, or keep less silver.'),
    share('highlights', 'Highlights clipped', highlights, 'Highlights are burnt out; flash the print or expose less.'),
  ]
}
