import Type from 'typebox'
import { FogBathError } from '../errors'
import { gaussian } from '../numbers/gaussian'
import { between, STILL, warped, type Warp } from '../numbers/warp'
import { ALL_MOTIONS, type Motion } from './motions'
import type { Corner } from './shape'
import type { Tracked } from './track'

/** Most tracks on one shot, and frames of one. */
export const MOST_TRACKS = 40
const MOST_FRAMES = 100_000
export const TRACK_ID = '^[a-z0-9]{8,32}$'

const corner = Type.Number({ minimum: -10_000, maximum: 10_000 })
const frame = Type.Integer({ minimum: 0, maximum: 1e7 })

/** Where a shape is in the frames of a shot. */
export const TrackSchema = Type.Object(
  {
    id: Type.String({ pattern: TRACK_ID, description: 'What parts of masks that follow it name.' }),
    frame: {
      ...frame,
      description: 'Of the footage: the frame in which shapes that follow it stand as they are drawn.',
    },
    motions: Type.Array(Type.Unsafe<Motion>({ type: 'string', enum: [...ALL_MOTIONS] }), { maxItems: 5 }),
    first: { ...frame, description: 'The frame of the first corners.' },
    corners: Type.Array(Type.Array(corner, { minItems: 8, maxItems: 8 }), {
      minItems: 1,
      maxItems: MOST_FRAMES,
      description: 'Across and down of the four corners of its frame, in per cent; one list a frame.',
    }),
    used: Type.Array(Type.Number({ minimum: 0, maximum: 1 }), {
      minItems: 1,
      maxItems: MOST_FRAMES,
      description: 'Share of the shape that could be used, frame by frame.',
    }),
    lost: Type.Array(frame, { maxItems: 2, description: 'Frames in which it was lost on its way forward or back.' }),
    smooth: Type.Number({
      minimum: 0,
      maximum: 50,
      description: 'Standard deviation of a blur over time, frames.',
    }),
  },
  { additionalProperties: false },
)
export type Track = Type.Static<typeof TrackSchema>

/** Rules that a schema cannot state. @param frames of the footage. Throws naming the track. */
export function checkTracks(tracks: readonly Track[], frames: number): void {
  for (const [i, { id, first, corners, used }] of tracks.entries()) {
    const wrong =
      tracks.findIndex((t) => t.id === id) !== i
        ? 'there are two of that name'
        : corners.length !== used.length
          ? `it has corners of ${corners.length} frames and shares of ${used.length}; each frame has both`
          : first + corners.length > frames
            ? `it goes to frame ${first + corners.length - 1}; the footage ends with ${frames - 1}`
            : null
    if (wrong) throw new FogBathError('range', `tracks/${i}`, `The track ${id} cannot be kept: ${wrong}.`)
  }
}

const thousandths = (v: number): number => Math.round(1000 * v) / 1000

/** What tracking found, as it is kept. @param found in the order of frames, without gaps */
export function trackOf(
  id: string,
  frameOfShape: number,
  motions: readonly Motion[],
  { found, lost }: { readonly found: readonly Tracked[]; readonly lost: readonly number[] },
): Track {
  return {
    id,
    frame: frameOfShape,
    motions: [...motions],
    first: found[0]!.frame,
    corners: found.map(({ corners }) => corners.flatMap(({ x, y }) => [thousandths(x), thousandths(y)])),
    used: found.map(({ used }) => Math.round(100 * used) / 100),
    lost: [...lost],
    smooth: 0,
  }
}

/** Its frame's corners in a frame of the footage; before its first and behind its last it stays. */
function cornersAt({ first, corners, smooth }: Track, frame: number): Corner[] {
  const last = corners.length - 1
  const at = Math.min(last, Math.max(0, frame - first))
  const half = smooth > 0 ? gaussian(smooth) : [1]
  const sum = new Float64Array(8)
  let weight = 0
  // Near the ends as far as both sides have frames: what moves evenly stays where it is.
  const both = Math.min(half.length - 1, at, last - at)
  for (let k = -both; k <= both; k++) {
    const w = half[Math.abs(k)]!
    weight += w
    corners[at + k]!.forEach((v, i) => (sum[i]! += w * v))
  }
  return [0, 2, 4, 6].map((i) => ({ x: sum[i]! / weight, y: sum[i + 1]! / weight }))
}

/**
 * A track that was taken up again in a frame: what was found from there on in place of what stood there. Shapes that follow it
 * stay as they are drawn. @param on began with the shape as it is seen in its frame @param way which frames it may replace
 */
export function goneOn(track: Track, on: Track, way: 'both' | 'forward' | 'back'): Track {
  const last = (t: Track): number => t.first + t.corners.length - 1
  const at = on.frame
  const here = cornersAt({ ...track, smooth: 0 }, at)
  const moved = on.corners.map((_, i) => {
    const warp = warpAt({ ...on, smooth: 0 }, on.first + i)
    return here.flatMap(({ x, y }) => [...warped(warp, x, y)].map(thousandths))
  })
  const before = way === 'forward' ? Math.max(0, at - track.first) : 0
  const behind = way === 'back' ? Math.max(0, last(track) - at) : 0
  // Where it was not found between the two it stays, and nothing of it could be used.
  const gap = <T>(frames: number, of: T): T[] => Array.from({ length: Math.max(0, frames) }, () => of)
  const joined = <T>(old: readonly T[], own: readonly T[], held: T): T[] => [
    ...old.slice(0, before),
    ...gap(before - old.length, held),
    ...own,
    ...gap(behind - old.length, held),
    ...(behind > 0 ? old.slice(-behind) : []),
  ]
  return {
    ...track,
    motions: on.motions,
    first: before > 0 ? track.first : on.first,
    corners: joined(
      track.corners,
      moved,
      here.flatMap(({ x, y }) => [x, y]),
    ),
    used: joined(track.used, on.used, 0),
    lost: [
      ...new Set([...track.lost.filter((f) => (way === 'forward' ? f < at : way === 'back' && f > at)), ...on.lost]),
    ],
  }
}

/** From where a shape stands as it is drawn to where it is in a frame of the footage, in per cent of width and height. */
export function warpAt(track: Track, frame: number): Warp {
  if (frame === track.frame) return STILL
  return between(cornersAt(track, track.frame), cornersAt(track, frame))
}
