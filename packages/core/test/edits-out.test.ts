import { describe, expect, it } from 'vitest'
import { newBath } from '../src/line'
import {
  changesOfEdit,
  cutInWords,
  cutOf,
  decisionIn,
  framesIn,
  plainCut,
  readEdit,
  withDecision,
  writeCmx,
  writeOtio,
  type ListedShot,
} from '../src/edits'

const shot = (name: string, change: Partial<ListedShot> = {}): ListedShot => {
  const range = { first: 10, last: 57 }
  const at = { ...range, ...change }
  return {
    name,
    file: `${name}.mov`,
    fps: '24/1',
    frames: 200,
    timecode: '02:00:00:00',
    cut: plainCut(at),
    decision: null,
    metadata: {},
    ...range,
    ...change,
  }
}
const cut = (change: object) => ({ before: 0, after: 0, speed: 1, length: 48, ...change })
const DECISION = { slope: [1.1, 1, 0.9], offset: [0.01, 0, -0.02], power: [1, 1.05, 1], saturation: 0.85 } as const
/** What a list gives of footage, once it was written and read. */
const back = (name: string, text: string, of: readonly ListedShot[]) => {
  const { events, left } = readEdit(name, text, '24')
  expect(left).toEqual([])
  return events.map((event, i) => {
    const { file, frames, fps, timecode } = of[i]!
    const range = framesIn(event, { name: file, frames, fps, ...(timecode && { timecode }) })
    if (typeof range === 'string') throw new Error(range)
    const { first, last } = range
    return { name: event.name, first, last, cut: cutOf(event, range, fps), decision: event.decision }
  })
}
const seen = ({ name, first, last, cut, decision }: ListedShot) => ({ name, first, last, cut, decision })

const SHOTS = [
  shot('Dawn', { decision: DECISION }),
  shot('Fog', { first: 0, last: 95, cut: cut({ speed: 2 }) }),
  shot('Boat', { cut: cut({ speed: -1 }) }),
  shot('Held', { first: 30, last: 30, cut: cut({ speed: 0, length: 20 }) }),
]

describe('a production as a CMX 3600 list', () => {
  it('is read again as it was: frames, speeds, decisions', () => {
    const text = writeCmx('Harbour', SHOTS, '24')
    expect(back('out.edl', text, SHOTS)).toEqual(SHOTS.map(seen))
    // By hand: frame 10 of footage that starts at two hours, 48 frames long, from one hour on.
    expect(text.split('\n').slice(0, 6)).toEqual([
      'TITLE: Harbour',
      'FCM: NON-DROP FRAME',
      '',
      '001  Dawn     V     C        02:00:00:10 02:00:02:10 01:00:00:00 01:00:02:00',
      '* FROM CLIP NAME: Dawn',
      '* SOURCE FILE: Dawn.mov',
    ])
    expect(text).toContain('M2   Fog      0048.000                02:00:00:00')
    expect(text).toContain('*ASC_SOP (1.100000 1.000000 0.900000)(0.010000 0.000000 -0.020000)')
  })
  it('has handles as dissolves, which come back as handles', () => {
    const two = [
      shot('A', { last: 57 + 12, cut: cut({ after: 12 }) }),
      shot('B', { first: 20, last: 67, cut: cut({}) }),
    ]
    expect(back('out.edl', writeCmx('', two, '24'), two)).toEqual(two.map(seen))
    // A dissolve about the cut begins before it: the shot that it leads to is seen from then on, the other one no longer alone.
    const about = [two[0]!, shot('B', { first: 14, last: 67, cut: cut({ before: 6 }) })]
    const [a, b] = back('out.edl', writeCmx('', about, '24'), about)
    expect([a!.first, a!.last, a!.cut]).toEqual([10, 69, cut({ after: 18, length: 42 })])
    expect([b!.first, b!.last, b!.cut]).toEqual([14, 67, cut({ length: 54 })])
  })
  it('counts what a dissolve shows of a faster shot in frames of the edit', () => {
    const two = [
      shot('A', { last: 57 + 12, cut: cut({ after: 12 }) }),
      // Twelve frames of its footage at twice the speed are six of the edit.
      shot('B', { first: 8, last: 115, cut: cut({ before: 12, speed: 2, length: 48 }) }),
    ]
    const [a, b] = back('out.edl', writeCmx('', two, '24'), two)
    expect([a!.cut.after, a!.cut.length]).toEqual([18, 42])
    expect([b!.first, b!.last, b!.cut]).toEqual([8, 115, cut({ speed: 2, length: 54 })])
  })
  it('counts all in its own rate', () => {
    const fast = shot('Fast', { fps: '48/1', first: 96, last: 191, cut: cut({ length: 96 }) })
    expect(writeCmx('', [fast], '24')).toContain('02:00:02:00 02:00:04:00 01:00:00:00 01:00:02:00')
    expect(writeCmx('', [shot('X')], '30000/1001', true)).toMatch(/FCM: DROP FRAME[^]*01:00:00;00 01:00:02;00/)
  })
})

