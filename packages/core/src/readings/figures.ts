import { PATCHES } from '../charts/charts'
import { ciede2000 } from '../colour/difference'
import { bt709ToLab, hue } from '../colour/lab'
import type { Triple } from '../colour/matrix'
import { luminance } from '../colour/spaces'
import { displayLight } from '../colour/transfer'
import type { PointFunction } from '../stages/stage'
import { lumaOf, type Area } from './scopes'

/** A reading in words: what it is, its value, and advice when it has gone too far. */
export interface Figure {
  readonly id: 'grey' | 'black' | 'white' | 'shadows' | 'highlights' | 'skin' | 'skin-hue'
  readonly label: string
  readonly value: number
  readonly text: string
  readonly advice: string | null
}

function colourOf(point: PointFunction, light: Triple): Triple {
  const out = new Float64Array(3)
  point(light[0], light[1], light[2], out)
  return [displayLight(out[0]!), displayLight(out[1]!), displayLight(out[2]!)]
}

/** Distance from the neutral of the same lightness, dE2000. */
function tintOf(c: Triple): number {
  const lab = bt709ToLab(c)
  return ciede2000([lab[0], 0, 0], lab)
}

/** What rounds to nothing has no minus. */
const signed = (v: number, digits: number): string =>
  `${Number(v.toFixed(digits)) < 0 ? '−' : '+'}${Math.abs(v).toFixed(digits)}`

/**
 * Figures of the line itself: what it does to mid grey, black, white and skin. Thresholds are common practice.
 * @param masked some bath works only under a mask; the figures tell what it does there
 */
export function lineFigures(whole: PointFunction, footage: PointFunction, masked = false): Figure[] {
  const grey = Math.log2(
    Math.max(1e-6, luminance(colourOf(whole, [0.18, 0.18, 0.18]))) / luminance(colourOf(footage, [0.18, 0.18, 0.18])),
  )
  const black = tintOf(colourOf(whole, [0.003, 0.003, 0.003]))
  const white = tintOf(colourOf(whole, [3.2, 3.2, 3.2]))
  const skins = PATCHES.filter((p) => p.skin).map(
    (p) => [bt709ToLab(colourOf(footage, p.light)), bt709ToLab(colourOf(whole, p.light))] as const,
  )
  const skin = skins.reduce((sum, [a, b]) => sum + ciede2000(a, b), 0) / skins.length
  const turn = skins.reduce((sum, [a, b]) => sum + wrap(hue(b) - hue(a)), 0) / skins.length
  const figure = (
    id: Figure['id'],
    label: string,
    value: number,
    text: string,
    limit: number,
    advice: string,
  ): Figure => ({
    ...{ id, label, value, text },
    advice: Math.abs(value) > limit ? advice : null,
  })
  return [
    figure(
      'grey',
      'Mid grey moved',
      grey,
      `${signed(grey, 2)} stop`,
      0.25,
      'Mid grey has moved; hold mid grey or trim the exposure.',
    ),
    figure(
      'black',
      'Tint of black',
      black,
      `${black.toFixed(1)} dE`,
      2,
      'Black is tinted; balance the shadows unless it is meant.',
    ),
    figure(
      'white',
      'Tint of white',
      white,
      `${white.toFixed(1)} dE`,
      4,
      'White is tinted; by the base, or by the printer lights.',
    ),
    figure(
      'skin',
      'Skin moved',
      skin,
      `${skin.toFixed(1)} dE`,
      12,
      masked
        ? 'Skin goes far under the mask; see that it spares faces.'
        : 'Skin has gone far; dial the line back, or use a mask.',
    ),
    figure(
      'skin-hue',
      'Skin hue turned',
      turn,
      `${signed(turn, 0)}°`,
      18,
      'Skin has changed its hue; look at the faces before going on.',
    ),
  ]
}

const wrap = (degrees: number): number => ((((degrees + 180) % 360) + 360) % 360) - 180

/**
 * Shares of the picture that lost their detail: nearly black where the footage was not, and nearly white likewise.
 * @param picture,footage RGBA code values of the same pixels @param area the part that is read, or null for all
 */
export function pictureFigures(picture: Float32Array, footage: Float32Array, n: number, area: Area = null): Figure[] {
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
  return [
    share('shadows', 'Shadows squeezed', shadows, 'Shadow detail is lost; flash, pull, or keep less silver.'),
    share('highlights', 'Highlights clipped', highlights, 'Highlights are burnt out; flash the print or expose less.'),
  ]
}
