import { describe, expect, it } from 'vitest'
import { changeKey, countedBy, placeOf, timeAt, valueAt, withKey, withoutKey, type Lane } from '../src/keys'
import {
  changeMask,
  checkRecipe,
  completeRecipe,
  describeChanges,
  lineAt,
  lineChanges,
  mergeRecipes,
  newBath,
  NOTHING_AROUND,
  type Line,
  type Recipe,
} from '../src/line'
import { newPart, withPart, type MaskPart } from '../src/masks'
import type { Track } from '../src/tracking'
import { lineOf } from './helpers'

const SPAN = { first: 100, length: 49 }
const lane = (keys: readonly (readonly [number, unknown, ('straight' | 'eased' | 'held')?])[], times = 'start'): Lane =>
  ({ times, keys: keys.map(([at, value, way = 'straight']) => ({ at, value, way })) }) as Lane

describe('a lane', () => {
  it('stays before its first key and behind its last, and goes evenly, smoothly or not at all between them', () => {
    const read = (way: 'straight' | 'eased' | 'held', frame: number): unknown =>
      valueAt(lane([[8, 10, way], [16, 30]]), frame, SPAN) // oxfmt-ignore
    expect([100, 108, 110, 116, 148].map((f) => read('straight', f))).toEqual([10, 10, 15, 30, 30])
    // A quarter of the way, by hand: 3/16 - 2/64 = 0.15625.
    expect(read('eased', 110)).toBeCloseTo(10 + 20 * 0.15625, 12)
    expect(read('eased', 112)).toBeCloseTo(20, 12)
    expect([109, 115, 116].map((f) => read('held', f))).toEqual([10, 10, 30])
  })

  it('counts from the start, from the end, or in parts of the length', () => {
    const fades = (times: string, from: number, to: number, length: number): number[] =>
      [0, length - 25, length - 13, length - 1].map(
        (f) => valueAt(lane([[from, 0], [to, 100]], times), f, { first: 0, length }) as number, // oxfmt-ignore
      )
    // The last second of a shot of 49 frames, in all three ways.
    for (const [times, from, to] of [
      ['start', 24, 48],
      ['end', -24, 0],
      ['share', 0.5, 1],
    ] as const)
      // oxfmt-ignore
      expect(fades(times, from, to, 49)).toEqual([0, 0, 50, 100])
    // Of a longer shot the last second is another part of it.
    expect(fades('end', -24, 0, 97)).toEqual([0, 0, 50, 100])
    expect(fades('share', 0.5, 1, 97)).toEqual([0, 50, 75, 100])
    for (const times of ['start', 'end', 'share'] as const)
      for (const place of [0, 7, 48]) expect(placeOf(timeAt(place, times, 49), times, 49)).toBeCloseTo(place, 12)
  })

  it('mixes colours, lists and things, goes the short way round, and leaves what cannot be mixed', () => {
    const half = (a: unknown, b: unknown, turns = {}): unknown => valueAt(lane([[0, a], [2, b]]), 101, SPAN, turns) // oxfmt-ignore
    expect(half('#000010', '#ff0030')).toBe('#800020')
    expect(half([[0, 1], [2, 3]], [[2, 1], [4, 9]])).toEqual([[1, 1], [3, 6]]) // oxfmt-ignore
    expect(half({ x: 1, round: true }, { x: 3, round: false })).toEqual({ x: 2, round: true })
    expect(half(350, 20, { '': 360 })).toBe(365)
    expect(half({ turn: 170 }, { turn: -170 }, { turn: 360 })).toEqual({ turn: 180 })
    expect([half('dusk', 'dawn'), half([1], [1, 2]), half(true, false)]).toEqual(['dusk', [1], true])
  })

  it('takes keys in order, one at a time', () => {
    const two = withKey(withKey(lane([[10, 1, 'eased']]), 4, 0), 12, 5)
    expect(two.keys).toEqual([
      { at: 4, value: 0, way: 'straight' },
      { at: 10, value: 1, way: 'eased' },
      { at: 12, value: 5, way: 'eased' },
    ])
    expect(withKey(two, 10, 7).keys[1]).toEqual({ at: 10, value: 7, way: 'eased' })
    expect(changeKey(two, 0, { at: 12 }).keys.map((k) => [k.at, k.value])).toEqual([[10, 1], [12, 0]]) // oxfmt-ignore
    expect(withoutKey(two, 1)!.keys.map((k) => k.at)).toEqual([4, 12])
    expect(withoutKey(lane([[0, 1]]), 0)).toBeNull()
    expect(countedBy(two, 'end', 49).keys.map((k) => k.at)).toEqual([-44, -38, -36])
  })
})

const line = (recipe: Recipe, tracks: readonly Track[] = []): Line => ({
  ...NOTHING_AROUND,
  recipe,
  time: { ...SPAN, tracks },
})

