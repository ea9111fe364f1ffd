import { type ChartName } from '@fogbath/core/charts'
import { type Triple } from '@fogbath/core/colour'
import {
  NO_MARKS,
  NOTHING_AROUND,
  findBath,
  lineAt,
  wholeLine,
  type Bath,
  type Instant,
  type Line,
  type Look,
  type Recipe,
} from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import type { Track } from '@fogbath/core/tracking'
import { useStorage } from '@vueuse/core'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import type { Production, Shot, Trial } from '@fogbath/contract'
import type { ShotValues } from '../../api/client'
import type { FrameOrder, MaskView } from '../../workers/protocol'
import type { ProbeReading } from '../../workers/probe'
import { frameOrder, inTime } from '../../workers/order'
import { steady } from '../steady'
import { EMPTY, type History } from './history'

/** What waits for a click on the picture. */
export interface Sampler {
  /** The control that asked, so that it can show itself waiting. */
  readonly name: string
  /**
   * @param coming what comes to the chosen bath where one clicked: scene light and code values
   * @param footage scene light of the footage there, before any preparation
   */
  readonly take: (coming: ProbeReading['coming'][number], footage: Triple) => void
}

/** A shot's own fields that the bench changes. */
export type ShotFields = Partial<Pick<ShotValues, 'preparation' | 'marks' | 'tracks' | 'trialId'>>

/** A change that waits to be saved, and the row that it was made on. */
export interface WaitingShot {
  readonly base: Shot
  readonly fields: ShotFields
}
export interface WaitingLine extends Look {
  readonly base: Trial
}

