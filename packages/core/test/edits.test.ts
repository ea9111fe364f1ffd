import { describe, expect, it } from 'vitest'
import { footageOf, framesIn, readEdit, type EditEvent } from '../src/edits'

const LIST = `TITLE:   HARBOUR ROUGH 3
FCM: NON-DROP FRAME

001  A001     V     C        01:00:10:00 01:00:12:12 00:00:00:00 00:00:02:12
* FROM CLIP NAME:  Dawn Fog.mov
*ASC_SOP (1.1 1 0.9)(0.01 0 -0.02)(1 1.05 1)
*ASC_SAT 0.85
002  A002     A     C        01:00:00:00 01:00:05:00 00:00:02:12 00:00:07:12
003  A001     V     C        01:00:12:12 01:00:12:12 00:00:02:12 00:00:02:12
003  A003     V     D    024 03:00:00:00 03:00:03:00 00:00:02:12 00:00:05:12
* FROM CLIP NAME:  Dawn Fog.mov
* TO CLIP NAME:  Faces.mov
004  BL       V     C        00:00:00:00 00:00:01:00 00:00:05:12 00:00:06:12
005  A004     B     C        00:00:02:00 00:00:03:00 00:00:06:12 00:00:08:12
M2   A004             012.0                00:00:02:00
006  A005     V     C        00:00:05:00 broken
007  A006     V     C        00:00:04:00 00:00:05:00 00:00:08:12 00:00:09:12
M2   A006            -024.0                00:00:04:00
`
const footage = (name: string, frames: number, timecode?: string) => ({
  name,
  frames,
  fps: '24/1',
  ...(timecode && { timecode }),
})

