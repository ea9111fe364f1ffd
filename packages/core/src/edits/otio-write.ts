import { framesASecond } from '../numbers/frame-rate'
import type { ListedShot } from './cut'
import { framesFromMidnight } from './event'

type Thing = Record<string, unknown>

const time = (value: number, rate: number): Thing => ({ OTIO_SCHEMA: 'RationalTime.1', value, rate })
const range = (start: number, length: number, rate: number): Thing => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start, rate),
  duration: time(length, rate),
})

/** An OpenTimelineIO timeline of shots in order: one track, dissolves as transitions, decisions and recipes as metadata. */
export function writeOtio(title: string, shots: readonly ListedShot[]): string {
  const children = shots.flatMap((shot, i) => {
    const before = shots[i - 1]
    const leads = before && before.cut.after + shot.cut.before > 0
    return [...(leads ? [transition(before, shot)] : []), clip(shot)]
  })
  const track = {
    OTIO_SCHEMA: 'Track.1',
    name: 'V1',
    kind: 'Video',
    source_range: null,
    effects: [],
    markers: [],
    children,
  }
  const tracks = {
    OTIO_SCHEMA: 'Stack.1',
    name: 'tracks',
    source_range: null,
    effects: [],
    markers: [],
    children: [track],
  }
  const timeline = { OTIO_SCHEMA: 'Timeline.1', name: title, global_start_time: null, metadata: {}, tracks }
  return `${JSON.stringify(timeline, null, 2)}\n`
}

/** Seen frames of an edit for so many frames of footage. */
const edited = (frames: number, { cut: { speed } }: ListedShot): number => Math.round(frames / (Math.abs(speed) || 1))

function transition(from: ListedShot, to: ListedShot): Thing {
  return {
    OTIO_SCHEMA: 'Transition.1',
    name: 'Dissolve',
    transition_type: 'SMPTE_Dissolve',
    in_offset: time(edited(to.cut.before, to), framesASecond(to.fps)),
    out_offset: time(edited(from.cut.after, from), framesASecond(from.fps)),
    metadata: {},
  }
}

function clip(shot: ListedShot): Thing {
  const { name, file, fps, frames, timecode = '00:00:00:00', first, cut, decision, metadata } = shot
  const rate = framesASecond(fps)
  const start = framesFromMidnight(timecode, fps)
  const media = {
    OTIO_SCHEMA: 'ExternalReference.1',
    name: file,
    target_url: encodeURI(file),
    available_range: range(start, frames, rate),
    metadata: {},
  }
  return {
    OTIO_SCHEMA: 'Clip.2',
    name,
    source_range: range(start + first + cut.before, cut.length, rate),
    effects: effectsOf(cut.speed),
    markers: [],
    media_references: { DEFAULT_MEDIA: media },
    active_media_reference_key: 'DEFAULT_MEDIA',
    metadata: {
      ...(decision && { cdl: { asc_sop: { ...decision, saturation: undefined }, asc_sat: decision.saturation } }),
      ...metadata,
    },
  }
}

function effectsOf(speed: number): Thing[] {
  if (speed === 1) return []
  const effect = {
    name: '',
    effect_name: speed === 0 ? 'FreezeFrame' : 'LinearTimeWarp',
    time_scalar: speed,
    metadata: {},
  }
  return [{ OTIO_SCHEMA: speed === 0 ? 'FreezeFrame.1' : 'LinearTimeWarp.1', ...effect }]
}
