import { luminance } from '@fogbath/core/colour'
import { MOST_PROBES, PROBE_REACH, placeInLine, type ProbeMark } from '@fogbath/core/line'
import { MOST_PICKS, changePartSettings } from '@fogbath/core/masks'
import { computed, shallowRef, watch } from 'vue'
import { steady } from '../stores/steady'
import { useBenchStore } from '../stores/bench'
import type { ProbeReading } from '../workers/probe'
import type { usePicture } from './usePicture'

/** Up to eight places of the shot that are measured before and after each bath; they are kept on the shot. */
export function useProbes(picture: ReturnType<typeof usePicture>) {
  const bench = useBenchStore()
  const places = computed<readonly ProbeMark[]>(() => bench.marks.probes)
  /** What is measured: the frame on the bench, or the chart over it, at the size of the picture. */
  const question = steady(() => {
    const { order } = bench
    const shown = picture.request.value
    return order && shown && { ...order, source: shown.source, width: shown.width }
  })
  const readings = shallowRef<readonly ProbeReading[]>([])
  let run = 0

  /** Frames that pass by in playing are not measured. */
  async function read(): Promise<void> {
    if (picture.going.value) return
    const mine = ++run
    const of = question.value
    if (!of || places.value.length === 0) return void (readings.value = [])
    const got = await Promise.all(places.value.map((p) => picture.engines.side.probe(of, p.u, p.v, p.reach)))
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
    const { bath, part } = bench
    const chosen = part === null ? undefined : bath?.mask?.parts[part]
    if (!question.value || !bath?.mask || chosen?.type !== 'colour') return
    const { steps } = await picture.engines.side.probe(question.value, u, v, Math.max(PROBE_REACH, reach))
    const entering = bath.mask.reads === 'footage' ? 0 : bench.inLine.indexOf(bath)
    const list = bench.pickingAway ? 'without' : 'picks'
    const colours = [...chosen.settings[list], [...steps[entering]!.lab]].slice(-MOST_PICKS)
    bench.setMask(bath.id, changePartSettings(bath.mask, part!, { [list]: colours }), '')
  }

  /** Gives what comes to the chosen bath at a place to the control that waits for it. */
  async function sample(u: number, v: number, reach = PROBE_REACH): Promise<void> {
    const { bath, sampler } = bench
    if (!question.value || !bath || !sampler) return
    const { coming, scene } = await picture.engines.side.probe(question.value, u, v, Math.max(PROBE_REACH, reach))
    sampler.take(coming[placeInLine({ baths: bench.inLine }, bath.id)]!, scene)
  }

  /** Takes what a probe measures for the footage's own mid grey, before any preparation; null forgets it. */
  function markGrey(light: readonly number[] | null): void {
    const grey = light && luminance(light)
    bench.setMarks({ ...bench.marks, grey: grey === null ? null : Math.min(1e4, Math.max(1e-6, grey)) })
  }

  watch([question, places, picture.going], () => void read().catch(() => undefined), { immediate: true })
  return { places, readings, add, pick, sample, remove, clear, markGrey }
}
