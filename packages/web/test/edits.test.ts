import type { EditPlan, PlannedEvent } from '@fogbath/contract'
import type { Group } from '@fogbath/core/footage'
import { describe, expect, it } from 'vitest'
import { NO_CUTS, cutMoved, foundAnew, marksOf, scrolledTo, withCut, withoutCut, zoomed } from '../src/intake/cuts'
import { planInWords, shownInWords, stateInWords, wantedOf, watchedOf } from '../src/intake/edits'

const event = (change: Partial<PlannedEvent> = {}): PlannedEvent => ({
  place: 'line 1',
  name: 'Dawn',
  footage: ['dawn.mov', 'A001'],
  mediumId: 1,
  range: { first: 24, last: 47 },
  cut: { before: 0, after: 0, speed: 1, length: 24 },
  missing: null,
  remark: null,
  watched: [],
  graded: false,
  shotId: 5,
  like: null,
  was: { first: 24, last: 47 },
  trimmed: false,
  moved: false,
  ...change,
})
const waiting = (...footage: string[]) => event({ range: null, cut: null, mediumId: null, shotId: null, footage })
const plan = (...events: PlannedEvent[]): EditPlan => ({ title: '', key: '', events, gone: [], left: [] })

describe('what an edit makes of shots, in words', () => {
  it.each([
    [event(), 'as it is'],
    [event({ shotId: null }), 'new'],
    [event({ shotId: null, like: 3 }), 'new, treated as Boat'],
    [event({ trimmed: true, moved: true }), 'trimmed, was 24 to 47; moved'],
    [waiting('x'), 'waits for its footage'],
  ])('%#', (of, words) => expect(stateInWords(of, of.like === null ? null : 'Boat')).toBe(words))
  it('names frames and what is more than a cut', () => {
    expect(shownInWords(event())).toBe('frames 24 to 47')
    const cut = { before: 0, after: 12, speed: 1, length: 24 }
    expect(shownInWords(event({ cut }))).toBe('frames 24 to 47, frames of a dissolve: 12 at its end')
    expect(shownInWords(waiting('x'))).toBe('')
  })
  it('is summed up', () => {
    expect(planInWords(plan(event(), event()), 0)).toBe('nothing changes')
    const all = plan(event({ shotId: null }), event({ trimmed: true }), event({ moved: true }), waiting('x'))
    expect(planInWords(all, 2)).toBe('1 new, 1 trimmed, 1 moved, 2 removed, 1 waiting for footage')
  })
})

describe('footage that events wait for', () => {
  const file = (name: string): Group<File> => ({ type: 'file', file: { name } as File })
  const stills: Group<File> = {
    type: 'sequence',
    files: ['gate.001.exr', 'gate.002.exr', 'gate.003.exr'].map((name) => ({ name }) as File),
  }
  it('is picked out of a folder by name, each once; what was brought and did not help is not brought again', () => {
    const groups = [file('other.mov'), file('dawn.mp4'), file('dawn.mov'), stills]
    const wanted = plan(waiting('dawn.mov'), waiting('dawn.mov', 'A1'), waiting('gate'), waiting('nowhere'), event())
    expect(wantedOf(wanted, groups, new Set())).toEqual([groups[2], stills])
    expect(wantedOf(wanted, groups, new Set(['dawn.mov', 'gate.001.exr']))).toEqual([groups[1]])
    expect(wantedOf(plan(event()), groups, new Set())).toEqual([])
  })
  it('is picked from the watched folder, each once', () => {
    const watched = (...paths: string[]) => event({ range: null, watched: paths })
    expect(watchedOf(plan(watched('a.mov'), watched('a.mov'), watched('b.1', 'b.2'), event()))).toEqual([
      ['a.mov'],
      ['b.1', 'b.2'],
    ])
  })
})

describe('cuts that are corrected by hand', () => {
  const found = foundAnew(NO_CUTS, [20, 50])
  it('are added, taken away and moved', () => {
    expect(marksOf(withCut(found, 30))).toEqual([20, 30, 50])
    expect(marksOf(withoutCut(found, 20))).toEqual([50])
    expect(marksOf(cutMoved(found, 50, 52))).toEqual([20, 52])
    expect(marksOf(cutMoved(found, 50, 20))).toEqual([20])
    expect(marksOf(withCut(withoutCut(found, 20), 20))).toEqual([20, 50])
  })
  it('keep their corrections when others are found', () => {
    const corrected = cutMoved(withCut(found, 30), 50, 52)
    expect(marksOf(foundAnew(corrected, [20, 40, 50]))).toEqual([20, 30, 40, 52])
  })
  it('are looked at closer and wider, about a frame, within the shot', () => {
    const shot = { first: 100, last: 339 }
    const whole = { from: 100, count: 240 }
    // A third of the way in it stays a third of the way in.
    expect(zoomed(whole, 0.5, 180, shot)).toEqual({ from: 140, count: 120 })
    expect(zoomed({ from: 140, count: 120 }, 4, 180, shot)).toEqual(whole)
    expect(zoomed(whole, 0.01, 339, shot)).toEqual({ from: 315, count: 24 })
    expect(zoomed({ from: 0, count: 10 }, 0.5, 5, { first: 0, last: 9 })).toEqual({ from: 0, count: 10 })
    expect(scrolledTo(400, 24, shot)).toEqual({ from: 316, count: 24 })
  })
})
