import { changeBath, editAt, keyedAt, putPartAt, toggledAt, withLane, type Bath } from '@fogbath/core/line'
import { valueAt, type Lane } from '@fogbath/core/keys'
import { back } from '@fogbath/core/numbers'
import { following, moving, partOfMask, type MaskPart } from '@fogbath/core/masks'
import { rebased, warpAt } from '@fogbath/core/tracking'
import type { BenchEdits } from './edits'
import type { BenchState } from './state'

/** Changes of what is another from frame to frame: lanes of settings, and parts of masks that move. */
export function benchKeys(s: BenchState, edits: BenchEdits) {
  const valueOf = (bath: Bath, name: string): unknown => (name === 'strength' ? bath.strength : bath.settings[name])
  const withValue = (name: string, value: unknown, bath: Bath): Partial<Bath> =>
    name === 'strength' ? { strength: value as number } : { settings: { ...bath.settings, [name]: value } }

  /** Puts another lane in the place of one; without one it is what it last was. */
  function setLane(name: string, lane: Lane | null, key = ''): void {
    const { bath, bathNow } = { bath: s.bath.value, bathNow: s.bathNow.value }
    if (!bath || !bathNow) return
    const rest = lane ? {} : withValue(name, valueOf(bathNow, name), bath)
    const change = { ...rest, keys: withLane(bath.keys, name, lane) }
    const next = editAt(s.line.value, bath.id, (part) => changeBath(part, bath.id, change))
    edits.changeLine(next, key && `${bath.id}/lane/${name}/${key}`)
  }
  /** A key of a setting of the chosen bath, or of its strength, in this frame: there where it was not, else gone. */
  function toggleKey(name: string): void {
    const { bath, bathNow } = { bath: s.bath.value, bathNow: s.bathNow.value }
    if (bath && bathNow) setLane(name, toggledAt(bath.keys?.[name], valueOf(bathNow, name), s.instant.value))
  }

  /** The same for the strength of the look. */
  function setLookLane(lane: Lane | null, key = ''): void {
    const { recipe } = s
    const strength = lane ? recipe.value.strength : s.lineNow.value.recipe.strength
    edits.change(
      { ...recipe.value, strength, keys: withLane(recipe.value.keys, 'strength', lane) },
      key && `look/${key}`,
    )
  }
  const toggleLookKey = (): void =>
    setLookLane(toggledAt(s.recipe.value.keys?.['strength'], s.lineNow.value.recipe.strength, s.instant.value))
  function setLookStrength(strength: number): void {
    const lane = s.recipe.value.keys?.['strength'] as Lane<number> | undefined
    if (!lane) return edits.change({ ...s.recipe.value, strength }, 'whole')
    setLookLane(keyedAt(lane, strength, s.instant.value), 'whole')
  }

  /** A part of the chosen bath's mask as what becomes of it. */
  function setPart(index: number, become: (part: MaskPart) => MaskPart, key = ''): void {
    const bath = s.bath.value
    if (bath?.mask) edits.setMask(bath.id, partOfMask(bath.mask, index, become), key && `${index}/${key}`)
  }
  const setPartSettings = (index: number, settings: Record<string, unknown>, key: string): void =>
    setPart(index, (part) => putPartAt(part, settings, s.instant.value), key)
  /** A key of the whole part in this frame. */
  const togglePartKey = (index: number): void =>
    setPart(index, (part) => {
      const lane = part.moves as Lane<Record<string, unknown>> | undefined
      const now = lane ? valueAt(lane, s.frame.value, s.instant.value) : (part.settings as Record<string, unknown>)
      const next = toggledAt(lane, now, s.instant.value)
      return next ? moving(part, next) : moving({ ...part, settings: now } as MaskPart, null)
    })
  const setPartLane = (index: number, lane: Lane | null, key = ''): void =>
    setPart(index, (part) => moving(part, lane), key && `lane/${key}`)
  /** A part that was tracked for the first time: it stands as it was seen in the frame that was tracked from. */
  const beginFollowing = (index: number, id: string, frame: number): void =>
    setPart(index, (part) => {
      const lane = part.moves as Lane<Record<string, unknown>> | undefined
      const settings = lane ? valueAt(lane, frame, s.instant.value) : part.settings
      return following(moving({ ...part, settings } as MaskPart, null), id)
    })
  /** A part rides on the track of another, or on none; it stays where it is seen in this frame. */
  function ride(index: number, id: string | null): void {
    const { shot, bathNow } = { shot: s.shot.value, bathNow: s.bathNow.value }
    const seen = bathNow?.mask?.parts[index]
    if (!shot || !seen) return
    const track = shot.tracks.find((t) => t.id === id)
    const aspect = shot.medium.info.width / shot.medium.info.height
    setPart(index, (part) => {
      const drawn = moving({ ...part, settings: seen.settings } as MaskPart, null)
      const here = seen.warp ? rebased(drawn, back(seen.warp), aspect) : drawn
      return following(track ? rebased(here, warpAt(track, s.frame.value), aspect) : here, track?.id ?? null)
    })
  }

  return {
    setLane,
    toggleKey,
    setLookLane,
    toggleLookKey,
    setLookStrength,
    setPart,
    setPartSettings,
    togglePartKey,
    setPartLane,
    beginFollowing,
    ride,
  }
}
