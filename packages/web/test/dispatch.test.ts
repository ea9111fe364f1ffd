import type { Piece, Render } from '@fogbath/contract'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { UNTREATED } from '@fogbath/core/treat'
import { describe, expect, it } from 'vitest'
import { lineInWords, movedBy, ofFile, ofFootage, paceInWords, workedOut, type Step } from '../src/dispatch/renders'

const [recipe] = SHIPPED_RECIPES as readonly [(typeof SHIPPED_RECIPES)[number]]
const piece = (mediumId: number, first: number, count: number): Piece => ({
  label: `shot ${mediumId}`,
  mediumId,
  reading: {},
  first,
  count,
  encoding: 'srgb',
  recipe,
  preparation: [],
  after: [],
})
const render = (more: Partial<Render>): Render =>
  ({ id: 7, format: 'mov', delivery: {}, pieces: null, ...piece(1, 10, 8), ...more }) as Render
const step = (more: Partial<Step>): Step => ({
  id: 1,
  state: 'running',
  done: 0,
  count: 100,
  left: null,
  rate: null,
  message: '',
  ...more,
})

describe('a frame of a render', () => {
  it('is found in its footage, worked out as the render was', () => {
    const own = workedOut(render({}), 3, 320)
    expect(own).toMatchObject({ source: { type: 'shot', mediumId: 1 }, frame: 13, width: 320 })
    expect(own.order.recipe).toEqual(recipe)
    const bare = ofFootage(render({}), 3, 960)
    expect([bare.frame, bare.order.recipe, bare.order.encoding]).toEqual([13, UNTREATED.recipe, 'srgb'])
  })
  it('of several shots as one file is that of the shot that is shown there', () => {
    const one = render({ pieces: [piece(1, 10, 8), piece(2, 0, 4), piece(3, 5, 2)], first: 0, count: 14 })
    const at = (frame: number): unknown[] => {
      const { source, frame: own } = workedOut(one, frame, 320)
      return [source.type === 'shot' && source.mediumId, own]
    }
    expect([0, 7, 8, 11, 12, 13].map(at)).toEqual([
      [1, 10],
      [1, 17],
      [2, 0],
      [2, 3],
      [3, 5],
      [3, 6],
    ])
  })
  it('is read from its file behind the slate, in the encoding that was written', () => {
    expect(ofFile(render({}), 3, 960)).toMatchObject({
      source: { type: 'render', renderId: 7 },
      frame: 3,
      order: { encoding: 'srgb' },
    })
    expect(ofFile(render({ delivery: { slate: true, to: 'pq' } }), 3, 960)).toMatchObject({
      frame: 4,
      order: { encoding: 'pq' },
    })
    expect(ofFile(render({ format: 'exr' }), 0, 960).order.encoding).toBe('linear')
    expect(ofFile(render({ encoding: 'acescct' }), 0, 960).order.encoding).toBe('bt1886')
  })
})

describe('renders in line', () => {
  it('are moved by keys, and stay at the ends', () => {
    expect(movedBy([1, 2, 3], 2, 1)).toEqual([1, 3, 2])
    expect(movedBy([1, 2, 3], 3, -1)).toEqual([1, 3, 2])
    expect([movedBy([1, 2, 3], 1, -1), movedBy([1, 2, 3], 3, 1), movedBy([1], 4, 1)]).toEqual([null, null, null])
  })
  it('tell how far they are, alone and together', () => {
    const going = step({ done: 40, rate: 4, left: 15 })
    expect(paceInWords(going)).toBe('40/100 · 4.0 fps · 15 s left')
    expect(paceInWords(step({ state: 'paused', done: 24 }))).toBe('24/100')
    expect(paceInWords(step({ state: 'waiting' }))).toBe('')
    // 60 and 500 frames are left, at four a second: 140 s.
    const line = [going, step({ state: 'waiting', count: 500 }), step({ state: 'paused', count: 9 })]
    expect(lineInWords(line)).toBe('2 in line · 40 of 600 frames · about 2 min left')
    expect(lineInWords([step({ state: 'paused' })])).toBe('')
  })
})
