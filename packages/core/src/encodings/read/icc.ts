import { BT709, D50_WHITE, XYZ_TO_BT709, adaptation, xyzOf } from '../../colour/spaces'
import { matrix, multiply, type Matrix3 } from '../../colour/matrix'
import { FogBathError } from '../../errors'
import { same, type Lut1dOp, type Op } from '../ops/op'
import { packFloats } from '../ops/pack'
import { lightOfColour } from '../encoding'
import { defineEncoding, encodingOf, type EncodingRef } from '../own'
import { encodingById } from '../shipped'
import { matrixOp } from './builtin'

/** Nodes of a curve: straight pieces lie within 3e-8 of a power of 2.4. */
const NODES = 4096

const wrong = (rule: string): FogBathError =>
  new FogBathError('encoding', 'profile', `The colour profile ${rule}; it is not read.`)

type Curve = (code: number) => number

/** The bytes of a profile, by its tags. */
class Profile {
  private readonly view: DataView

  constructor(private readonly bytes: Uint8Array) {
    this.view = new DataView(bytes.buffer, bytes.byteOffset, bytes.byteLength)
    if (bytes.length < 132 || this.text(36) !== 'acsp') throw wrong('has no header of the ICC')
  }

  text(at: number, length = 4): string {
    this.within(at, length)
    return String.fromCharCode(...this.bytes.subarray(at, at + length))
  }
  number = (at: number): number => this.within(at, 4).getUint32(at)
  /** s15Fixed16Number (4.6). */
  fixed = (at: number): number => this.within(at, 4).getInt32(at) / 65536
  short = (at: number): number => this.within(at, 2).getUint16(at)

  private within(at: number, length: number): DataView {
    if (at + length > this.bytes.length) throw wrong(`ends at ${this.bytes.length} bytes, in the middle of a tag`)
    return this.view
  }

  /** Where a tag begins (7.3), or null. */
  tag(name: string): number | null {
    const count = Math.min(100, this.number(128))
    for (let i = 0; i < count; i++) if (this.text(132 + 12 * i) === name) return this.number(136 + 12 * i)
    return null
  }

  need(name: string): number {
    const at = this.tag(name)
    if (at === null) throw wrong(`has no ${name}: it is made of tables, or of another kind`)
    return at
  }
}

/** XYZType (10.31). */
const xyzAt = (p: Profile, at: number): [number, number, number] => [
  p.fixed(at + 8),
  p.fixed(at + 12),
  p.fixed(at + 16),
]

/** curveType and parametricCurveType (10.6, 10.18). */
function curveAt(p: Profile, at: number): Curve {
  const type = p.text(at)
  if (type === 'curv') return tableCurve(p, at)
  if (type !== 'para') throw wrong(`has a curve of the type '${type}'`)
  const kind = p.short(at + 8)
  const count = [1, 3, 4, 5, 7][kind]
  if (!count) throw wrong(`has a curve of kind ${kind}`)
  const [g = 1, a = 1, b = 0, c = 0, d = 0, e = 0, f = 0] = Array.from({ length: count }, (_, i) =>
    p.fixed(at + 12 + 4 * i),
  )
  const power = (x: number): number => Math.max(0, a * x + b) ** g
  if (kind === 0) return (x) => x ** g
  if (kind === 1) return (x) => (x >= -b / a ? power(x) : 0)
  if (kind === 2) return (x) => (x >= -b / a ? power(x) : 0) + c
  if (kind === 3) return (x) => (x >= d ? power(x) : c * x)
  return (x) => (x >= d ? power(x) + e : c * x + f)
}

function tableCurve(p: Profile, at: number): Curve {
  const count = p.number(at + 8)
  if (count === 0) return (x) => x
  // u8Fixed8Number: a power.
  if (count === 1) return (x) => x ** (p.short(at + 12) / 256)
  const values = Array.from({ length: count }, (_, i) => p.short(at + 12 + 2 * i) / 65535)
  return (x) => {
    const place = Math.min(count - 1, Math.max(0, x * (count - 1)))
    const i = Math.min(count - 2, Math.floor(place))
    return values[i]! + (values[i + 1]! - values[i]!) * (place - i)
  }
}

