import type { Triple } from '../colour/matrix'
import type { Decision } from '../formats'
import { FogBathError } from '../errors'
import { framesASecond } from '../numbers/frame-rate'
import { framesFromMidnight, framesShown, type EditEvent, type EditList } from './event'

/** A line of an event: number, reel, tracks, transition with its frames, four timecodes (CMX 3600; from memory). */
const EVENT =
  /^(\d+)\s+(\S+)\s+(\S+)\s+(C|D|W\d+|K\s?[BO]?)\s+(?:(\d{1,3})\s+)?(\d\d:\d\d:\d\d[:;]\d\d)\s+(\d\d:\d\d:\d\d[:;]\d\d)\s+(\d\d:\d\d:\d\d[:;]\d\d)\s+(\d\d:\d\d:\d\d[:;]\d\d)\s*$/
const COMMENT = /^\*\s*(FROM CLIP NAME|TO CLIP NAME|SOURCE FILE|ASC_SOP|ASC_SAT)(.*)$/i
const MOTION = /^M2\s+(\S+)\s+(-?\d+(?:\.\d+)?)/
/** Reels that are no footage: black, and what has no reel of its own. */
const NO_REEL = /^(BL|BLACK|AX)$/i

interface Line {
  readonly number: string
  readonly reel: string
  /** Frames of a transition that leads to it; 0 for a cut. */
  readonly transition: number
  readonly first: number
  /** Frames in the edit. */
  readonly count: number
  readonly place: string
  readonly comments: Map<string, string>
  speed: number
}

/**
 * Reads a CMX 3600 edit decision list: picture alone, in its order. What dissolves and wipes need of the shot before them
 * becomes its handle.
 * @param fps rate of the list, which says none itself
 * @returns all that can be read, and a sentence for each line that cannot
 */
export function readCmx(text: string, fps: string): EditList {
  const left: string[] = []
  const lines = linesOf(text, fps, left)
  const events: EditEvent[] = []
  for (const [i, line] of lines.entries()) {
    const before = lines[i - 1]
    const leads = before?.number === line.number ? before : undefined
    if (leads && leads.count === 0 && line.transition > 0) leadFrom(events, leads, lines[i - 2], line.transition, fps)
    // The first line of a transition has no frames of its own: it says from where it leads.
    if (line.count === 0 || isBlack(line)) continue
    events.push(eventOf(line, leads, fps))
  }
  const [, title = ''] = /^TITLE:(.*)$/im.exec(text) ?? []
  return { title: title.trim(), events, left }
}

function linesOf(text: string, fps: string, left: string[]): Line[] {
  const lines: Line[] = []
  let drops = false
  for (const [i, row] of text.split(/\r?\n/).entries()) {
    const place = `line ${i + 1}`
    const said = row.trim()
    if (/^FCM:/i.test(said)) drops = !/NON/i.test(said) && /DROP/i.test(said)
    const latest = lines.at(-1)
    const [, key, value] = COMMENT.exec(said) ?? []
    // Comments of a transition stand behind both of its lines, and name both.
    if (key && latest)
      for (const line of lines.filter((l) => l.number === latest.number))
        line.comments.set(key.toUpperCase(), value!.replace(/^\s*:/, '').trim())
    const [, reel, rate] = MOTION.exec(said) ?? []
    const moved = reel && lines.findLast((l) => l.reel === reel)
    if (moved) moved.speed = Number(rate) / framesASecond(fps)
    if (!/^\d+\s/.test(said)) continue
    try {
      const line = lineOf(said, place, fps, drops)
      if (line) lines.push(line)
    } catch (error) {
      left.push(`${place[0]!.toUpperCase()}${place.slice(1)} is left out: ${(error as Error).message}`)
    }
  }
  return lines
}

/** Null for sound alone. */
function lineOf(said: string, place: string, fps: string, drops: boolean): Line | null {
  const found = EVENT.exec(said)
  if (!found)
    throw new FogBathError(
      'format',
      'edl',
      `'${said.slice(0, 80)}' is no event: number, reel, track, transition and four timecodes.`,
    )
  const [, number, reel, tracks, , length = '0', ...codes] = found as unknown as [string, ...string[]]
  if (!/^(V|B|.*\/V)/i.test(tracks!)) return null
  const [sourceIn, sourceOut, recordIn, recordOut] = codes.map((code) =>
    framesFromMidnight(drops ? code.replace(/:(\d\d)$/, ';$1') : code, fps),
  ) as [number, number, number, number]
  if (recordOut < recordIn || sourceOut < sourceIn)
    throw new FogBathError('range', 'edl', `its end (${codes[1]}, ${codes[3]}) lies before its beginning.`)
  const count = recordOut - recordIn
  return {
    number: number!,
    reel: reel!,
    transition: Number(length),
    first: sourceIn,
    count,
    place,
    comments: new Map<string, string>(),
    speed: 1,
  }
}

/** What a transition leads from is shown on under it: the shot before, or one that is seen nowhere else. */
function leadFrom(events: EditEvent[], leads: Line, before: Line | undefined, frames: number, fps: string): void {
  if (isBlack(leads)) return
  const last = events.at(-1)
  const goesOn = before?.reel === leads.reel && before.first + framesShown(before.count, before.speed) === leads.first
  if (last && goesOn)
    events[events.length - 1] = { ...last, handles: { ...last.handles, after: framesShown(frames, last.speed) } }
  else {
    // Where one file is named for both, it is that of the shot that is led to.
    const comments = new Map([...leads.comments].filter(([key]) => key !== 'SOURCE FILE'))
    events.push(eventOf({ ...leads, comments, count: frames }, undefined, fps))
  }
}
const isBlack = ({ reel }: Line): boolean => /^BL(ACK)?$/i.test(reel)

function eventOf(line: Line, leads: Line | undefined, fps: string): EditEvent {
  const { comments, reel, speed, place } = line
  const clip = comments.get(leads ? 'TO CLIP NAME' : 'FROM CLIP NAME') ?? ''
  const file = comments.get('SOURCE FILE') ?? ''
  const footage = [clip, file, NO_REEL.test(reel) ? '' : reel].filter((name) => name !== '')
  const count = framesShown(line.count, speed)
  return {
    place,
    name: clip.replace(/\.\w{1,5}$/, '') || footage[0] || reel,
    footage,
    // Backwards, the list says with which frame it begins: the last of those that are shown.
    first: speed < 0 ? line.first - count + 1 : line.first,
    count,
    length: line.count,
    rate: fps,
    from: 'midnight',
    handles: { before: 0, after: 0 },
    speed,
    decision: decisionOf(comments),
  }
}

/** ASC CDL in an edit decision list (ASC CDL 1.2, annex on EDLs; from memory). */
function decisionOf(comments: ReadonlyMap<string, string>): Decision | null {
  const numbers = (text: string): number[] => (text.match(/-?\d+(?:\.\d+)?/g) ?? []).map(Number)
  const sop = numbers(comments.get('ASC_SOP') ?? '')
  const [saturation] = numbers(comments.get('ASC_SAT') ?? '')
  if (sop.length !== 9 && saturation === undefined) return null
  const three = (from: number, usual: number): Triple =>
    sop.length === 9 ? (sop.slice(from, from + 3) as unknown as Triple) : [usual, usual, usual]
  return { slope: three(0, 1), offset: three(3, 0), power: three(6, 1), saturation: saturation ?? 1 }
}
