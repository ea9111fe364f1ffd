import { codeChroma, codeLuma, fromChroma, squareTurn, turnAt, uOf, vOf } from '../colour/chroma'
import { fitGamut } from '../colour/gamut'
import { type Triple, three, six } from '../colour/matrix'
import { projectPlain } from '../film/projection'
import { smooth } from '../numbers/smooth'
import { readNodes } from './nodes'
import type { Axis, Hues, PointFunction, PointStage, Shade, Stage, Tone } from './stage'

/** f, then g. */
export const chain =
  (f: PointFunction, g: PointFunction): PointFunction =>
  (r, gg, b, out) => {
    f(r, gg, b, out)
    g(out[0], out[1], out[2], out)
  }

export const nothing: PointFunction = (r, g, b, out) => {
  out[0] = r
  out[1] = g
  out[2] = b
}

/**
 * Stages one after the other in double precision: the truth that every backend is compared with. Steps that look at
 * neighbours are left out.
 */
export const plainStages = (stages: readonly Stage[]): PointFunction =>
  stages.flatMap((s) => (s.at === 'space' ? [] : [plainStage(s)])).reduce(chain, nothing)

function plainStage(stage: PointStage): PointFunction {
  switch (stage.at) {
    case 'mix':
      return stage.held === undefined ? plainMix(stage) : plainHeld(stage, stage.held)
    case 'curves': {
      const [r, g, b] = stage.tones.map(plainTone) as [Curve, Curve, Curve]
      return (x, y, z, out) => nothing(r(x), g(y), b(z), out)
    }
    case 'solid': {
      const { solid } = stage
      if ('nodes' in solid) return readNodes(solid)
      const { valueAt, amounts, projection } = solid
      const held = new Float64Array(projection.components.length)
      const project = projectPlain(projection)
      return (x, y, z, out) => {
        amounts(valueAt(x), valueAt(y), valueAt(z), held)
        project(held, out)
      }
    }
    case 'ramp':
      return (x, _y, _z, out) => stage.ramp.f(within(stage.ramp.axis, x), out)
    case 'shade':
      return plainShade(stage.shade)
    case 'hues':
      return plainHues(stage.hues)
    case 'chroma':
      return plainChroma(stage.gain)
    case 'fit':
      return (r, g, b, out) => {
        nothing(r, g, b, out)
        fitGamut(out)
      }
    case 'select':
      return plainSelect(stage)
  }
}

type Curve = (v: number) => number

const plainTone = (tone: Tone | null): Curve => (tone ? (v) => tone.f(within(tone.axis, v)) : (v) => v)

/** A number held at the ends of an axis; what is no number stands at its beginning. */
function within({ nodes, from, to }: Axis, v: number): number {
  if (nodes === 'octaves') return v > 2 ** from ? Math.min(v, 2 ** to) : 0
  return v > from ? Math.min(v, to) : from
}

type Mix = Extract<PointStage, { at: 'mix' }>

const row = (m: Triple, r: number, g: number, b: number): number => m[0] * r + m[1] * g + m[2] * b

const plainMix =
  ({ matrix: [x, y, z], offset }: Mix): PointFunction =>
  (r, g, b, out) =>
    nothing(row(x, r, g, b) + offset[0], row(y, r, g, b) + offset[1], row(z, r, g, b) + offset[2], out)

/** What holding does to a value of 1 whose mean is 1, a grey, which must stay. */
export const gainOfHolding = (share: number): number => softFloor(1, share)

/** v where it is well above `least`, never below nothing, smooth between. */
const softFloor = (v: number, least: number): number => (v + Math.sqrt(v * v + 4 * least * least)) / 2

function plainHeld({ matrix: [x, y, z] }: Mix, share: number): PointFunction {
  const gain = gainOfHolding(share)
  return (r, g, b, out) => {
    const least = share * Math.max(1e-6, (r + g + b) / 3)
    const held = (m: Triple) => softFloor(row(m, r, g, b), least) / gain
    nothing(held(x), held(y), held(z), out)
  }
}

function plainShade({ axis, f }: Shade): PointFunction {
  const shade = six()
  return (r, g, b, out) => {
    f(within(axis, codeLuma(r, g, b)), shade)
    nothing(r * shade[0] + shade[3], g * shade[1] + shade[4], b * shade[2] + shade[5], out)
  }
}

function plainHues({ f, gain, full }: Hues): PointFunction {
  const hue = three()
  const gainAt = plainTone(gain)
  return (r, g, b, out) => {
    const [u, v] = [uOf(r, g, b), vOf(g, b)]
    const chroma = Math.hypot(u, v)
    f(turnAt(squareTurn(u, v)), hue)
    const angle = 2 * Math.PI * hue[0]
    const times = hue[1] * (gain ? gainAt(chroma) : 1)
    const [c, s] = [Math.cos(angle) * times, Math.sin(angle) * times]
    const factor = 1 + hue[2] * Math.min(1, chroma / full)
    fromChroma(codeLuma(r, g, b), c * u - s * v, s * u + c * v, out)
    for (let k = 0; k < 3; k++) out[k]! *= factor
  }
}

function plainChroma(gain: Tone): PointFunction {
  const gainAt = plainTone(gain)
  return (r, g, b, out) => {
    const luma = codeLuma(r, g, b)
    const times = gainAt(codeChroma(r, g, b))
    nothing(luma + times * (r - luma), luma + times * (g - luma), luma + times * (b - luma), out)
  }
}

const plainSelect =
  ({ picks, range, soft }: Extract<PointStage, { at: 'select' }>): PointFunction =>
  (r, g, b, out) => {
    const nearest = Math.min(...picks.map((p) => Math.hypot(r - p[0], g - p[1], b - p[2])))
    nothing(smooth(1 + (range - nearest) / soft), g, b, out)
  }
