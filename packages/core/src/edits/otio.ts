import type { Triple } from '../colour/matrix'
import { FogBathError } from '../errors'
import type { Decision } from '../formats'
import { framesShown, type EditEvent, type EditList } from './event'

type Thing = Record<string, unknown>
/** Deeper than any edit is. */
const MOST_DEPTH = 20

const isThing = (v: unknown): v is Thing => typeof v === 'object' && v !== null && !Array.isArray(v)
const kindOf = (v: Thing): string => String(v['OTIO_SCHEMA'] ?? '').replace(/\.\d+$/, '')
const thingsIn = (v: unknown): Thing[] => (Array.isArray(v) ? v.filter(isThing) : [])

/**
 * Reads an OpenTimelineIO timeline (JSON; OTIO_SCHEMA Timeline.1, Clip.1 and 2): its picture tracks in order, lowest first.
 * Throws where it is none; what cannot be read of it is told.
 */
export function readOtio(text: string): EditList {
  const whole = parsed(text)
  const left: string[] = []
  const events: EditEvent[] = []
  const stack = isThing(whole['tracks']) ? whole['tracks'] : whole
  for (const [i, track] of thingsIn(stack['children']).entries()) {
    if (kindOf(track) !== 'Track') left.push(`Child ${i + 1} of the timeline is left out: it is no track.`)
    else if (track['kind'] !== 'Audio') eventsOf(track, `V${i + 1}`, { events, left }, 0)
  }
  return { title: String(whole['name'] ?? ''), events, left }
}

function parsed(text: string): Thing {
  let whole: unknown
  try {
    whole = JSON.parse(text)
  } catch (error) {
    throw new FogBathError('format', 'otio', `The file is no JSON: ${(error as Error).message}`)
  }
  const kind = isThing(whole) ? kindOf(whole) : ''
  if (!isThing(whole) || (kind !== 'Timeline' && kind !== 'Stack'))
    throw new FogBathError('format', 'otio', `The file is no timeline; its OTIO_SCHEMA is '${kind}'.`)
  return whole
}

interface Made {
  readonly events: EditEvent[]
  readonly left: string[]
}

function eventsOf(track: Thing, label: string, made: Made, depth: number): void {
  const children = thingsIn(track['children'])
  let clips = 0
  for (const [i, child] of children.entries()) {
    const kind = kindOf(child)
    if (kind === 'Gap' || kind === 'Transition') continue
    const place = `clip ${++clips} of ${label}`
    if (kind === 'Clip') {
      const event = eventOf(child, place)
      if (typeof event === 'string')
        made.left.push(`${String(child['name'] ?? place)}, ${place}, is left out: ${event}`)
      else made.events.push({ ...event, handles: handlesOf(children[i - 1], children[i + 1], event.speed) })
    } else if (kind === 'Stack' || kind === 'Track') {
      if (depth >= MOST_DEPTH) made.left.push(`What lies in ${place} is left out: it lies too deep.`)
      else if (kind === 'Track') eventsOf(child, place, made, depth + 1)
      else for (const inner of thingsIn(child['children'])) eventsOf(inner, place, made, depth + 1)
    } else made.left.push(`${place} is left out: nothing is known of '${kind}'.`)
  }
}

/** What transitions show of a clip beyond its range: frames of its own end under the one behind it, and before its beginning. */
function handlesOf(before: Thing | undefined, after: Thing | undefined, speed: number): EditEvent['handles'] {
  const frames = (transition: Thing | undefined, side: string): number => {
    const time = transition && kindOf(transition) === 'Transition' ? timeOf(transition[side]) : null
    return time && time.value > 0 ? framesShown(time.value, speed) : 0
  }
  return { before: frames(before, 'in_offset'), after: frames(after, 'out_offset') }
}

interface Time {
  readonly value: number
  readonly rate: number
}
function timeOf(v: unknown): Time | null {
  if (!isThing(v)) return null
  const [value, rate] = [Number(v['value']), Number(v['rate'])]
  return Number.isFinite(value) && rate > 0 ? { value, rate } : null
}
function rangeOf(v: unknown): { readonly start: Time; readonly length: Time } | null {
  if (!isThing(v)) return null
  const [start, length] = [timeOf(v['start_time']), timeOf(v['duration'])]
  return start && length ? { start, length } : null
}

/** Or why it is none. */
function eventOf(clip: Thing, place: string): Omit<EditEvent, 'handles'> | string {
  const references = isThing(clip['media_references']) ? clip['media_references'] : {}
  const key = String(clip['active_media_reference_key'] ?? 'DEFAULT_MEDIA')
  const media = isThing(clip['media_reference']) ? clip['media_reference'] : references[key]
  const known = isThing(media) ? rangeOf(media['available_range']) : null
  const shown = rangeOf(clip['source_range']) ?? known
  if (!shown) return 'neither it nor its footage says which frames are shown.'
  const speed = speedOf(clip)
  const length = Math.round(shown.length.value)
  const name = String(clip['name'] ?? '') || place
  const start = Math.round(shown.start.value)
  return {
    place,
    name,
    footage: [...(isThing(media) ? filesOf(media) : []), name],
    count: framesShown(length, speed),
    length,
    speed,
    // Its own beginning is known where the footage says what there is of it.
    first: known ? start - Math.round((known.start.value * shown.start.rate) / known.start.rate) : start,
    from: known ? 'start' : 'either',
    rate: String(shown.start.rate),
    decision: decisionOf(clip['metadata']),
  }
}

function speedOf(clip: Thing): number {
  return thingsIn(clip['effects']).reduce((speed, effect) => {
    if (kindOf(effect) === 'FreezeFrame') return 0
    const scalar = Number(effect['time_scalar'])
    return kindOf(effect) === 'LinearTimeWarp' && Number.isFinite(scalar) ? speed * scalar : speed
  }, 1)
}

/** Names of files, without folders: an edit comes from another machine. */
function filesOf(media: Thing): string[] {
  const last = (url: unknown): string => {
    const path = String(url ?? '').split(/[?#]/)[0]!
    const name = path.slice(Math.max(path.lastIndexOf('/'), path.lastIndexOf('\\')) + 1)
    try {
      return decodeURIComponent(name)
    } catch {
      return name
    }
  }
  const sequence = `${String(media['name_prefix'] ?? '')}`
  return [last(media['target_url']), sequence, String(media['name'] ?? '')].filter((name) => name !== '')
}

/** ASC CDL in metadata, as `{ cdl: { asc_sop: { slope, offset, power }, asc_sat } }` (OpenTimelineIO's CDL adapter; from memory). */
function decisionOf(metadata: unknown): Decision | null {
  const cdl = isThing(metadata) ? metadata['cdl'] : undefined
  if (!isThing(cdl)) return null
  const sop = isThing(cdl['asc_sop']) ? cdl['asc_sop'] : {}
  const three = (v: unknown, usual: number): Triple =>
    Array.isArray(v) && v.length === 3 && v.every((n) => Number.isFinite(n))
      ? (v as unknown as Triple)
      : [usual, usual, usual]
  const saturation = Number(cdl['asc_sat'] ?? 1)
  return {
    slope: three(sop['slope'], 1),
    offset: three(sop['offset'], 0),
    power: three(sop['power'], 1),
    saturation: Number.isFinite(saturation) ? saturation : 1,
  }
}
