import { encodingOf, greyNumber, type EncodingRef } from '@fogbath/core/encodings'
import { chromaOf, histograms, parade, vectorscope, waveform, type Area } from '@fogbath/core/readings'
import type { Still } from './compare'
import type { ScopeKind } from './protocol'

type Pen = OffscreenCanvasRenderingContext2D

/** Code value of 18 % grey in an encoding, the line that is drawn through waveform and parade. */
const codeOfGrey = (encoding: EncodingRef): number => greyNumber(encodingOf(encoding), 0.18)

/** A scope of a picture. */
interface Scope {
  readonly kind: ScopeKind
  readonly picture: Still
  readonly shownIn: EncodingRef
  /** Code value of the footage's own grey card, or null. */
  readonly greyCode: number | null
  /** Drawn first and fainter: what the picture is held against. */
  readonly ghost: Still | null
  /** The part that is read. */
  readonly area: Area
}

/** Between scopes that stand side by side, pixels. */
const BETWEEN = 6
/** Draws scopes side by side, each as wide as the others. */
export function drawScopes(pen: Pen, scopes: readonly Scope[]): void {
  const { canvas } = pen
  const width = Math.floor((canvas.width - BETWEEN * (scopes.length - 1)) / scopes.length)
  pen.clearRect(0, 0, canvas.width, canvas.height)
  for (const [i, scope] of scopes.entries()) {
    const own = new OffscreenCanvas(width, canvas.height)
    drawScope(own.getContext('2d')!, scope)
    pen.drawImage(own, i * (width + BETWEEN), 0)
  }
}

export function drawScope(pen: Pen, { kind, picture, shownIn, greyCode, ghost, area }: Scope): void {
  const { canvas } = pen
  pen.fillStyle = '#141414'
  pen.fillRect(0, 0, canvas.width, canvas.height)
  if (kind === 'histogram') return drawHistogram(pen, canvas, picture, ghost, area)
  if (kind === 'vector') drawVectorGrid(pen, canvas)
  if (ghost) plot(pen, canvas, kind, ghost, 0.35, area)
  plot(pen, canvas, kind, picture, 1, area)
  if (kind !== 'vector') drawLevels(pen, canvas, codeOfGrey(shownIn), greyCode)
}

function plot(
  pen: Pen,
  canvas: OffscreenCanvas,
  kind: ScopeKind,
  { data: picture, width, height }: Still,
  strength: number,
  area: Area,
): void {
  const [w, h] = [canvas.width, canvas.height]
  const side = Math.min(w, h)
  const scope =
    kind === 'vector'
      ? vectorscope(picture, width * height, side, area)
      : kind === 'parade'
        ? parade(picture, width, height, w, h, area)
        : waveform(picture, width, height, w, h, area)
  const left = kind === 'vector' ? (w - side) >> 1 : 0
  const image = pen.getImageData(left, 0, scope.columns, scope.rows)
  const gain = (strength * 900 * scope.columns) / (width * height)
  const third = Math.floor(scope.columns / 3)
  for (let i = 0; i < scope.counts.length; i++) {
    const count = scope.counts[i]!
    if (count === 0) continue
    const light = Math.min(235, (26 + Math.sqrt(count * gain) * 13) * strength)
    const channel = kind === 'parade' ? Math.floor((i % scope.columns) / third) : -1
    for (let k = 0; k < 3; k++)
      image.data[4 * i + k] = Math.min(
        255,
        image.data[4 * i + k]! + (channel < 0 || channel === k ? light : light * 0.3),
      )
  }
  pen.putImageData(image, left, 0)
}

function drawLevels(pen: Pen, canvas: OffscreenCanvas, grey: number, card: number | null): void {
  const y = (code: number): number => Math.round((1 - code) * (canvas.height - 1)) + 0.5
  const level = (code: number, colour: string, dashes: number[]): void => {
    pen.strokeStyle = colour
    pen.setLineDash(dashes)
    line(pen, 0, y(code), canvas.width, y(code))
  }
  pen.lineWidth = 1
  for (const code of [0.25, 0.5, 0.75]) level(code, '#4a4a4a', [])
  level(grey, '#ee6a38', [5, 4])
  if (card !== null) level(card, '#d8d8d8', [2, 3])
  pen.setLineDash([])
}

