import { describe, expect, it } from 'vitest'
import { KINDS } from '../src/baths'
import { IDENTITY, diagonal, type Matrix3, three } from '../src/colour'
import { Pictures } from '../src/cpu'
import { STRAIGHT } from '../src/film'
import { newBath, compileLine, compileScene, plainLine, workOf } from '../src/line'
import { PlanRunner, compileWork, type BathWork } from '../src/plan'
import { evenCurves, mix, type PointFunction, type PointStage } from '../src/stages'
import { startOf, through } from '../src/line/plain'
import { joined } from '../src/plan/join'
import { plainStages } from '../src/stages/plain'
import { lineOf, ran, shipped, treated, valuesBeside, wideColours, type SettingField } from './helpers'

/*
 * Prepare and Finish baths as the plan knows them: no kind is one yet, so they are made here.
 */
const WARM: Matrix3 = [
  [1.2, 0, 0],
  [0, 1, 0],
  [0, 0.05, 0.8],
]
const warm = mix(WARM)
const lift = evenCurves({
  key: 'lift',
  axis: { nodes: 'even', from: 0, to: 1, steps: 2048 },
  f: (v) => 0.05 + 0.95 * v,
})
const bathOf = (id: string, from: BathWork['from'], stages: BathWork['stages'], how: object = {}): BathWork => ({
  id,
  from,
  stages,
  mask: null,
  inside: false,
  how: { lay: 'normal', under: false, strength: 100, ...how },
})
const print = workOf(lineOf('colour-print', { bleachPrint: 40 }).baths[0]!)

const N = 400
const colours = wideColours(N)

/** Compiled and plain, at most apart, in code values. */
function apart(baths: readonly BathWork[], strength = 100): number {
  const work = { scene: [], untreated: STRAIGHT, straight: STRAIGHT, strength, shown: [] }
  return furthest(ran(compileWork({ ...work, baths }), colours, N, 1), baths.reduce(through, startOf()).line)
}

function furthest(compiled: Float32Array, plain: PointFunction): number {
  const out = three()
  let most = 0
  for (let i = 0; i < N; i++) {
    plain(colours[4 * i]!, colours[4 * i + 1]!, colours[4 * i + 2]!, out)
    for (let k = 0; k < 3; k++) most = Math.max(most, Math.abs(compiled[4 * i + k]! - out[k]!))
  }
  return most
}

describe('a plan', () => {
  it.each<[string, readonly BathWork[]]>([
    ['a Prepare bath', [bathOf('p', 'prepare', [warm]), print]],
    ['a Prepare bath of some strength', [bathOf('p', 'prepare', [warm], { strength: 35 }), print]],
    ['two of them', [bathOf('p', 'prepare', [warm], { strength: 35 }), bathOf('q', 'prepare', [warm]), print]],
    ['one alone', [bathOf('p', 'prepare', [warm], { strength: 60 })]],
    ['a Finish bath', [print, bathOf('f', 'line', [warm, lift])]],
    ['Finish baths laid in other ways', [print, bathOf('f', 'line', [lift], { lay: 'multiply', strength: 50 })]],
    [
      'one of each',
      [
        bathOf('p', 'prepare', [warm], { strength: 50 }),
        print,
        bathOf('f', 'line', [lift], { under: true, lay: 'screen' }),
      ],
    ],
  ])('does what the plain line does: %s', (_, baths) => {
    // A code of 8 bits is 0.0039; in dark channels of strong colours the solid's nodes leave about one.
    expect(apart(baths)).toBeLessThan(0.005)
  })

  it('of a process and per-colour Finish baths is one run', () => {
    const baths = [print, ...[1, 2, 3, 4, 5, 6].map((k) => bathOf(`f${k}`, 'line', [warm, lift]))]
    const plan = compileWork({ scene: [], untreated: STRAIGHT, straight: STRAIGHT, strength: 100, shown: [], baths })
    expect(plan.ops.map((op) => op.op)).toEqual(['run'])
    // The line's register is looked at by nobody before the end.
    const steps = plan.ops.flatMap((op) => (op.op === 'run' ? op.steps.map((step) => step.do) : []))
    expect(steps.filter((what) => what === 'keep' || what === 'take')).toEqual(['keep'])
  })

  it('puts the line down only where a bath will be laid on it', () => {
    const near: BathWork['stages'] = [{ at: 'space', space: { kind: 'blur', sigmas: [9, 9, 9] } }]
    const stored = (how: object): number => {
      const baths = [print, bathOf('b', 'line', near, how)]
      const plan = compileWork({ scene: [], untreated: STRAIGHT, straight: STRAIGHT, strength: 100, shown: [], baths })
      return plan.ops.flatMap((op) => (op.op === 'run' ? op.steps.filter((step) => step.do === 'store') : [])).length
    }
    expect([stored({}), stored({ strength: 50 })]).toEqual([2, 3])
  })

  it.each(KINDS.map((kind) => [kind.id, kind] as const))(
    'takes each setting of %s into account, whatever tables were made for others before',
    (_, kind) => {
      for (const [name, field] of Object.entries(kind.schema.properties as Record<string, SettingField>))
        // The card of instant film is drawn by place, which the plain form leaves out.
        for (const value of name === 'card' ? [] : otherValues(field)) {
          const recipe = lineOf(kind.id, { [name]: value })
          const miss = furthest(treated(recipe, colours, N, 1, { colours: true }), plainLine(recipe))
          expect(miss, `${kind.id} ${name} ${String(value)}`).toBeLessThan(0.02)
        }
    },
  )
})

