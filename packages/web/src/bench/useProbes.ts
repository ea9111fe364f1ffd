import {
  MOST_PICKS,
  MOST_PROBES,
  PROBE_REACH,
  changePartSettings,
  luminance,
  placeInLine,
  type ProbeMark,
} from '@fogbath/core'
import { computed, shallowRef } from 'vue'
import { watchEach } from '../components/watchEach'
import { useBenchStore } from '../stores/bench'
import type { ProbeReading } from '../workers/probe'
import type { usePicture } from './usePicture'

/** Up to eight places of the shot that are measured before and after each bath; they are kept on the shot. */
export function useProbes(picture: ReturnType<typeof usePicture>) {
  const bench = useBenchStore()
  const places = computed<readonly ProbeMark[]>(() => bench.marks.probes)
  const readings = shallowRef<readonly ProbeReading[]>([])
  let run = 0

  /** Frames that pass by in playing are not measured. */
  async function read(): Promise<void> {
    if (picture.playing.value) return
    const question = picture.request()
    const mine = ++run
    if (!question || places.value.length === 0) return void (readings.value = [])
    const got = await Promise.all(places.value.map((p) => picture.engines.side.probe(question, p.u, p.v, p.reach)))
    if (mine === run) readings.value = got
  }

  const put = (probes: readonly ProbeMark[]): void => bench.setMarks({ ...bench.marks, probes: [...probes] })
  /** A ninth one takes the place of the first. */
  const add = (u: number, v: number, reach = PROBE_REACH): void =>
    put([...places.value, { u, v, reach: Math.min(0.5, Math.max(PROBE_REACH, reach)) }].slice(-MOST_PROBES))
  const remove = (index: number): void => put(places.value.filter((_, i) => i !== index))
  const clear = (): void => put([])

  /** Gives the colour of a place to the colour selection that is being worked on, as the mask reads it. */
  async function pick(u: number, v: number, reach = PROBE_REACH): Promise<void> {
    const question = picture.request()
    const { bath, part } = bench
    const chosen = part === null ? undefined : bath?.mask?.parts[part]
    if (!question || !bath?.mask || chosen?.type !== 'colour') return
    const { steps } = await picture.engines.side.probe(question, u, v, Math.max(PROBE_REACH, reach))
    const entering = bath.mask.reads === 'footage' ? 0 : bench.recipe.baths.indexOf(bath)
    const picks = [...chosen.settings.picks, [...steps[entering]!.lab]].slice(-MOST_PICKS)
    bench.setMask(bath.id, changePartSettings(bath.mask, part!, { picks }), '')
  }

  /** Gives what comes to the chosen bath at a place to the control that waits for it. */
  async function sample(u: number, v: number, reach = PROBE_REACH): Promise<void> {
    const question = picture.request()
    const { bath, sampler } = bench
    if (!question || !bath || !sampler) return
    const { coming, scene } = await picture.engines.side.probe(question, u, v, Math.max(PROBE_REACH, reach))
    sampler.take(coming[placeInLine(bench.recipe, bath.id)]!, scene)
  }

  /** Takes what a probe measures for the footage's own mid grey, before any trims; null forgets it. */
  function markGrey(light: readonly number[] | null): void {
    const grey = light && luminance(light)
    bench.setMarks({ ...bench.marks, grey: grey === null ? null : Math.min(1e4, Math.max(1e-6, grey)) })
  }

  watchEach(
    () => [
      ...[bench.recipe, bench.shot?.trims, bench.frame, bench.shot?.id, bench.chart, bench.half, places.value],
      picture.playing.value,
    ],
    () => void read().catch(() => undefined),
    { immediate: true },
  )
  return { places, readings, add, pick, sample, remove, clear, markGrey }
}