describe('a CMX 3600 list', () => {
  const { title, events, left } = readEdit('harbour.EDL', LIST, '24')
  const named = (name: string): EditEvent => events.find((e) => e.name === name)!

  it('gives its picture in order, named by clip, else by reel; sound and black are none of it', () => {
    expect(title).toBe('HARBOUR ROUGH 3')
    expect(events.map((e) => e.name)).toEqual(['Dawn Fog', 'Faces', 'A004', 'A006'])
    expect(named('Dawn Fog').footage).toEqual(['Dawn Fog.mov', 'A001'])
    expect(events.map((e) => e.place)).toEqual(['line 4', 'line 10', 'line 14', 'line 17'])
  })
  it('names the line that is no event, and keeps the others', () => {
    expect(left).toHaveLength(1)
    expect(left[0]).toMatch(/^Line 16 is left out: '006 .* is no event: number, reel, track/)
  })
  it('counts frames from the footage’s first', () => {
    // Two and a half seconds from ten seconds on, of a file that starts at one hour: 60 frames from the 240th on.
    expect(framesIn(named('Dawn Fog'), footage('x', 400, '01:00:00:00'))).toEqual({
      first: 240,
      last: 299 + 24,
      before: 0,
      after: 24,
    })
    expect(framesIn(named('Dawn Fog'), footage('x', 300, '01:00:00:00'))).toMatchObject({ last: 299, after: 0 })
    expect(framesIn(named('Dawn Fog'), footage('x.mov', 299, '01:00:00:00'))).toBe(
      'x.mov goes from 01:00:00:00 to 01:00:12:10, and the edit shows 01:00:10:00 to 01:00:12:11.',
    )
  })
  it('keeps a dissolve as the handle of the shot that it leads from', () => {
    expect(events.map((e) => e.handles.after)).toEqual([24, 0, 0, 0])
    expect(named('Faces')).toMatchObject({ first: 3 * 3600 * 24, count: 72, handles: { before: 0 } })
  })
  it('gives what a dissolve leads from as a shot where it is seen nowhere else', () => {
    const rows = [
      '001  A001  V  C      00:00:01:00 00:00:02:00 00:00:00:00 00:00:01:00',
      '002  A002  V  C      00:00:30:00 00:00:30:00 00:00:01:00 00:00:01:00',
      '002  A003  V  D 012  00:00:40:00 00:00:41:00 00:00:01:00 00:00:02:00',
      '* FROM CLIP NAME: Gulls.mov',
    ]
    const made = readEdit('a.edl', rows.join('\n'), '24').events
    expect(made.map((e) => [e.name, e.first, e.count, e.handles.after])).toEqual([
      ['A001', 24, 24, 0],
      ['Gulls', 720, 12, 0],
      ['A003', 960, 24, 0],
    ])
  })
  it('tells changes of speed, and the frames that they show', () => {
    // Two seconds at half the speed are one second of footage.
    expect(named('A004')).toMatchObject({ speed: 0.5, count: 24, first: 48 })
    // Backwards from the fourth second on: that frame is the last one.
    expect(named('A006')).toMatchObject({ speed: -1, count: 24, first: 4 * 24 - 23 })
  })
  it('reads the ASC’s numbers', () => {
    expect(named('Dawn Fog').decision).toEqual({
      slope: [1.1, 1, 0.9],
      offset: [0.01, 0, -0.02],
      power: [1, 1.05, 1],
      saturation: 0.85,
    })
    expect(named('Faces').decision).toBeNull()
  })
  it('counts dropped numbers where it says so', () => {
    const row = '001  A001     V     C        00:01:00:02 00:01:01:02 00:00:00:00 00:00:01:00'
    const first = (fcm: string) => readEdit('a.edl', `FCM: ${fcm}\n${row}`, '30000/1001').events[0]!.first
    // SMPTE ST 12-1: the numbers 0 and 1 are left out at the beginning of a minute.
    expect([first('NON-DROP FRAME'), first('DROP FRAME')]).toEqual([1802, 1800])
  })
})

const time = (value: number, rate = 24) => ({ OTIO_SCHEMA: 'RationalTime.1', rate, value })
const range = (start: number, length: number) => ({
  OTIO_SCHEMA: 'TimeRange.1',
  start_time: time(start),
  duration: time(length),
})
const clip = (name: string, shown: object | null, more: object = {}) => ({
  OTIO_SCHEMA: 'Clip.1',
  name,
  source_range: shown,
  media_reference: { OTIO_SCHEMA: 'ExternalReference.1', target_url: `file:///mnt/reel%201/${name}.mov` },
  ...more,
})
const timeline = (...children: object[]): string =>
  JSON.stringify({
    OTIO_SCHEMA: 'Timeline.1',
    name: 'Rough',
    tracks: {
      OTIO_SCHEMA: 'Stack.1',
      children: [
        { OTIO_SCHEMA: 'Track.1', kind: 'Video', children },
        { OTIO_SCHEMA: 'Track.1', kind: 'Audio', children: [clip('sound', range(0, 9))] },
      ],
    },
  })

describe('an OpenTimelineIO timeline', () => {
  it('gives the clips of its picture tracks, counted in their footage', () => {
    const known = {
      media_reference: {
        OTIO_SCHEMA: 'ExternalReference.1',
        target_url: 'Dawn%20Fog.mov?x=1',
        available_range: range(86400, 100),
      },
    }
    const two = {
      OTIO_SCHEMA: 'Clip.2',
      active_media_reference_key: 'low',
      media_reference: undefined,
      media_references: { low: { OTIO_SCHEMA: 'ExternalReference.1', target_url: 'C:\\reels\\low.mp4' } },
    }
    const { events, left } = readEdit(
      'a.otio',
      timeline(
        clip('fog', range(86410, 20), known),
        { OTIO_SCHEMA: 'Gap.1', source_range: range(0, 5) },
        clip('flags', range(5, 10), two),
        clip('whole', null, known),
        clip('lost', null),
      ),
      '24',
    )
    expect(events.map((e) => [e.name, e.first, e.count, e.from, e.footage])).toEqual([
      ['fog', 10, 20, 'start', ['Dawn Fog.mov', 'fog']],
      ['flags', 5, 10, 'either', ['low.mp4', 'flags']],
      ['whole', 0, 100, 'start', ['Dawn Fog.mov', 'whole']],
    ])
    expect(left).toEqual(['lost, clip 4 of V1, is left out: neither it nor its footage says which frames are shown.'])
    // Of footage that does not say where it begins, both ways to count are tried.
    expect(framesIn(events[1]!, footage('low.mp4', 48, '01:00:00:00'))).toMatchObject({ first: 5, last: 14 })
    expect(framesIn({ ...events[1]!, first: 86405 }, footage('low.mp4', 48, '01:00:00:00'))).toMatchObject({
      first: 5,
      last: 14,
    })
  })
  it('keeps dissolves as handles on both sides, and tells speed and the ASC’s numbers', () => {
    const dissolve = { OTIO_SCHEMA: 'Transition.1', in_offset: time(6), out_offset: time(4) }
    const slow = { effects: [{ OTIO_SCHEMA: 'LinearTimeWarp.1', time_scalar: 2 }] }
    const held = { effects: [{ OTIO_SCHEMA: 'FreezeFrame.1' }] }
    const graded = { metadata: { cdl: { asc_sop: { slope: [1, 2, 3], offset: [0, 0, 0], power: [1, 1, 1] } } } }
    const children = [
      clip('a', range(50, 20), graded),
      dissolve,
      clip('b', range(30, 10), slow),
      clip('c', range(9, 8), held),
    ]
    const { events } = readEdit('a.otio', timeline(...children), '24')
    expect(events.map((e) => [e.handles.before, e.handles.after, e.count, e.speed])).toEqual([
      [0, 4, 20, 1],
      [12, 0, 20, 2],
      [0, 0, 1, 0],
    ])
    expect(events[0]!.decision).toEqual({ slope: [1, 2, 3], offset: [0, 0, 0], power: [1, 1, 1], saturation: 1 })
    expect(framesIn(events[1]!, footage('b', 100))).toEqual({ first: 18, last: 49, before: 12, after: 0 })
  })
  it('counts in the rate of the footage', () => {
    const { events } = readEdit('a.otio', timeline(clip('a', range(24, 12))), '24')
    expect(framesIn(events[0]!, { name: 'a', frames: 200, fps: '48/1' })).toMatchObject({ first: 48, last: 71 })
  })
  it.each([
    ['a.otio', '{', /is no JSON/],
    ['a.otio', '{"OTIO_SCHEMA":"Clip.1"}', /is no timeline; its OTIO_SCHEMA is 'Clip'/],
    ['a.xml', '', /a\.xml is no edit list that can be read; it must end in \.edl or \.otio/],
  ])('that is none is refused: %s %s', (name, text, words) => {
    expect(() => readEdit(name, text, '24')).toThrow(words)
  })
})

it('footage is known by its whole name, then without its ending, then by what stands before a sequence’s numbers', () => {
  const [event] = readEdit('a.otio', timeline(clip('Gate', range(0, 1))), '24').events as [EditEvent]
  const file = (name: string, sequence = false) => ({ name, sequence })
  const files = [file('gate.0001.exr', true), file('gate.mp4'), file('other.mov'), file('GATE.MOV'), file('gate-2.mov')]
  expect(footageOf(event, files).map((f) => f.name)).toEqual(['GATE.MOV', 'gate.mp4', 'gate.0001.exr'])
})
