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

/** Of the height of the picture. */
const [LETTERS, MARGIN] = [0.032, 0.03]

/** The font that the page uses too; it is in the package. */
const FONT = createRequire(import.meta.url).resolve(
  '@fontsource/spline-sans-mono/files/spline-sans-mono-latin-400-normal.woff',
)

/** Text for a filter: what means something there, or starts an expansion, is taken by its word (ffmpeg-utils(1), quoting). */
const quoted = (text: string): string => text.replace(/[\\%]/g, ' ').replace(/'/g, '’').replace(/:/g, '\\:')

/** Words at the foot of the picture: what it is at the left, where at the right, a note in the middle. */
export function burnInFilter({ shot, timecode, fps, note }: BurnIn, { height }: { readonly height: number }): string[] {
  const [size, margin] = [Math.max(10, Math.round(height * LETTERS)), Math.round(height * MARGIN)]
  const look = `fontfile='${FONT}':fontsize=${size}:fontcolor=white:box=1:boxcolor=black@0.6:boxborderw=${Math.round(size / 4)}`
  const at = (x: string): string => `:x=${x}:y=h-th-${margin}`
  const rate = framesASecond(fps) || 24
  return [
    ...(shot ? [`drawtext=${look}:text='${quoted(shot)}'${at(String(margin))}`] : []),
    ...(note ? [`drawtext=${look}:text='${quoted(note)}'${at('(w-tw)/2')}`] : []),
    ...(timecode
      ? [
          `drawtext=${look}:timecode='${timecode.replace(/[:;]/g, (c) => (c === ';' ? '\\;' : '\\:'))}':rate=${rate}:text=''${at(`w-tw-${margin}`)}`,
        ]
      : []),
  ]
}
