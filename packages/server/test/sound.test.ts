import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Shot } from '@fogbath/contract'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { makeRig, multipart, type Rig } from './helpers'

const folder = mkdtempSync(join(tmpdir(), 'fogbath-sound-'))
let rig: Rig
let shots: Shot[]
beforeAll(async () => {
  rig = await makeRig()
  const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Sound' } })
  const url = `/api/productions/${made.json<{ id: number }>().id}/media`
  const clip = (name: string, ...sound: string[]) => {
    const path = join(folder, name)
    const picture = ['-f', 'lavfi', '-i', `testsrc2=s=64x48:r=24:d=3`]
    execFileSync('ffmpeg', ['-v', 'error', '-y', ...picture, ...sound, '-c:v', 'ffv1', path])
    return { name, bytes: readFileSync(path) }
  }
  // Half a wave of 100 Hz at half its height, beginning at one second; silence before.
  const tone = 'aevalsrc=if(gte(t\\,1)\\,0.5*sin(2*PI*100*t)\\,0):s=44100:d=3'
  const files = [clip('tone.mkv', '-f', 'lavfi', '-i', tone, '-c:a', 'pcm_s16le'), clip('mute.mkv', '-t', '1')]
  shots = (await rig.app.inject({ method: 'POST', url, ...multipart(files) })).json<{ shots: Shot[] }>().shots
})
afterAll(async () => {
  await rig.close()
  rmSync(folder, { recursive: true, force: true })
})
const ask = (of: Shot, from: number, length: number) =>
  rig.app.inject(`/api/media/${of.mediumId}/sound?from=${from}&length=${length}`)

it('of a clip is given in pieces, to the sample, and less at its end', async () => {
  expect(shots.map((s) => s.medium.info.sound)).toEqual([1, undefined])
  const { rawPayload } = await ask(shots[0]!, 0.5, 1)
  const at = (second: number, channel: 0 | 1): number =>
    rawPayload.readInt16LE(4 * Math.round(48_000 * second) + 2 * channel)
  expect(rawPayload.length).toBe(4 * 48_000)
  expect([at(0.1, 0), at(0.49, 1)]).toEqual([0, 0])
  // A quarter of a wave behind one second stands its top: half of full, 3 dB less in each of two (ITU-R BS.775-3, table 2).
  for (const channel of [0, 1] as const) expect(at(0.5 + 0.0025, channel) / 32768).toBeCloseTo(0.5 * Math.SQRT1_2, 2)
  expect((await ask(shots[0]!, 2.5, 4)).rawPayload.length / 4 / 48_000).toBeCloseTo(0.5, 2)
  expect((await ask(shots[0]!, 10, 4)).rawPayload).toHaveLength(0)
})

it('of what has none, or beyond what may be asked for, is refused in words', async () => {
  const none = await ask(shots[1]!, 0, 1)
  expect([none.statusCode, none.json<{ message: string }>().message]).toEqual([400, 'mute.mkv has no sound.'])
  expect((await ask(shots[0]!, 0, 31)).statusCode).toBe(400)
  expect((await ask(shots[0]!, -1, 1)).json<{ message: string }>().message).toMatch(/from.*0/)
})
