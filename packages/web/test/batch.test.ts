import type { Group } from '@fogbath/core/footage'
import { describe, expect, it, vi } from 'vitest'
import { Batch, type BatchWork } from '../src/intake/batch'

const file = (name: string, bytes = 10): Group<File> => ({
  type: 'file',
  file: new File([new Uint8Array(bytes)], name),
})
/** A batch whose files are answered when the test says so. */
function made(known: (name: string) => boolean = () => false) {
  const sends: {
    name: string
    onSent: (n: number) => void
    done: (back: boolean) => void
    fail: (e: Error) => void
  }[] = []
  const nameOf = (group: Group<File>): string => (group.type === 'file' ? group.file.name : group.files[0]!.name)
  const work: BatchWork = {
    known: vi.fn(async (group) => known(nameOf(group))),
    send: vi.fn(
      (group, onSent, signal) =>
        new Promise<boolean>((done, fail) => {
          sends.push({ name: nameOf(group), onSent, done, fail })
          signal.addEventListener('abort', () => fail(new Error('stopped')))
        }),
    ),
  }
  const batch = new Batch(work)
  return { batch, sends, work, states: () => batch.items.map((i) => `${i.name} ${i.state}`) }
}

describe('files on their way in', () => {
  it('have a progress each and one together, and what is here already is not sent', async () => {
    const { batch, sends, work, states } = made((name) => name === 'old.mov')
    const all = batch.add([file('a.mov', 100), file('old.mov', 300), file('b.mov', 100)])
    await vi.waitFor(() => expect(sends).toHaveLength(1))
    expect(states()).toEqual(['a.mov sending', 'old.mov waiting', 'b.mov waiting'])
    sends[0]!.onSent(40)
    expect([batch.sent, batch.bytes, batch.over]).toEqual([40, 500, false])
    // More is sent than the file has: the form around it.
    sends[0]!.onSent(180)
    expect([batch.sent, states()[0]]).toEqual([100, 'a.mov reading'])
    sends[0]!.done(false)
    // In the order in which they were given, so that shots stand in it.
    await vi.waitFor(() => expect(sends.map((x) => x.name)).toEqual(['a.mov', 'b.mov']))
    expect(states()).toEqual(['a.mov taken', 'old.mov known', 'b.mov sending'])
    expect(batch.sent).toBe(400)
    sends[1]!.done(true)
    await all
    expect([states(), batch.sent, batch.over]).toEqual([['a.mov taken', 'old.mov known', 'b.mov back'], 500, true])
    expect(work.send).toHaveBeenCalledTimes(2)
  })

  it('fail each for itself, with the reason', async () => {
    const { batch, sends, states } = made()
    const all = batch.add([file('bad.mov'), file('good.mov')])
    await vi.waitFor(() => expect(sends).toHaveLength(1))
    sends[0]!.fail(new Error('bad.mov is cut short.'))
    await vi.waitFor(() => expect(sends).toHaveLength(2))
    sends[1]!.done(false)
    await all
    expect(states()).toEqual(['bad.mov refused', 'good.mov taken'])
    expect(batch.items[0]!.message).toBe('bad.mov is cut short.')
  })

  it('are stopped together, and what was taken in stays; the next ones begin a new list', async () => {
    const { batch, sends, work, states } = made()
    const all = batch.add([file('a.mov'), file('b.mov'), file('c.mov'), file('d.mov')])
    await vi.waitFor(() => expect(sends).toHaveLength(1))
    sends[0]!.done(false)
    await vi.waitFor(() => expect(sends).toHaveLength(2))
    batch.stop()
    await all
    expect(states()).toEqual(['a.mov taken', 'b.mov stopped', 'c.mov stopped', 'd.mov stopped'])
    expect(work.send).toHaveBeenCalledTimes(2)
    const more = batch.add([file('e.mov')])
    await vi.waitFor(() => expect(sends).toHaveLength(3))
    sends[2]!.done(false)
    await more
    expect(states()).toEqual(['e.mov taken'])
  })

  it('are named by their ends where they are a sequence', () => {
    const { batch } = made()
    const files = ['s.1.png', 's.2.png', 's.3.png'].map((name) => new File(['xx'], name))
    void batch.add([{ type: 'sequence', files }])
    expect(batch.items.map((i) => [i.name, i.bytes])).toEqual([['s.1.png to s.3.png', 6]])
  })
})
