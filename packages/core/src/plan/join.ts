import { IDENTITY, multiply, transform, type Matrix3, type Triple } from '../colour/matrix'
import { chain, plainStages } from '../stages/plain'
import { cacheKey, mix, type PointStage, type Tone } from '../stages/stage'

/** Stages with neighbours joined into one where that loses nothing, and without those that do nothing. */
export function joined(stages: readonly PointStage[]): PointStage[] {
  const done: PointStage[] = []
  for (const stage of stages) {
    const before = done[done.length - 1]
    const both = before && pair(before, stage)
    if (both) done[done.length - 1] = both
    else done.push(stage)
  }
  return done.filter((s) => !idle(s))
}

const same = (a: readonly number[], b: readonly number[]): boolean => a.every((v, i) => v === b[i])

function idle(stage: PointStage): boolean {
  if (stage.at === 'curves') return stage.tones.every((t) => t === null)
  return (
    stage.at === 'mix' &&
    stage.held === undefined &&
    same(stage.matrix.flat(), IDENTITY.flat()) &&
    same(stage.offset, [0, 0, 0])
  )
}

/** One stage that does what two do, or null. */
function pair(first: PointStage, then: PointStage): PointStage | null {
  if (first.at === 'ramp') {
    const rest = plainStages([then])
    const f = chain((v, _g, _b, out) => first.ramp.f(v, out), rest)
    return {
      at: 'ramp',
      ramp: { ...first.ramp, key: cacheKey(first.ramp.key, keyOfStage(then)), f: (v, out) => f(v, 0, 0, out) },
    }
  }
  if (first.at === 'mix' && then.at === 'mix' && first.held === undefined && then.held === undefined)
    return mixes(first, then)
  if (first.at === 'curves' && then.at === 'curves') {
    const tone = (k: 0 | 1 | 2) => tones(first.tones[k], then.tones[k])
    return { at: 'curves', tones: [tone(0), tone(1), tone(2)] }
  }
  return null
}

type Mix = { readonly matrix: Matrix3; readonly offset: Triple }

function mixes(first: Mix, then: Mix): PointStage {
  const moved = transform(then.matrix, first.offset)
  const offset: Triple = [moved[0] + then.offset[0], moved[1] + then.offset[1], moved[2] + then.offset[2]]
  return mix(multiply(then.matrix, first.matrix), offset)
}

/** A tone after another; it has its nodes where the first has them. */
function tones(first: Tone | null, then: Tone | null): Tone | null {
  if (!first || !then) return first ?? then
  return { key: cacheKey(first.key, then.key), axis: first.axis, f: (v) => then.f(first.f(v)) }
}

/** Stages with the same key do the same. */
function keyOfStage(stage: PointStage): string {
  switch (stage.at) {
    case 'curves':
      return cacheKey(...stage.tones.map((t) => t && t.key))
    case 'solid':
      return stage.solid.key
    case 'ramp':
      return stage.ramp.key
    case 'shade':
      return stage.shade.key
    case 'hues':
      return cacheKey(stage.hues.key, stage.hues.gain && stage.hues.gain.key, stage.hues.full)
    case 'chroma':
      return stage.gain.key
    default:
      return JSON.stringify(stage)
  }
}