/** Mean hue of skin of all tones on the Cb/Cr plane, degrees counterclockwise from +Cb (common practice: about 123). */
const SKIN_ANGLE = 123

function drawVectorGrid(pen: Pen, canvas: OffscreenCanvas): void {
  const [cx, cy, r] = [canvas.width / 2, canvas.height / 2, Math.min(canvas.width, canvas.height) / 2]
  pen.strokeStyle = '#4a4a4a'
  for (const share of [0.25, 0.5, 0.75]) {
    pen.beginPath()
    pen.arc(cx, cy, r * share, 0, 2 * Math.PI)
    pen.stroke()
  }
  line(pen, cx - r, cy, cx + r, cy)
  line(pen, cx, cy - r, cx, cy + r)
  const ray = (angle: number, from: number, to: number): void => {
    const [x, y] = [Math.cos(angle), -Math.sin(angle)]
    line(pen, cx + r * from * x, cy + r * from * y, cx + r * to * x, cy + r * to * y)
  }
  for (const { name, colour, angle } of PURE_HUES) {
    pen.strokeStyle = pen.fillStyle = colour
    ray(angle, 0.9, 1)
    if (r < LETTERED) continue
    pen.font = '13px sans-serif'
    pen.fillText(name, cx + r * 0.84 * Math.cos(angle) - 12, cy - r * 0.84 * Math.sin(angle) + 4)
  }
  pen.strokeStyle = '#ee6a38'
  pen.setLineDash([5, 4])
  ray((SKIN_ANGLE * Math.PI) / 180, 0, 1)
  pen.setLineDash([])
}

/** Radius from which the hues are named as well, pixels. */
const LETTERED = 150
/** Directions of the six pure hues on the Cb/Cr plane, from the matrix of BT.709. */
const PURE_HUES = (
  [
    ['red', '#e0655a', 1, 0, 0],
    ['yellow', '#cfae2e', 1, 1, 0],
    ['green', '#5fae6b', 0, 1, 0],
    ['cyan', '#3fb3c4', 0, 1, 1],
    ['blue', '#6f92e8', 0, 0, 1],
    ['magenta', '#d062a8', 1, 0, 1],
  ] as const
).map(([name, colour, ...rgb]) => {
  const [cb, cr] = chromaOf(Float32Array.from(rgb), 0)
  return { name, colour, angle: Math.atan2(cr, cb) }
})

function line(pen: Pen, x0: number, y0: number, x1: number, y1: number): void {
  pen.beginPath()
  pen.moveTo(x0, y0)
  pen.lineTo(x1, y1)
  pen.stroke()
}

function drawHistogram(pen: Pen, canvas: OffscreenCanvas, picture: Still, ghost: Still | null, area: Area): void {
  const bins = 256
  const draw = (counts: Uint32Array, row: number, colour: string, fill: boolean): void => {
    const part = counts.subarray(row * bins, (row + 1) * bins)
    // The two end bins may tower over the rest; they do not set the scale.
    const top = Math.max(1, ...part.subarray(1, bins - 1))
    pen.beginPath()
    pen.moveTo(0, canvas.height)
    part.forEach((count, i) =>
      pen.lineTo(((i + 0.5) * canvas.width) / bins, canvas.height * (1 - 0.95 * Math.min(1, Math.sqrt(count / top)))),
    )
    pen.lineTo(canvas.width, canvas.height)
    pen.strokeStyle = colour
    pen.fillStyle = colour
    if (fill) pen.fill()
    else pen.stroke()
  }
  const countsOf = ({ data, width, height }: Still): Uint32Array => histograms(data, width * height, bins, area)
  if (ghost) draw(countsOf(ghost), 3, '#3c3c3c', true)
  const counts = countsOf(picture)
  if (!ghost) draw(counts, 3, '#3c3c3c', true)
  for (const [k, colour] of ['#ff7b6b', '#7be08a', '#82a8ff'].entries()) draw(counts, k, colour, false)
  if (ghost) draw(counts, 3, '#e8e8e8', false)
}
