import type { Decision } from '../formats'
import { framesASecond } from '../numbers/frame-rate'
import { timecode } from '../numbers/timecode'
import type { ListedShot } from './cut'
import { rateScale } from './event'

/** Where an edit begins (common practice). */
const START = '01:00:00:00'
const REEL_LENGTH = 8

/** A shot in frames of the list: what it shows from, and for how long, once dissolves begin where they begin to be seen. */
interface Row {
  readonly shot: ListedShot
  readonly first: number
  /** Frames of footage, and of the edit. */
  readonly count: number
  readonly length: number
  /** Frames of a dissolve that leads to it. */
  readonly dissolve: number
}

/**
 * A CMX 3600 edit decision list of shots in order, with their decisions and dissolves (from memory; ASC CDL 1.2).
 * @param fps rate of the list @param drops whether its record timecode leaves numbers out
 */
export function writeCmx(title: string, shots: readonly ListedShot[], fps: string, drops = false): string {
  const start = drops ? START.replace(/:(\d\d)$/, ';$1') : START
  const lines = [`TITLE: ${oneLine(title)}`, `FCM: ${drops ? 'DROP FRAME' : 'NON-DROP FRAME'}`, '']
  let at = 0
  let before: Row | undefined
  for (const [i, row] of rowsOf(shots, fps).entries()) {
    const number = String(i + 1).padStart(3, '0')
    const record = (frame: number): string => timecode(frame, fps, start)
    if (row.dissolve > 0 && before) {
      const end = source(before, before.first + before.count, fps)
      lines.push(line(number, before, 'C', [end, end, record(at), record(at)]))
    }
    const how = row.dissolve > 0 ? `D    ${String(row.dissolve).padStart(3, '0')}` : 'C'
    const begin = row.shot.cut.speed < 0 ? row.first + row.count - 1 : row.first
    const codes = [source(row, begin, fps), source(row, begin + row.count, fps), record(at), record(at + row.length)]
    lines.push(line(number, row, how, codes), ...commentsOf(row, before, codes[0]!, fps))
    at += row.length
    before = row
  }
  return `${lines.join('\n')}\n`
}

function rowsOf(shots: readonly ListedShot[], fps: string): Row[] {
  return shots.map((shot, i) => {
    const { cut, first, last } = shot
    const pace = Math.abs(cut.speed) || 1
    const scale = rateScale(shot.fps, fps)
    // The dissolve behind it begins as long before its end as the next shot is seen before its own beginning.
    const next = shots[i + 1]
    const given = next ? Math.min(Math.round(edited(next, next.cut.before)), cut.length - 1) : 0
    const lead = i === 0 ? 0 : Math.round(edited(shot, cut.before) * scale)
    const before = shots[i - 1]
    const dissolve = before ? Math.round(edited(before, before.cut.after) * rateScale(before.fps, fps)) + lead : 0
    const begins = i === 0 ? first + cut.before : first
    const held = cut.speed === 0
    return {
      shot,
      first: Math.round(begins * scale),
      count: held ? 1 : Math.round((last - cut.after - begins + 1 - given * pace) * scale),
      length: Math.round((cut.length - given) * scale) + lead,
      dissolve,
    }
  })
}

/** Frames of an edit for so many of footage, at the rate of that. */
const edited = ({ cut }: ListedShot, frames: number): number => frames / (Math.abs(cut.speed) || 1)

function source({ shot }: Row, frame: number, fps: string): string {
  const start = shot.timecode ?? '00:00:00:00'
  return timecode(frame, fps, start)
}

const oneLine = (text: string): string => text.replace(/[\r\n]+/g, ' ').trim()
/** Reels have short names; footage of another name is named in a comment. */
function reelOf({ file }: ListedShot): string {
  const stem = file.replace(/\.[^.]+$/, '')
  return /^\w+$/.test(stem) && stem.length <= REEL_LENGTH ? stem : 'AX'
}
const line = (number: string, { shot }: Row, how: string, codes: readonly string[]): string =>
  `${number}  ${reelOf(shot).padEnd(REEL_LENGTH)} V     ${how.padEnd(8)} ${codes.join(' ')}`

function commentsOf(row: Row, before: Row | undefined, from: string, fps: string): string[] {
  const { shot } = row
  const { speed } = shot.cut
  const rate = Math.abs(speed * framesASecond(fps)).toFixed(3)
  const pace = speed < 0 ? `-${rate.padStart(7, '0')}` : rate.padStart(8, '0')
  return [
    ...(speed === 1 ? [] : [`M2   ${reelOf(shot).padEnd(REEL_LENGTH)} ${pace}                ${from}`]),
    ...(row.dissolve > 0 && before ? [`* FROM CLIP NAME: ${oneLine(before.shot.name)}`] : []),
    `* ${row.dissolve > 0 ? 'TO' : 'FROM'} CLIP NAME: ${oneLine(shot.name)}`,
    `* SOURCE FILE: ${oneLine(shot.file)}`,
    ...(shot.decision ? decisionLines(shot.decision) : []),
  ]
}

function decisionLines({ slope, offset, power, saturation }: Decision): string[] {
  const three = (values: readonly number[]): string => `(${values.map((v) => v.toFixed(6)).join(' ')})`
  return [`*ASC_SOP ${three(slope)}${three(offset)}${three(power)}`, `*ASC_SAT ${saturation.toFixed(6)}`]
}
