import { type Triple, three } from '../colour/matrix'
import { ACESCCT } from '../colour/transfer'
import { held, openHeld } from '../stages/held'
import { sideOfSolid } from '../stages/nodes'
import { plainStages } from '../stages/plain'
import type { Axis, PointFunction, PointStage, Tone } from '../stages/stage'
import { plainChain, type Chain, type Link } from './chain'
import { overLight } from './light-grid'
import { FINE, STEPS, evenPart, gridOf, type Curve, type Domain, type Part } from './parts'

/** Scene light that such a grid reaches, six and a half stops above mid grey. */
const BRIGHTEST = 16

/** Code values with room below black and above white; nodes lie on both. */
const CODES = { from: [-6 / 52, -6 / 52, -6 / 52], to: [1 + 6 / 52, 1 + 6 / 52, 1 + 6 / 52] } satisfies Box
interface Box {
  readonly from: Triple
  readonly to: Triple
}

const OPEN = evenPart('half', openHeld)

/**
 * The parts that a chain comes to, link by link; what no part can be becomes a grid. Where two pictures are laid on each
 * other from code values on, that step is a grid; where they part earlier, all up to there is one.
 * @param taken over which numbers the chain's first link stands; a grid from there takes 0..1 of code values
 */
export function partsOf(links: Chain, taken: Domain): Part[] {
  const until = Math.max(
    links.findLastIndex((link) => link.link === 'lay' && !onCodes(link)),
    heldMixEnd(links),
  )
  const start = until < 0 ? [] : gridFrom(taken, plainChain(links.slice(0, until + 1)))
  return tidy([...start, ...links.slice(until + 1).flatMap(partsOfLink)])
}

/**
 * Where a matrix ends whose results are held above 0, with the curves behind it; -1 without one. It tells colours apart by
 * ratios of light, down to the darkest, which only a grid over code values or logarithms follows, and only into densities.
 */
function heldMixEnd(links: Chain): number {
  const at = links.findIndex(
    (link) => link.link === 'stage' && link.stage.at === 'mix' && link.stage.held !== undefined,
  )
  const next = links[at + 1]
  return at >= 0 && next?.link === 'stage' && next.stage.at === 'curves' ? at + 1 : at
}

/** One grid over the footage's own numbers; light by its logarithm. */
function gridFrom(taken: Domain, f: PointFunction): Part[] {
  if (taken !== 'half') return [{ part: 'grid', grid: gridOf(FINE, [0, 0, 0], [1, 1, 1], f) }]
  const { encode, decode } = ACESCCT
  const opened: PointFunction = (r, g, b, out) => f(decode(r), decode(g), decode(b), out)
  const [from, to] = [encode(0), encode(BRIGHTEST)]
  return [evenPart('half', encode), { part: 'grid', grid: gridOf(FINE, [from, from, from], [to, to, to], opened) }]
}

/** Whether what is laid grows out of the line's own code values: then the line is there as it is. */
const onCodes = (link: Extract<Link, { link: 'lay' }>): boolean => link.line.length === 0

function partsOfLink(link: Link): Part[] {
  if (link.link === 'stage') return partsOfStage(link.stage)
  return [{ part: 'grid', grid: gridOf(FINE, CODES.from, CODES.to, plainChain([link])) }]
}

function partsOfStage(stage: PointStage): Part[] {
  switch (stage.at) {
    case 'mix':
      return [{ part: 'matrix', matrix: stage.matrix, offset: stage.offset }]
    case 'curves':
      return curvesOf(stage.tones)
    case 'solid': {
      const { from, to } = stage.solid
      const light = !('holds' in stage.solid) || stage.solid.holds === 'light'
      const f = plainStages([stage])
      const grid = gridOf(sideOfSolid(stage.solid), from, to, light ? heldAfter(f) : f)
      return light ? [{ part: 'grid', grid }, OPEN] : [{ part: 'grid', grid }]
    }
    case 'ramp':
      return rampOf(stage.ramp)
    case 'fit':
      return overLight(stage)
    case 'shade':
    case 'hues':
    case 'chroma':
    case 'select':
      return [{ part: 'grid', grid: gridOf(FINE, CODES.from, CODES.to, plainStages([stage])) }]
  }
}

const heldAfter =
  (f: PointFunction): PointFunction =>
  (r, g, b, out) => {
    f(r, g, b, out)
    for (let k = 0; k < 3; k++) out[k] = held(out[k]!)
  }

const same: Curve = (v) => v

function domainOf(axes: readonly (Axis | undefined)[]): Domain {
  const there = axes.filter((a) => a !== undefined)
  if (there.length < 3 || there.some((a) => a.nodes === 'octaves')) return 'half'
  const [from, to] = [Math.min(...there.map((a) => a.from)), Math.max(...there.map((a) => a.to))]
  return { from, to, steps: Math.max(STEPS, ...there.map((a) => (a.nodes === 'even' ? a.steps : 0))) }
}

function curvesOf(tones: readonly [Tone | null, Tone | null, Tone | null]): Part[] {
  if (tones.every((t) => t === null)) return []
  const curveOf = (tone: Tone | null): Curve =>
    tone ? oneOf(plainStages([{ at: 'curves', tones: [tone, null, null] }]), 0) : same
  const domain = domainOf(tones.map((t) => t?.axis))
  const [r, g, b] = tones
  if (r === g && g === b) return [evenPart(domain, curveOf(r))]
  return [{ part: 'curves', domain, f: [curveOf(r), curveOf(g), curveOf(b)] }]
}

function rampOf(ramp: Extract<PointStage, { at: 'ramp' }>['ramp']): Part[] {
  const own = plainStages([{ at: 'ramp', ramp }])
  const row: Triple = [1, 0, 0]
  return [
    { part: 'matrix', matrix: [row, row, row], offset: [0, 0, 0] },
    {
      part: 'curves',
      domain: domainOf([ramp.axis, ramp.axis, ramp.axis]),
      f: [oneOf(own, 0), oneOf(own, 1), oneOf(own, 2)],
    },
  ]
}

/** One channel of a function that takes a number. */
function oneOf(f: PointFunction, k: 0 | 1 | 2): Curve {
  const out = three()
  return (v) => {
    f(v, v, v, out)
    return out[k]
  }
}

/** Curves that follow curves become one table: what lies between them is not rounded, and the file is shorter. */
function tidy(parts: readonly Part[]): Part[] {
  const kept: Part[] = []
  for (const part of parts) {
    const last = kept.at(-1)
    if (part.part !== 'curves' || last?.part !== 'curves') {
      kept.push(part)
      continue
    }
    const after = (k: 0 | 1 | 2): Curve => {
      const [first, then] = [last.f[k], part.f[k]]
      return (v) => then(first(v))
    }
    const even = new Set(last.f).size === 1 && new Set(part.f).size === 1
    kept[kept.length - 1] = even ? evenPart(last.domain, after(0)) : { ...last, f: [after(0), after(1), after(2)] }
  }
  return kept
}