describe('a production as OpenTimelineIO', () => {
  it('is read again as it was, with dissolves on both sides and what goes along', () => {
    const metadata = { fogbath: { recipe: { name: 'Plain' } } }
    const all = [
      ...SHOTS,
      shot('A', { last: 69, cut: cut({ after: 12 }), metadata }),
      shot('B', { cut: cut({ before: 6, length: 42 }) }),
    ]
    const text = writeOtio('Harbour', all)
    expect(back('out.otio', text, all)).toEqual(all.map(seen))
    const { tracks } = JSON.parse(text) as {
      tracks: { children: { children: { name: string; metadata: object }[] }[] }
    }
    expect(tracks.children[0]!.children.find((c) => c.name === 'A')!.metadata).toEqual(metadata)
  })
  it('names files so that others find them', () => {
    const text = writeOtio('', [shot('a', { file: 'a #1 ä.mov' })])
    expect(readEdit('x.otio', text, '24').events[0]!.footage).toContain('a #1 ä.mov')
  })
})

describe('an edit that is taken in again', () => {
  const at = (name: string, medium: string | null, first: number, last: number, id = 0) => ({
    name,
    medium,
    first,
    last,
    id,
  })
  const shots = [
    at('One', 'a', 0, 47, 1),
    at('Two', 'b', 10, 40, 2),
    at('Three', 'c', 0, 90, 3),
    at('By hand', 'd', 0, 9, 4),
  ]
  const plain = { like: null, trimmed: false, moved: false }

  it('knows what is the same, trimmed, moved, new and gone', () => {
    const events = [
      shots[1]!,
      at('One', 'a', 5, 47),
      at('New', 'e', 0, 5),
      at('Three', 'c', 0, 90),
      at('Lost', null, 0, 0),
    ]
    const { changes, gone } = changesOfEdit(events, shots)
    expect(changes.map((c) => c.shot)).toEqual([2, 1, null, 3, null])
    expect(changes.map((c) => c.trimmed)).toEqual([false, true, false, false, false])
    // One of the two that changed places has moved, not both.
    expect(changes.filter((c) => c.moved)).toHaveLength(1)
    expect(gone).toEqual([4])
  })
  it('leaves a treatment with its frames where a shot is cut in two: the longer part keeps it, the other takes it', () => {
    const { changes } = changesOfEdit([at('Three', 'c', 0, 20), at('Three', 'c', 30, 90)], shots)
    expect(changes).toEqual([
      { ...plain, shot: null, like: 3 },
      { ...plain, shot: 3, trimmed: true },
    ])
  })
  it('takes the same footage that is seen twice for two shots, by the frames that each shows', () => {
    const twice = [at('T', 'c', 0, 20, 1), at('T', 'c', 60, 90, 2)]
    const { changes, gone } = changesOfEdit([at('T', 'c', 58, 88), at('T', 'c', 2, 20)], twice)
    expect(changes.map((c) => c.shot)).toEqual([2, 1])
    expect(gone).toEqual([])
  })
  it('is the same shot by its name alone where it shows other frames of the same footage, and never of other footage', () => {
    expect(changesOfEdit([at('Two', 'b', 60, 80)], shots).changes).toEqual([{ ...plain, shot: 2, trimmed: true }])
    expect(changesOfEdit([at('Two', 'e', 10, 40)], shots).changes[0]!.shot).toBeNull()
  })
})

describe('what an edit says of a shot', () => {
  it('is told in words where it is more than a cut', () => {
    expect(cutInWords(cut({}))).toBe('')
    expect(cutInWords(cut({ speed: -0.5, after: 8 }))).toBe('at -50 % speed; frames of a dissolve: 8 at its end')
    expect(cutInWords(cut({ speed: 0, length: 20, before: 3, after: 4 }))).toBe(
      'held for 20 frames; frames of a dissolve: 3 at its beginning, 4 at its end',
    )
  })
  it('becomes a bath of the preparation, once, and comes out of it again', () => {
    const own = newBath('balance', 'aaaaaaaaaaaaaaaa')
    const prepared = withDecision([own], DECISION)
    expect(prepared.map((b) => [b.kind, b.name])).toEqual([
      ['balance', ''],
      ['cdl', 'From the edit'],
    ])
    expect(decisionIn(prepared)).toEqual(DECISION)
    const again = withDecision(prepared, { ...DECISION, saturation: 1 })
    expect([again.length, again[1]!.id, decisionIn(again)!.saturation]).toEqual([2, prepared[1]!.id, 1])
    expect(decisionIn([own])).toBeNull()
    expect(decisionIn(prepared.map((b) => ({ ...b, in: false })))).toBeNull()
    expect(() => withDecision([], { ...DECISION, slope: [9, 1, 1] })).toThrow(/slopeRed is 9; this bath takes 0 to 4/)
  })
})