describe('a line over its shot', () => {
  it('is the line of each frame: strengths and settings have their values, the rest is as it was', () => {
    const recipe: Recipe = {
      ...lineOf('colour-print', { exposure: 0 }, { keys: { strength: lane([[0, 0], [48, 96]]), exposure: lane([[0, 1], [24, -1]]) } }), // oxfmt-ignore
      keys: {
        strength: lane(
          [
            [-48, 100],
            [0, 50],
          ],
          'end',
        ),
      },
    }
    const { recipe: at } = lineAt(line(recipe), 112)
    expect(at.strength).toBe(87.5)
    expect(at.baths[0]).toEqual({ ...newBath('colour-print', 'bath-1', { exposure: 0 }), strength: 24 })
    expect(at.keys).toBeUndefined()
    // Without a shot it is as it is set.
    expect(lineAt({ ...NOTHING_AROUND, recipe }, 112).recipe.strength).toBe(100)
    const plain = line(lineOf('colour-print'))
    expect(lineAt(plain, 112)).toBe(plain)
    expect([lineChanges(line(recipe)), lineChanges(plain)]).toEqual([true, false])
  })

  it('changes in all three parts and in strands', () => {
    const keys = { strength: lane([[0, 0], [48, 96]]) } // oxfmt-ignore
    const inner = { ...newBath('colour-print', 'inner'), keys }
    const whole: Line = {
      preparation: [{ ...newBath('balance', 'before'), keys }],
      recipe: lineOf('strand', { baths: [inner] }),
      after: [{ ...newBath('timing', 'behind'), keys }],
      time: { ...SPAN, tracks: [] },
    }
    const { preparation, recipe, after } = lineAt(whole, 124)
    const strand = recipe.baths[0]!.settings['baths'] as readonly { strength: number }[]
    expect([preparation[0]!.strength, strand[0]!.strength, after[0]!.strength]).toEqual([48, 48, 48])
  })

  it('moves parts of masks by hand, and where they follow a track on top of it', () => {
    const shape = { ...newPart('ellipse', { x: 30 }), moves: lane([[0, newPart('ellipse', { x: 30 }).settings], [48, newPart('ellipse', { x: 40 }).settings]]) } // oxfmt-ignore
    const masked = (part: object): Recipe => lineOf('colour-print', {}, { mask: withPart(null, part as MaskPart) })
    const partIn = (of: Line) => lineAt(of, 124).recipe.baths[0]!.mask!.parts[0]!
    expect(partIn(line(masked(shape)))).toEqual(newPart('ellipse', { x: 35 }))
    const square = (x: number) => [x, 20, x + 10, 20, x + 10, 40, x, 40]
    const track: Track = {
      id: 'lockkeeper1', frame: 100, motions: ['move'], first: 100, smooth: 0, lost: [],
      corners: Array.from({ length: 49 }, (_, i) => square(20 + i / 4)), used: Array.from({ length: 49 }, () => 1),
    } // oxfmt-ignore
    const followed = partIn(line(masked({ ...shape, follows: 'lockkeeper1' }), [track]))
    expect(followed.settings).toEqual(newPart('ellipse', { x: 35 }).settings)
    followed.warp!.forEach((v, i) => expect(v).toBeCloseTo([1, 0, 6, 0, 1, 0, 0, 0, 1][i]!, 9))
    // On a shot without the track it stands as it is drawn.
    expect(partIn(line(masked({ ...shape, follows: 'lockkeeper1' })))).toEqual(newPart('ellipse', { x: 30 }))
  })

  it('refuses lanes of what is not there, and keys out of order or out of the shot', () => {
    const keyed = (keys: object) => () =>
      checkRecipe(completeRecipe({ baths: [{ kind: 'colour-print', keys }] }) as Recipe)
    expect(keyed({ glow: lane([[0, 1]]) })).toThrow(
      /baths\/0\/keys has 'glow'; Colour print has no setting of that name/,
    )
    expect(keyed({ strength: lane([[5, 1], [5, 2]]) })).toThrow('baths/0/keys/strength/keys/1/at is 5; keys stand one behind the other.') // oxfmt-ignore
    expect(keyed({ strength: lane([[2, 1]], 'share') })).toThrow(/at is 2; parts of the shot’s length go from 0 to 1/)
    expect(keyed({ strength: lane([[1, 1]], 'end') })).toThrow(/frames from the end are 0 and below/)
    expect(keyed({ strength: lane([[-1, 1]]) })).toThrow(/frames from the start are 0 and above/)
  })

  it('is told in words and brought together with what another has changed', () => {
    const base = lineOf('colour-print')
    const [bath] = base.baths
    const keyed: Recipe = { ...base, baths: [{ ...bath!, keys: { exposure: lane([[0, 1]]) } }] }
    expect(describeChanges(base, keyed)).toEqual(['Colour print: exposure changes over the shot'])
    expect(describeChanges(keyed, base)).toEqual(['Colour print: exposure no more changes over the shot'])
    const stronger: Recipe = { ...keyed, baths: [{ ...keyed.baths[0]!, strength: 50 }] }
    const merged = mergeRecipes(keyed, base, stronger)!.baths[0]!
    expect([merged.keys, merged.strength]).toEqual([undefined, 50])
  })
})

describe('linked masks', () => {
  it('change together, an opposite one as the opposite', () => {
    const mask = { ...withPart(null, newPart('ellipse')), link: { id: 'lantern1', opposite: false } }
    const baths = [
      { ...newBath('saturation', 'warm'), mask },
      { ...newBath('saturation', 'cool'), mask: { ...mask, invert: true, link: { id: 'lantern1', opposite: true } } },
      { ...newBath('saturation', 'alone'), mask: withPart(null, newPart('gradient')) },
    ]
    const whole: Line = { ...NOTHING_AROUND, recipe: { ...lineOf('saturation'), baths } }
    const grown = changeMask(whole, 'cool', { ...baths[1]!.mask, grow: 2 }).recipe.baths.map((b) => b.mask!)
    expect(grown.map((m) => [m.grow, m.invert])).toEqual([[2, false], [2, true], [0, false]]) // oxfmt-ignore
    const turned = changeMask(whole, 'warm', { ...mask, invert: true }).recipe.baths.map((b) => b.mask!.invert)
    expect(turned).toEqual([true, false, false])
    const { link: _, ...own } = mask
    expect(changeMask(whole, 'warm', { ...own, grow: 3 }).recipe.baths.map((b) => b.mask!.grow)).toEqual([3, 0, 0])
  })
})