/** A third and the whole of the range, every other choice. */
const otherValues = (f: SettingField): unknown[] =>
  valuesBeside(f, [f.minimum! + (f.maximum! - f.minimum!) / 3, f.maximum])

describe('joining stages', () => {
  const same = (a: readonly PointStage[], b: readonly PointStage[]): void => {
    const [one, two] = [plainStages(a), plainStages(b)]
    const [x, y] = [three(), three()]
    for (const v of [0.02, 0.2, 0.7]) {
      one(v, 0.5 * v, 0.3, x)
      two(v, 0.5 * v, 0.3, y)
      x.forEach((c, k) => expect(c).toBeCloseTo(y[k]!, 12))
    }
  }
  const gain = mix(diagonal([2, 2, 2]), [0.1, 0, -0.1])
  const ramp: PointStage = {
    at: 'ramp',
    ramp: { key: 'r', axis: { nodes: 'even', from: 0, to: 1, steps: 9 }, f: (v, out) => out.set([v, v * v, 1 - v]) },
  }
  it.each<[string, readonly PointStage[], number]>([
    ['matrices', [warm, gain], 1],
    ['curves', [lift, lift], 1],
    ['a ramp and all that follows it', [warm, ramp, gain, lift, { at: 'fit' }], 2],
    ['not a matrix behind a held one', [mix(WARM, [0, 0, 0], 0.2), gain], 2],
    ['not across a fit', [gain, { at: 'fit' }, gain], 3],
  ] as never)('%s', (_, stages, count) => {
    expect(joined(stages)).toHaveLength(count)
    same(joined(stages), stages)
  })
  it('leaves out what does nothing, also when two stages undo each other', () => {
    expect(joined([mix(IDENTITY), { at: 'curves', tones: [null, null, null] }])).toEqual([])
    const back = mix(diagonal([0.5, 0.5, 0.5]), [-0.05, 0, 0.05])
    expect(joined([gain, back])).toEqual([])
  })
})

describe('scene light that is given', () => {
  it('makes the same pictures, bit by bit, as scene light that the line works out', () => {
    const pictures = new Pictures()
    const codes = pictures.copy(
      'codes',
      colours.map((v) => Math.min(1, Math.max(0, v))),
    )
    const [maker, one, other] = [new PlanRunner(), new PlanRunner(), new PlanRunner()]
    const scene = pictures.copy('light', maker.run(compileScene('display'), codes, N, 1).pixels)
    const balance = newBath('balance', 'shot', { way: 'mired', exposure: 0.3, mired: 20 })
    const around = { preparation: [balance], after: [] }
    for (const id of ['bleach-bypass', 'faded-into-warm', 'night-by-hand', 'cold-shadows'])
      for (const strength of [100, 60]) {
        const recipe = { ...shipped(id), strength }
        const own = one.run(compileLine(recipe, { refers: 'display', around }), codes, N, 1).pixels
        const given = other.run(compileLine(recipe, { refers: 'display', around, given: true }), codes, N, 1, {
          scene,
        }).pixels
        expect(
          given.findIndex((v, i) => v !== own[i]),
          id,
        ).toBe(-1)
      }
  })
})
