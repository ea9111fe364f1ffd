import type { Ref } from 'vue'
import { useRouter } from 'vue-router'
import { useBenchStore } from '../stores/bench'
import type { BenchAction } from './keys'
import type { useCompare } from './useCompare'
import { useKeys } from './useKeys'
import type { usePicture } from './usePicture'
import type { useReel } from './useReel'

export interface ActionParts {
  readonly picture: ReturnType<typeof usePicture>
  readonly comparing: ReturnType<typeof useCompare>
  readonly zoom: Ref<'fit' | 1 | 2 | 4>
  readonly loop: Ref<boolean>
  readonly reel: ReturnType<typeof useReel>
  readonly shown: Ref<{
    adding: boolean
    help: boolean
    wall: boolean
    shots: boolean
    notes: boolean
    render: boolean
    bare: boolean
  }>
  readonly keepProof: () => void
  readonly toggleBare: () => Promise<void>
}

const ZOOMS = ['fit', 1, 2, 4] as const

/** What the bench's keys do; buttons use the same actions. */
export function useBenchActions(parts: ActionParts): Record<BenchAction, () => unknown> {
  const bench = useBenchStore()
  const router = useRouter()
  const { picture, comparing, zoom, loop, reel, shown } = parts

  function stepFrame(by: number): void {
    const shot = bench.shot
    if (shot) bench.frame = Math.min(shot.last, Math.max(shot.first, bench.frame + by))
  }
  /** Through the line from the untreated picture (0) to the finished one. */
  function walk(by: number): void {
    const count = bench.inLine.length
    const next = Math.min(count, Math.max(0, (bench.tap ?? count) + by))
    bench.tap = next === count ? null : next
  }
  function stepShot(by: number): void {
    const next = bench.shots[bench.shots.findIndex((s) => s.id === bench.shot?.id) + by]
    if (next) void router.push(`/bench/${next.id}`)
  }
  function tapChosen(): void {
    const at = bench.inLine.findIndex((b) => b.id === bench.chosen) + 1
    if (at > 0) bench.tap = bench.tap === at ? null : at
  }
  const remove = (): void => bench.remove(bench.baths.map((bath) => bath.id))

  const actions: Record<BenchAction, () => unknown> = {
    play: () => (picture.playing.value ? picture.stop() : picture.play()),
    frameBack: () => stepFrame(-1),
    frameOn: () => stepFrame(1),
    tenBack: () => stepFrame(-10),
    tenOn: () => stepFrame(10),
    firstFrame: () => stepFrame(-Infinity),
    lastFrame: () => stepFrame(Infinity),
    backwards: () => picture.shuttle(-1),
    stop: () => picture.stop(),
    forwards: () => picture.shuttle(1),
    rangeFrom: () => (bench.range = [bench.frame, Math.max(bench.frame, bench.range[1])]),
    rangeTo: () => (bench.range = [Math.min(bench.frame, bench.range[0]), bench.frame]),
    rangeAll: () => bench.shot && (bench.range = [bench.shot.first, bench.shot.last]),
    reel: async () => {
      await picture.stop()
      reel.on.value = !reel.on.value
    },
    loop: () => (loop.value = !loop.value),
    hold: () => (comparing.held.value = true),
    wipe: () => comparing.toggle('wipe'),
    pair: () => comparing.toggle('pair'),
    flip: bench.flipTrial,
    zoom: () => (zoom.value = ZOOMS[(ZOOMS.indexOf(zoom.value) + 1) % ZOOMS.length]!),
    bare: parts.toggleBare,
    walkBack: () => walk(-1),
    walkOn: () => walk(1),
    tap: tapChosen,
    mask: () => bench.bath?.mask && (bench.maskShown = !bench.maskShown),
    add: () => (shown.value.adding = true),
    inOut: () => bench.bath && bench.setBath(bench.bath.id, { in: !bench.bath.in }),
    duplicate: () => bench.chosen && bench.duplicate(bench.chosen),
    remove,
    copy: bench.copy,
    paste: bench.paste,
    undo: bench.undo,
    redo: bench.redo,
    shotBack: () => stepShot(-1),
    shotOn: () => stepShot(1),
    shotWall: () => (shown.value.shots = true),
    proof: parts.keepProof,
    wall: () => (shown.value.wall = true),
    note: () => (shown.value.notes = true),
    render: () => (shown.value.render = true),
    help: () => (shown.value.help = true),
  }
  useKeys(
    { ...actions, escape: () => (shown.value.bare = false) },
    (i) => (bench.chosen = bench.inLine[i]?.id ?? bench.chosen),
    { hold: () => (comparing.held.value = false) },
  )
  return actions
}
