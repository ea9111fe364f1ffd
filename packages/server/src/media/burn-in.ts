import { createRequire } from 'node:module'
import { framesASecond } from '@fogbath/core/numbers'

/** What is written into pictures. */
export interface BurnIn {
  readonly shot: string | null
  /** Of the first frame that is written, and frames a second. */
  readonly timecode: string | null
  readonly fps: string
  readonly note: string | null
}

/** What stands on the black frame before a clip: what it is, and all else. */
export interface Slate {
  readonly title: string
  readonly lines: readonly string[]
}

interface Size {
  readonly width: number
  readonly height: number
}

/** Of the height of the picture. */
const [LETTERS, MARGIN, TITLE] = [0.032, 0.03, 0.07]
/** Width of a letter of the font, of its height: all are as wide. */
const ADVANCE = 0.62

/** The font that the page uses too; it is in the package. */
const FONT = createRequire(import.meta.url).resolve(
  '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-400-normal.woff',
)

/** Text for a filter: what means something there, or starts an expansion, is taken by its word (ffmpeg-utils(1), quoting). */
const quoted = (text: string): string => text.replace(/[\\%]/g, ' ').replace(/'/g, '’').replace(/:/g, '\\:')
const drawn = (size: number, text: string, x: string, y: string, more: string): string =>
  `drawtext=fontfile='${FONT}':fontsize=${size}:fontcolor=white:text='${text}':x=${x}:y=${y}${more}`

/**
 * Words at the foot of the picture: what it is at the left, where at the right, a note in the middle.
 * @param behind a slate, whose frame is the first
 */
export function burnInFilter(words: BurnIn, { height }: Size, behind = false): string[] {
  const { shot, timecode, fps, note } = words
  const [size, margin] = [Math.max(10, Math.round(height * LETTERS)), Math.round(height * MARGIN)]
  const box = `:box=1:boxcolor=black@0.6:boxborderw=${Math.round(size / 4)}${behind ? ":enable='gte(n,1)'" : ''}`
  const y = `h-th-${margin}`
  const rate = framesASecond(fps) || 24
  return [
    ...(shot ? [drawn(size, quoted(shot), String(margin), y, box)] : []),
    ...(note ? [drawn(size, quoted(note), '(w-tw)/2', y, box)] : []),
    ...(timecode
      ? [drawn(size, '', `w-tw-${margin}`, y, `:timecode='${escaped(timecode)}':tc24hmax=1:rate=${rate}${box}`)]
      : []),
  ]
}
const escaped = (timecode: string): string => timecode.replace(/[:;]/g, (c) => (c === ';' ? '\\;' : '\\:'))

/** Words on the first frame alone. */
export function slateFilter({ title, lines }: Slate, { width, height }: Size): string[] {
  const only = ":enable='eq(n,0)'"
  const fitting = (text: string, wanted: number): number =>
    Math.max(8, Math.min(Math.round(height * wanted), Math.floor((0.9 * width) / (ADVANCE * Math.max(1, text.length)))))
  const small = Math.min(...lines.map((line) => fitting(line, LETTERS * 1.2)))
  return [
    drawn(fitting(title, TITLE), quoted(title), '(w-tw)/2', `h*0.3`, only),
    ...lines.map((line, i) => drawn(small, quoted(line), '(w-tw)/2', `h*0.45+${Math.round(1.7 * small * i)}`, only)),
  ]
}
