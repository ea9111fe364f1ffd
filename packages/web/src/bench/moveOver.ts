import { kindById } from '@fogbath/core/baths'
import { moveInLine, notIn, partOf, type PartName } from '@fogbath/core/line'
import type { useBenchStore } from '../stores/bench'
import { addedTo } from '../stores/bench/edits'

const CHANGES_HANDS: Record<PartName, string> = {
  preparation: 'is this shot’s now, before the look: it stays when another look comes, and all trials share it.',
  look: 'is part of the look now: it goes where the look goes.',
  after: 'is this shot’s now, behind the look: other shots with this look do not have it.',
}

interface Says {
  readonly info: (text: string) => unknown
  readonly warning: (text: string) => unknown
}

/** Moves a bath of the line to a place in a part, and says what changes hands where that is over a joint. */
export function moveOver(
  bench: ReturnType<typeof useBenchStore>,
  says: Says,
  id: string,
  to: PartName,
  index: number,
): void {
  const bath = bench.inLine.find((b) => b.id === id)
  const from = partOf(bench.line, id)
  if (!bath || !from) return
  const why = from === to ? null : notIn(to, bath)
  if (why) return void says.warning(why)
  const before = bench.line
  bench.changeLine(moveInLine(before, id, to, index))
  if (from === to) return
  // In another part it is another bath: trials that were copied may hold the one that it was.
  bench.chosen = addedTo(before, bench.line) ?? bench.chosen
  says.info(`${bath.name || kindById(bath.kind).label} ${CHANGES_HANDS[to]}`)
}
