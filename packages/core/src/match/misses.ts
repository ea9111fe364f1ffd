import { ciede2000 } from '../colour/difference'
import { chroma } from '../colour/lab'
import { HUES, shareTowards } from './hues'
import type { Labs } from './transport'

/** A share of the picture below which a hue is not worth a word. */
const LEAST_SHARE = 0.01
/** Chroma below which a colour has no hue that anybody would name. */
const COLOURED = 8

/** What a fitted picture does not reach of a reference, in words; what is off most comes first. */
export function missesOf(fitted: Labs, reference: Labs, sameFrame: boolean): string[] {
  const coloured = sameFrame ? places(fitted, reference) : hues(fitted, reference)
  return [...tones(fitted, reference), ...tints(fitted, reference, sameFrame), ...coloured]
    .sort((a, b) => b.off - a.off)
    .map(({ words }) => words)
}

interface Miss {
  readonly off: number
  readonly words: string
}

const TONES = [
  ['black', 0.01],
  ['middle tones', 0.5],
  ['white', 0.99],
] as const

function tones(fitted: Labs, reference: Labs): Miss[] {
  const at = (labs: Labs, share: number): number =>
    labs.map((c) => c[0]).sort((a, b) => a - b)[Math.floor(share * (labs.length - 1))]!
  return TONES.flatMap(([name, share]) => {
    const [has, wanted] = [at(fitted, share), at(reference, share)]
    const off = Math.abs(has - wanted)
    return off > 4
      ? [{ off, words: `its ${name}: L* ${wanted.toFixed(0)}, the process comes to ${has.toFixed(0)}` }]
      : []
  })
}

/** Shares of a picture, from dark to light, whose tint is looked at. */
const LIGHTS = [
  ['white', 0.97, 1],
  ['light', 0.7, 0.97],
] as const
/** A tint that is so far off, a* and b* together, is told. */
const TINTED = 4

/** What the lights are tinted with: of their less coloured half, in which a tint shows. */
function tints(fitted: Labs, reference: Labs, sameFrame: boolean): Miss[] {
  const wantedOrder = byLightness(reference)
  const order = sameFrame ? wantedOrder : byLightness(fitted)
  return LIGHTS.flatMap(([name, from, to]) => {
    const cut = <T>(list: readonly T[]): T[] => list.slice(Math.floor(from * list.length), Math.ceil(to * list.length))
    const pale = cut(wantedOrder).sort((i, j) => chroma(reference[i]!) - chroma(reference[j]!))
    const own = sameFrame ? pale : cut(order).sort((i, j) => chroma(fitted[i]!) - chroma(fitted[j]!))
    const [wanted, has] = [tintOf(reference, pale), tintOf(fitted, own)]
    const off = Math.hypot(wanted[0] - has[0], wanted[1] - has[1])
    const said = ([a, b]: readonly [number, number]): string => `a* ${a.toFixed(0)} b* ${b.toFixed(0)}`
    return off > TINTED ? [{ off, words: `its ${name}: tint ${said(wanted)}, the process comes to ${said(has)}` }] : []
  })
}

const byLightness = (labs: Labs): number[] => labs.map((_, i) => i).sort((i, j) => labs[i]![0] - labs[j]![0])

/** Mean a* and b* of the first half of a list. */
function tintOf(labs: Labs, order: readonly number[]): readonly [number, number] {
  const half = order.slice(0, Math.ceil(order.length / 2))
  const mean = (k: 1 | 2): number => half.reduce((sum, i) => sum + labs[i]![k], 0) / half.length
  return [mean(1), mean(2)]
}

/** How much of a picture has a hue, and how strong it is there. */
function ofHue(labs: Labs, k: number): { share: number; chroma: number } {
  let [weight, sum] = [0, 0]
  for (const c of labs) {
    const strength = chroma(c)
    if (strength < COLOURED) continue
    const w = shareTowards(c, k)
    weight += w
    sum += w * strength
  }
  return { share: weight / labs.length, chroma: weight > 0 ? sum / weight : 0 }
}

function hues(fitted: Labs, reference: Labs): Miss[] {
  return HUES.flatMap(([name], k) => {
    const [has, wanted] = [ofHue(fitted, k), ofHue(reference, k)]
    const [mass, wantedMass] = [has.share * has.chroma, wanted.share * wanted.chroma]
    if (wanted.share < LEAST_SHARE || mass > 0.5 * wantedMass) return []
    const found = has.share < LEAST_SHARE ? 'none' : `chroma ${has.chroma.toFixed(0)} in ${percent(has.share)}`
    return [
      {
        off: wantedMass - mass,
        words: `its ${name}: chroma ${wanted.chroma.toFixed(0)} in ${percent(wanted.share)} of the picture, the process comes to ${found}`,
      },
    ]
  })
}

/** With both pictures of one frame: how far each hue of the reference is off where it lies. */
function places(fitted: Labs, reference: Labs): Miss[] {
  return HUES.flatMap(([name], k) => {
    let [weight, off, has, wanted] = [0, 0, 0, 0]
    reference.forEach((c, i) => {
      if (chroma(c) < COLOURED) return
      const w = shareTowards(c, k)
      weight += w
      off += w * ciede2000(c, fitted[i]!)
      has += w * chroma(fitted[i]!)
      wanted += w * chroma(c)
    })
    const [share, mean] = [weight / reference.length, off / Math.max(1e-9, weight)]
    if (share < LEAST_SHARE || mean < 4) return []
    const words = `its ${name} (${percent(share)} of the picture) stays ${mean.toFixed(1)} dE off: chroma ${(wanted / weight).toFixed(0)}, the process comes to ${(has / weight).toFixed(0)}`
    return [{ off: mean * share * 10, words }]
  })
}

const percent = (share: number): string => `${Math.max(1, Math.round(100 * share))} %`
