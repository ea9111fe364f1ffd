import type { EditPlan, PlannedEvent } from '@fogbath/contract'
import { cutInWords, footageOf } from '@fogbath/core/edits'
import type { Group } from '@fogbath/core/footage'
import { filesOf } from './batch'

/** What becomes of an event, in words. @param likeName name of the shot whose treatment it takes */
export function stateInWords(event: PlannedEvent, likeName: string | null): string {
  if (event.range === null) return 'waits for its footage'
  if (event.shotId === null) return likeName === null ? 'new' : `new, treated as ${likeName}`
  const { trimmed, moved, was } = event
  const words = [...(trimmed ? [`trimmed, was ${was!.first} to ${was!.last}`] : []), ...(moved ? ['moved'] : [])]
  return words.join('; ') || 'as it is'
}

/** Of what it shows: frames, and how. */
export const shownInWords = ({ range, cut }: PlannedEvent): string =>
  range && cut ? [`frames ${range.first} to ${range.last}`, cutInWords(cut)].filter(Boolean).join(', ') : ''

/** What taking it in does, in words. @param removed shots that go */
export function planInWords({ events }: EditPlan, removed: number): string {
  const count = (of: (event: PlannedEvent) => boolean, word: string): string[] => {
    const n = events.filter(of).length
    return n > 0 ? [`${n} ${word}`] : []
  }
  const here = (event: PlannedEvent): boolean => event.range !== null
  const words = [
    ...count((e) => here(e) && e.shotId === null, 'new'),
    ...count((e) => e.trimmed, 'trimmed'),
    ...count((e) => e.moved, 'moved'),
    ...(removed > 0 ? [`${removed} removed`] : []),
    ...count((e) => !here(e), 'waiting for footage'),
  ]
  return words.join(', ') || 'nothing changes'
}

/** Groups of files that events wait for, each once: of each event the likeliest that has not been brought yet. */
export function wantedOf(
  { events }: EditPlan,
  groups: readonly Group<File>[],
  brought: ReadonlySet<string>,
): Group<File>[] {
  const named = groups.map((group) => {
    const { name } = filesOf(group)[0]!
    return { name, sequence: group.type === 'sequence', group }
  })
  const left = named.filter(({ name }) => !brought.has(name))
  const missing = events.filter((event) => event.range === null)
  return [...new Set(missing.flatMap((event) => footageOf(event, left)[0]?.group ?? []))]
}

/** Files of the watched folder that events wait for; each list is one clip or one sequence. */
export const watchedOf = ({ events }: EditPlan): (readonly string[])[] => {
  const lists = events.filter((event) => event.watched.length > 0).map((event) => event.watched)
  return [...new Map(lists.map((paths) => [paths.join('\n'), paths])).values()]
}
