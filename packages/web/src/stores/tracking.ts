import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import type { Shot, Tracking } from '@fogbath/contract'
import { allBaths, newId, partAt, wholeLine, type Line } from '@fogbath/core/line'
import { canBeTracked, goneOn, seenPart, type Motion, type Track } from '@fogbath/core/tracking'
import type { MaskPart } from '@fogbath/core/masks'
import { api } from '../api/client'
import { useBenchStore } from './bench'

/** How often it is asked how far a tracking is, ms. */
const ASKED_EVERY = 250

export interface TrackOrder {
  /** The part as it is kept. */
  readonly part: MaskPart
  readonly frame: number
  readonly motions: readonly Motion[]
  readonly way: 'both' | 'forward' | 'back'
}

const aspectOf = ({ medium: { info } }: Shot): number => info.width / info.height
/** Tracks with one of them put in place of what had its name. */
const withTrack = (tracks: Shot['tracks'], track: Track): Shot['tracks'] => [
  ...tracks.filter(({ id }) => id !== track.id),
  track,
]
const sleep = (ms: number): Promise<void> => new Promise((resolve) => setTimeout(resolve, ms))

/** Shapes that are followed through shots by the server, one after the other; the picture follows. */
export const useTrackingStore = defineStore('tracking', () => {
  const bench = useBenchStore()
  const now = shallowRef<{ readonly shot: Shot; readonly key: string; readonly seen: Tracking } | null>(null)
  /** Told to stop: what comes after it is not begun. */
  let stopped = false

  /** Follows a part through a shot. @returns the track, whole or as far as it went; null where it was stopped before it began */
  async function found(shot: Shot, id: string, { part, frame, motions, way }: TrackOrder): Promise<Track | null> {
    const there = shot.tracks.find((track) => track.id === id)
    const seen = partAt(part, { first: shot.first, length: shot.last - shot.first + 1, tracks: shot.tracks, frame })
    const body = { id, part: seenPart(seen, aspectOf(shot)), frame, motions: [...motions], way }
    const begun = await api.beginTracking(shot.id, body)
    const whole = (track: Track): Track => (there ? goneOn(there, track, way) : track)
    for (let got = begun; ; got = await api.tracking(begun.key)) {
      now.value = { shot, key: begun.key, seen: got }
      if (got.state === 'failed') throw new Error(got.message ?? 'Following the shape failed.')
      if (got.track) show(shot, whole(got.track), got)
      if (got.state === 'done') return got.track && whole(got.track)
      await sleep(ASKED_EVERY)
    }
  }

  /** What is found so far, where its shot is on the bench: the picture goes along. */
  function show(shot: Shot, track: Track, { done, track: own }: Tracking): void {
    if (bench.shot?.id !== shot.id || !own || done < 2) return
    bench.liveTrack = { shotId: shot.id, track }
    const last = own.first + own.corners.length - 1
    bench.frame = last > own.frame && own.first === own.frame ? last : own.first
  }

  async function keep(shot: Shot, track: Track): Promise<void> {
    if (bench.shot?.id === shot.id) bench.saveShot({ tracks: withTrack(bench.shot.tracks, track) })
    else {
      const { revision, tracks } = await api.shot(shot.id)
      bench.noteShot(await api.changeShot(shot.id, { revision, tracks: [...withTrack(tracks, track)] }))
    }
  }

  /** The part of the chosen bath's mask, which follows what is found from then on. */
  async function trackPart(index: number, order: Omit<TrackOrder, 'part'>): Promise<void> {
    const { shot, bath } = bench
    const part = bath?.mask?.parts[index]
    if (!shot || !part || now.value) return
    const id = part.follows ?? newId()
    const isNew = !shot.tracks.some((track) => track.id === id)
    const { frame } = bench
    try {
      stopped = false
      const track = await found(shot, id, { ...order, part })
      if (!track) return
      await keep(shot, track)
      // What was moved by hand on top of another track says nothing of this one.
      if (bench.shot?.id === shot.id) bench.frame = frame
      if (isNew && bench.shot?.id === shot.id && bench.bath?.id === bath.id) bench.beginFollowing(index, id, frame)
    } finally {
      bench.liveTrack = null
      now.value = null
    }
  }

  /** What its chosen trial makes of a shot. */
  function lineOf(shot: Shot): Line {
    const { recipe, after } = bench.currentTrial(shot)
    return { preparation: shot.preparation, recipe, after }
  }
  /** Parts of a line's masks that follow a track which its shot does not have. */
  const missing = (shot: Shot, line: Line): { readonly id: string; readonly part: MaskPart }[] => {
    const parts = allBaths({ baths: wholeLine(line) }).flatMap(({ mask }) => mask?.parts ?? [])
    const known = new Set(shot.tracks.map(({ id }) => id))
    return parts.flatMap((part) => {
      const { follows } = part
      if (follows === undefined || known.has(follows) || !canBeTracked(part)) return []
      known.add(follows)
      return [{ id: follows, part }]
    })
  }

  /** Follows what the masks of shots follow and is not tracked there yet, from the telling frame of each. @returns how many */
  async function trackShots(shots: readonly Shot[], motions: readonly Motion[]): Promise<number> {
    let count = 0
    stopped = false
    try {
      for (const shot of shots)
        for (const { id, part } of missing(shot, lineOf(shot))) {
          if (stopped) return count
          const track = await found(await api.shot(shot.id), id, { part, frame: shot.still, motions, way: 'both' })
          if (!track) return count
          await keep(shot, track)
          count++
        }
      return count
    } finally {
      bench.liveTrack = null
      now.value = null
    }
  }

  async function stop(): Promise<void> {
    stopped = true
    if (now.value) await api.endTracking(now.value.key)
  }

  return { now: computed(() => now.value), trackPart, trackShots, missing, lineOf, stop }
})
