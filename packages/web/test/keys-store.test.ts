import { newPart, withPart } from '@fogbath/core/masks'
import type { Track } from '@fogbath/core/tracking'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { api } from '../src/api/client'
import { useBenchStore } from '../src/stores/bench'
import { useTrackingStore } from '../src/stores/tracking'
import { fakeServer, shotOf } from './fake-server'

const medium = { id: 1, name: 'clip', sha256: '', size: 1, info: { width: 1280, height: 720, frames: 48, fps: '24/1' } }
const FIRST = 10
/** A track of a shape that goes by one per cent a frame to the right, drawn in frame 20. */
const track: Track = {
  id: 'lantern1',
  frame: 20,
  motions: ['move'],
  first: 10,
  corners: Array.from({ length: 38 }, (_, i) => [i, 40, 20 + i, 40, 20 + i, 60, i, 60]),
  used: Array.from({ length: 38 }, () => 0.8),
  lost: [],
  smooth: 0,
}
beforeEach(() => setActivePinia(createPinia()))
afterEach(() => {
  localStorage.clear()
  vi.restoreAllMocks()
})

async function open(more: object = {}) {
  fakeServer([shotOf(1, { medium: medium as never, first: FIRST, last: 47, ...more })])
  const bench = useBenchStore()
  await bench.open(1)
  bench.chosen = 'bath-1'
  return bench
}

describe('a setting that changes over the shot', () => {
  it('gets a key in each frame in which it is changed, and shows the value of the frame', async () => {
    const bench = await open()
    bench.frame = FIRST
    bench.setBath('bath-1', { strength: 20 })
    bench.toggleKey('strength')
    bench.frame = FIRST + 20
    bench.setBath('bath-1', { strength: 60 })
    expect(bench.bath!.keys!['strength']!.keys.map((k) => [k.at, k.value])).toEqual([[0, 20], [20, 60]]) // oxfmt-ignore
    bench.frame = FIRST + 10
    expect([bench.bathNow!.strength, bench.bath!.strength]).toEqual([40, 20])
    expect(bench.order!.order.time).toEqual({ first: FIRST, length: 38, tracks: [] })
    // What has no lane changes for the whole shot.
    bench.setSettings('bath-1', { push: 1 })
    expect(bench.bath!.settings['push']).toBe(1)
    // A key is taken away where it stands; without the last one it is what it is seen as.
    bench.frame = FIRST + 20
    bench.toggleKey('strength')
    bench.frame = FIRST
    bench.toggleKey('strength')
    expect([bench.bath!.keys, bench.bath!.strength]).toEqual([undefined, 20])
    bench.undo()
    expect(bench.bath!.keys!['strength']!.keys).toHaveLength(1)
  })

  it('is the strength of the look as well', async () => {
    const bench = await open()
    bench.frame = FIRST
    bench.toggleLookKey()
    bench.frame = 47
    bench.setLookStrength(0)
    expect(bench.recipe.keys!['strength']!.keys.map((k) => [k.at, k.value])).toEqual([[0, 100], [37, 0]]) // oxfmt-ignore
    expect(bench.lineNow.recipe.strength).toBe(0)
    bench.setLookLane(null)
    expect([bench.recipe.keys, bench.recipe.strength]).toEqual([undefined, 0])
  })
})

describe('a part of a mask', () => {
  const mask = withPart(null, newPart('ellipse', { x: 30 }))

  it('is moved by keys, and goes on standing where it was seen when they are gone', async () => {
    const bench = await open()
    bench.setMask('bath-1', mask, '')
    bench.frame = FIRST
    bench.togglePartKey(0)
    bench.frame = FIRST + 10
    bench.setPartSettings(0, { x: 50 }, 'x')
    bench.frame = FIRST + 5
    const x = () => (bench.bathNow!.mask!.parts[0]!.settings as { x: number }).x
    expect(x()).toBe(40)
    bench.togglePartKey(0)
    expect(bench.bath!.mask!.parts[0]!.moves!.keys).toHaveLength(3)
    bench.setPartLane(0, null)
    expect(x()).toBe(30)
  })

  it('rides on a track from where it is seen, and stays there when it gets off', async () => {
    const bench = await open({ tracks: [track] })
    bench.setMask('bath-1', mask, '')
    bench.frame = 25
    bench.ride(0, 'lantern1')
    // Five frames on from the track's own, where it went five per cent to the right.
    expect(bench.bath!.mask!.parts[0]).toMatchObject({ follows: 'lantern1', settings: { x: 25 } })
    bench.frame = 30
    bench.ride(0, null)
    expect(bench.bath!.mask!.parts[0]!.follows).toBeUndefined()
    expect(bench.bath!.mask!.parts[0]!.settings).toMatchObject({ x: 35 })
  })

  it('is followed by the server, its track is kept with the shot, and what is missing elsewhere is known', async () => {
    const bench = await open()
    bench.setMask('bath-1', mask, '')
    bench.frame = 20
    const answer = { key: 'tracking1234', done: 38, of: 38, message: null }
    const begin = vi.spyOn(api, 'beginTracking').mockImplementation(async (_, { id }) => ({ ...answer, state: 'done', track: { ...track, id } })) // oxfmt-ignore
    const tracking = useTrackingStore()
    await tracking.trackPart(0, { frame: 20, motions: ['move'], way: 'both' })
    expect(begin).toHaveBeenCalledWith(1, expect.objectContaining({ frame: 20, part: mask.parts[0] }))
    const { follows } = bench.bath!.mask!.parts[0]!
    expect(bench.shot!.tracks.map((t) => t.id)).toEqual([follows])
    expect([bench.frame, tracking.now]).toEqual([20, null])
    expect(tracking.missing(bench.shot!, bench.line)).toEqual([])
    expect(tracking.missing({ ...bench.shot!, tracks: [] }, bench.line).map((m) => m.id)).toEqual([follows])
    // Taken up again, it goes on from what is seen there; the name stays.
    bench.frame = 30
    await tracking.trackPart(0, { frame: 30, motions: ['move'], way: 'forward' })
    expect(begin.mock.lastCall![1].part.type).toBe('outline')
    expect(bench.shot!.tracks).toHaveLength(1)
    begin.mockImplementation(async () => ({ ...answer, state: 'done', track: null }))
    await tracking.trackPart(0, { frame: 30, motions: ['move'], way: 'back' })
    expect(bench.shot!.tracks).toHaveLength(1)
    begin.mockImplementation(async () => ({ ...answer, state: 'failed', track: null, message: 'Frame 3 could not be read.' })) // oxfmt-ignore
    await expect(tracking.trackPart(0, { frame: 30, motions: ['move'], way: 'back' })).rejects.toThrow('Frame 3')
    expect(tracking.now).toBeNull()
  })
})
