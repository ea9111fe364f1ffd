import { NO_MARKS, SHIPPED_RECIPES, findBath, type Bath, type ChartName, type Recipe, type Triple } from '@fogbath/core'
import { useStorage } from '@vueuse/core'
import { computed, ref, shallowReactive, shallowRef } from 'vue'
import type { Production, Shot, Trial } from '../../api/types'
import type { ProbeReading } from '../../workers/probe'
import { EMPTY, type History } from '../../bench/history'

/** What waits for a click on the picture. */
export interface Sampler {
  /** The control that asked, so that it can show itself waiting. */
  readonly name: string
  /**
   * @param coming what comes to the chosen bath where one clicked: scene light and code values
   * @param footage scene light of the footage there, before trims
   */
  readonly take: (coming: ProbeReading['coming'][number], footage: Triple) => void
}

/** A shot's own fields that the bench changes. */
export type ShotFields = Partial<Pick<Shot, 'trims' | 'marks' | 'trialId'>>

/** A change that waits to be saved, and the row that it was made on. */
export interface WaitingShot {
  readonly base: Shot
  readonly fields: ShotFields
}
export interface WaitingLine {
  readonly base: Trial
  readonly recipe: Recipe
}

/** What the bench shows: the shot with its current trial, the line being worked on, and where one is looking. */
export function benchState() {
  const production = shallowRef<Production | null>(null)
  /** The shot as the server last had it, and what waits to be saved: of all shots, by their ids. */
  const shotThere = shallowRef<Shot | null>(null)
  const waitingShots = shallowReactive(new Map<number, WaitingShot>())
  const waitingLines = shallowReactive(new Map<number, WaitingLine>())
  /** The shot as it is here. */
  const shot = computed<Shot | null>(() => {
    const there = shotThere.value
    return there && { ...there, ...waitingShots.get(there.id)?.fields }
  })
  /** The trial as the server last had it. */
  const trial = shallowRef<Trial | null>(null)
  const recipe = shallowRef<Recipe>(SHIPPED_RECIPES[0]!)
  /** A recipe that is only pointed at in the palette. */
  const preview = shallowRef<Recipe | null>(null)
  const chosen = ref<string | null>(null)
  /** Further baths that are marked together with the chosen one. */
  const marked = ref<readonly string[]>([])
  /** Shots that are chosen in the rail, by their ids. */
  const markedShots = ref<readonly number[]>([])
  const tap = ref<number | null>(null)
  const history = shallowRef<History>(EMPTY)
  const frame = ref(0)
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
  /** A click on the picture goes to a control. */
  const sampler = shallowRef<Sampler | null>(null)
  /** The mask is shown instead of the picture. */
  const maskShown = ref(false)
  /** Readings are taken under the chosen bath's mask only. */
  const underMask = ref(false)
  const problem = ref('')
  /** A shot is on its way; what is seen is still the one before. */
  const opening = ref(false)

  const bath = computed(() => findBath(recipe.value, chosen.value) ?? null)
  /** The chosen bath and those marked with it, in the order of the line. */
  const baths = computed(() => recipe.value.baths.filter((b) => b.id === chosen.value || marked.value.includes(b.id)))
  const shots = computed(() => production.value?.shots ?? [])
  const marks = computed(() => shot.value?.marks ?? NO_MARKS)

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

  /** Turns to another line; what was chosen in the old one and is not there any more is no longer. */
  function turnTo(next: Recipe): void {
    recipe.value = next
    const has = (id: string): boolean => findBath(next, id) !== undefined
    if (!chosen.value || !has(chosen.value)) chosen.value = next.baths[0]?.id ?? null
    marked.value = marked.value.filter(has)
    if (tap.value !== null && tap.value > next.baths.length) tap.value = null
  }

  return {
    ...{ production, shot, shotThere, waitingShots, waitingLines, trial, recipe, preview, chosen, marked, tap },
    ...{
      history,
      markedShots,
      frame,
      range,
      chart,
      half,
      clipboard,
      part,
      picking,
      sampler,
      maskShown,
      underMask,
      problem,
      opening,
    },
    ...{ bath, baths, shots, marks, noteShot, noteTrial, turnTo },
  }
}
export type BenchState = ReturnType<typeof benchState>