/** Its name, of either kind of text (10.24 of version 2; multiLocalizedUnicodeType, 10.15). */
function nameOf(p: Profile): string {
  const at = p.tag('desc')
  if (at === null) return ''
  if (p.text(at) === 'desc') return p.text(at + 12, Math.max(0, Math.min(80, p.number(at + 8) - 1)))
  const [length, from] = [p.number(at + 20), at + p.number(at + 24)]
  return Array.from({ length: Math.min(80, length >> 1) }, (_, i) => String.fromCharCode(p.short(from + 2 * i))).join(
    '',
  )
}

function curveOp(curves: readonly Curve[]): Lut1dOp {
  const even = curves.every((c) => c === curves[0])
  const channels = even ? 1 : 3
  const nodes = Array.from({ length: NODES }, (_, i) => curves.slice(0, channels).map((c) => c(i / (NODES - 1)))).flat()
  return { op: 'lut1d', back: false, half: false, from: same(0), to: same(1), channels, nodes: packFloats(nodes) }
}

/** Tags of three curves; where all lie in one place they are one. */
function curvesOf(p: Profile): Curve[] {
  const made = new Map<number, Curve>()
  return ['rTRC', 'gTRC', 'bTRC'].map((name) => {
    const at = p.need(name)
    const curve = made.get(at) ?? curveAt(p, at)
    made.set(at, curve)
    return curve
  })
}

/** Columns of the three colours under D50, as linear BT.709 light under D65 (Bradford, as ICC.1:2022 annex E has it). */
function matrixAt(p: Profile): Matrix3 {
  const columns = ['rXYZ', 'gXYZ', 'bXYZ'].map((name) => xyzAt(p, p.need(name)))
  const rows = matrix([0, 1, 2].map((i) => columns.map((c) => c[i]!)))
  return multiply(multiply(XYZ_TO_BT709, adaptation(D50_WHITE, xyzOf(BT709.white))), rows)
}

/** Encodings that a profile may be another writing of. */
const KNOWN = ['srgb', 'p3'] as const
/** Largest difference of light to one of those. */
const SAME = 0.004

/**
 * What a matrix profile of red, green and blue, or a profile of grey, says of code values; where it says the same as a shipped
 * encoding it is that one. ICC.1:2022 (version 4) and version 2.
 * @throws FogBathError naming what cannot be read: profiles of tables, of inks, damaged ones
 */
export function encodingOfProfile(bytes: Uint8Array): EncodingRef {
  const p = new Profile(bytes)
  const [space, pcs] = [p.text(16), p.text(20)]
  if (space !== 'RGB ' && space !== 'GRAY') throw wrong(`is of '${space.trim()}', not of red, green and blue`)
  if (pcs !== 'XYZ ') throw wrong(`leads to ${pcs.trim()}: it is made of tables`)
  const ops: Op[] =
    space === 'GRAY' ? [curveOp([curveAt(p, p.need('kTRC'))])] : [curveOp(curvesOf(p)), matrixOp(matrixAt(p))]
  const name = nameOf(p).trim() || 'Colour profile'
  const own = defineEncoding({ name, refers: 'display', from: `The colour profile '${name}' of a file.`, ops })
  const light = encodingOf(own)
  const isLike = (id: string): boolean =>
    PROBED.every((rgb) => {
      const made = lightOfColour(light, rgb)
      return lightOfColour(encodingById(id), rgb).every((v, k) => Math.abs(v - made[k]!) < SAME)
    })
  return KNOWN.find(isLike) ?? own
}

/** Colours by which profiles are compared. */
const PROBED = [
  [0.5, 0.5, 0.5],
  [0.05, 0.05, 0.05],
  [1, 0, 0],
  [0, 1, 0],
  [0, 0, 1],
  [0.7, 0.4, 0.2],
] as const
