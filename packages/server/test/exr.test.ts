import { join } from 'node:path'
import { expect, it } from 'vitest'
import { decodeFrames } from '../src/media/decode'
import { probe } from '../src/media/probe'

const [WIDE, HIGH] = [32, 16]
/** As exr/README.md says how they were written. */
const lightAt = (x: number, y: number): number[] => [x / 16, y / 8, 0.25 + 0.5 * Math.floor(x / 8)]

// DWA loses by design: a cosine transform at its usual level of 45.
it.each([
  ['zips', 0],
  ['piz', 0],
  ['pxr24', 0],
  ['b44', 0],
  ['b44a', 0],
  ['dwaa', 0.01],
  ['dwab', 0.01],
  ['parts', 0],
  ['tiled', 0],
])('EXR, %s, is read within %f of the light', async (name, within) => {
  const source = { type: 'file', path: join(import.meta.dirname, `exr/${name}.exr`) } as const
  const info = await probe(source, name)
  expect([info.kind, info.width, info.height, info.float, info.encoding]).toEqual(['still', WIDE, HIGH, true, 'linear'])
  let frames = 0
  for await (const { data } of decodeFrames(source, info, { first: 0, count: 1 })) {
    frames++
    let worst = 0
    for (let i = 0; i < WIDE * HIGH; i++)
      for (const [k, v] of lightAt(i % WIDE, Math.floor(i / WIDE)).entries())
        worst = Math.max(worst, Math.abs(data[3 * i + k]! - v))
    expect(worst).toBeLessThanOrEqual(within)
  }
  expect(frames).toBe(1)
})