/** What the bench shows: the shot with its current trial, the line being worked on, and where one is looking. */
export function benchState() {
  const production = shallowRef<Production | null>(null)
  /** The shot as the server last had it, and what waits to be saved: of all shots, by their ids. */
  const shotThere = shallowRef<Shot | null>(null)
  const waitingShots = shallowReactive(new Map<number, WaitingShot>())
  const waitingLines = shallowReactive(new Map<number, WaitingLine>())
  /** A track that is being made: it is shown as far as it goes. */
  const liveTrack = shallowRef<{ readonly shotId: number; readonly track: Track } | null>(null)
  /** The shot as it is here. */
  const shot = computed<Shot | null>(() => {
    const there = shotThere.value
    if (!there) return null
    const here = { ...there, ...waitingShots.get(there.id)?.fields }
    const live = liveTrack.value?.shotId === here.id ? liveTrack.value.track : null
    return live ? { ...here, tracks: [...here.tracks.filter(({ id }) => id !== live.id), live] } : here
  })
  /** The trial as the server last had it. */
  const trial = shallowRef<Trial | null>(null)
  /** The look that is being worked on, and what the trial has behind it. */
  const recipe = shallowRef<Recipe>(SHIPPED_RECIPES[0]!)
  const after = shallowRef<readonly Bath[]>([])
  const line = computed<Line>(() => {
    const preparation = shot.value?.preparation ?? NOTHING_AROUND.preparation
    const own = { preparation, recipe: recipe.value, after: after.value }
    return shot.value ? inTime(shot.value, own) : own
  })
  const frame = ref(0)
  /** The line as it is in the frame that is looked at. */
  const lineNow = computed(() => lineAt(line.value, frame.value))
  /** The baths of all three parts, in their order. */
  const inLine = computed(() => wholeLine(line.value))
  const find = (id: string | null): Bath | undefined => findBath({ baths: inLine.value }, id)
  /** A line that is only pointed at in the palette. */
  const preview = shallowRef<Line | null>(null)
  const chosen = ref<string | null>(null)
  /** Further baths that are marked together with the chosen one. */
  const marked = ref<readonly string[]>([])
  /** Shots that are chosen in the rail, by their ids. */
  const markedShots = ref<readonly number[]>([])
  const tap = ref<number | null>(null)
  const history = shallowRef<History>(EMPTY)
  /** The frame at which a shot is opened next, where that is not its telling one. */
  const frameWanted = shallowRef<{ readonly shotId: number; readonly frame: number } | null>(null)
  /** First and last frame that are played, within the shot's. */
  const range = ref<readonly [number, number]>([0, 0])
  const chart = ref<ChartName | null>(null)
  /** The chart covers only the right half of the shot. */
  const half = ref(false)
  /** Copied baths; kept in the browser, so that they can be pasted in another shot, production or window. */
  const clipboard = useStorage<Bath[]>('fogbath.clipboard', [])
  /** Part of the chosen bath's mask that is being worked on; null while the mask is not. */
  const part = ref<number | null>(null)
  /** A click on the picture picks a colour for that part. */
  const picking = ref(false)
  /** What is picked does not belong to it. */
  const pickingAway = ref(false)
  /** A click on the picture goes to a control. */
  const sampler = shallowRef<Sampler | null>(null)
  /** The mask is shown instead of the picture. */
  const maskShown = ref(false)
  /** How it is shown then. */
  const maskView = useStorage<MaskView>('fogbath.mask-view', 'white')
  /** The drawings of the chosen bath lie large over the picture. */
  const drawing = ref(false)
  /** Readings are taken under the chosen bath's mask only. */
  const underMask = ref(false)
  const problem = ref('')
  /** A shot is on its way; what is seen is still the one before. */
  const opening = ref(false)

  const bath = computed(() => find(chosen.value) ?? null)
  /** The chosen bath as it is in the frame that is looked at. */
  const bathNow = computed(() => findBath({ baths: wholeLine(lineNow.value) }, chosen.value) ?? null)
  /** That frame in its shot. */
  const instant = computed<Instant>(() => {
    const { first, last } = shot.value ?? { first: 0, last: 0 }
    return { frame: frame.value, first, length: last - first + 1 }
  })
  /** The chosen bath and those marked with it, in the order of the line. */
  const baths = computed(() => inLine.value.filter((b) => b.id === chosen.value || marked.value.includes(b.id)))
  const shots = computed(() => production.value?.shots ?? [])
  const marks = computed(() => shot.value?.marks ?? NO_MARKS)
  /** The frame on the bench through the line as it is now. */
  const order = steady((): FrameOrder | null => shot.value && frameOrder(shot.value, line.value, frame.value))

  /** Puts what the server answered in place of what is known of a shot. */
  function noteShot(saved: Shot): void {
    if (shotThere.value?.id === saved.id) shotThere.value = saved
    if (production.value)
      production.value = {
        ...production.value,
        shots: production.value.shots.map((s) => (s.id === saved.id ? saved : s)),
      }
  }

  function noteTrial(saved: Trial): void {
    const known = [shotThere.value, ...shots.value].find((s) => s?.id === saved.shotId)
    if (known) noteShot({ ...known, trials: known.trials.map((t) => (t.id === saved.id ? saved : t)) })
    if (trial.value?.id === saved.id) trial.value = saved
  }

  /** Turns to another look; what was chosen in the old one and is not there any more is no longer. */
  function turnTo(next: Look): void {
    recipe.value = next.recipe
    after.value = next.after
    keepChoice()
  }

  /** The baths as they stood when the choice was kept last. */
  let stood: readonly string[] = []

  /** Where the chosen bath is gone, the one that stood beside it is chosen. */
  function keepChoice(): void {
    if (!find(chosen.value)) {
      const at = stood.indexOf(chosen.value ?? '')
      const beside = at < 0 ? [] : [...stood.slice(0, at).reverse(), ...stood.slice(at + 1)]
      chosen.value = beside.find((id) => find(id)) ?? (recipe.value.baths[0] ?? inLine.value[0])?.id ?? null
    }
    stood = inLine.value.map((bath) => bath.id)
    marked.value = marked.value.filter((id) => find(id))
    if (tap.value !== null && tap.value > inLine.value.length) tap.value = null
  }

  return {
    production,
    shot,
    shotThere,
    liveTrack,
    waitingShots,
    waitingLines,
    trial,
    recipe,
    after,
    line,
    lineNow,
    inLine,
    preview,
    chosen,
    marked,
    tap,
    history,
    markedShots,
    frame,
    frameWanted,
    range,
    chart,
    half,
    clipboard,
    part,
    picking,
    pickingAway,
    sampler,
    maskShown,
    maskView,
    drawing,
    underMask,
    problem,
    opening,
    bath,
    bathNow,
    instant,
    baths,
    shots,
    marks,
    order,
    noteShot,
    noteTrial,
    turnTo,
    keepChoice,
  }
}
export type BenchState = ReturnType<typeof benchState>
