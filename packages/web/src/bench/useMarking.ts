import type { Shot } from '@fogbath/contract'
import { storeToRefs } from 'pinia'
import { useBenchStore } from '../stores/bench'

/** Marks shots by clicks: Ctrl marks one, Shift a run from the shot on the bench; a plain click opens it. */
export function useMarking(open: (shot: Shot) => void) {
  const bench = useBenchStore()
  const { markedShots: marked } = storeToRefs(bench)
  const toggle = (id: number): void =>
    void (marked.value = marked.value.includes(id)
      ? marked.value.filter((other) => other !== id)
      : [...marked.value, id])

  function choose(s: Shot, e: MouseEvent): void {
    if (e.ctrlKey || e.metaKey) toggle(s.id)
    else if (e.shiftKey) {
      const ids = bench.shots.map((x) => x.id)
      const [from, to] = [ids.indexOf(bench.shot!.id), ids.indexOf(s.id)].sort((a, b) => a - b) as [number, number]
      marked.value = ids.slice(from, to + 1)
    } else {
      marked.value = []
      open(s)
    }
  }
  return { marked, choose, toggle }
}
