import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { crc32, deflateSync } from 'node:zlib'
import type { MediaInfo, Shot } from '@fogbath/contract'
import { encodingById, encodingOf, lightOfColour } from '@fogbath/core/encodings'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { matrixProfile, paraTag, powerTag, profileOf } from '../../core/test/profiles'
import { decodeFrames } from '../src/media/decode'
import { probe } from '../src/media/probe'
import { makeRig, multipart, type Rig } from './helpers'

// What stills say of themselves beside their pictures. Chunks and segments are put together here, as the standards have them.

const folder = mkdtempSync(join(tmpdir(), 'fogbath-stills-'))
afterAll(() => rmSync(folder, { recursive: true, force: true }))
const WIDE = 64
const HIGH = 48
/** Red at the left, blue at the right, the upper half bright. */
const DRAWN = `geq=r='if(lt(X,32),200,20)':g=40:b='if(lt(X,32),20,200)',drawbox=y=24:h=24:w=64:c=black:t=fill`
function drawn(name: string, ...more: string[]): string {
  const path = join(folder, name)
  const input = ['-f', 'lavfi', '-i', `color=black:s=${WIDE}x${HIGH},format=rgb24,${DRAWN}`, '-frames:v', '1']
  execFileSync('ffmpeg', ['-v', 'error', '-y', ...input, ...more, path])
  return path
}
const saved = (name: string, bytes: Buffer): string => {
  writeFileSync(join(folder, name), bytes)
  return join(folder, name)
}
const known = (path: string): Promise<MediaInfo> => probe({ type: 'file', path }, 'a still')
const u32 = (v: number): Buffer => {
  const b = Buffer.alloc(4)
  b.writeUInt32BE(v)
  return b
}

/** A PNG with chunks before its picture. */
function png(name: string, ...chunks: [type: string, data: Buffer][]): string {
  const bytes = readFileSync(drawn('plain.png'))
  const made = chunks.map(([type, data]) => {
    const body = Buffer.concat([Buffer.from(type), data])
    return Buffer.concat([u32(data.length), body, u32(crc32(body))])
  })
  return saved(name, Buffer.concat([bytes.subarray(0, 33), ...made, bytes.subarray(33)]))
}
/** A JPEG with segments behind its first marker. */
function jpeg(name: string, ...segments: [marker: number, data: Buffer][]): string {
  const bytes = readFileSync(drawn('plain.jpg', '-q:v', '2'))
  const made = segments.map(([marker, data]) => {
    const length = data.length + 2
    return Buffer.concat([Buffer.from([0xff, marker, length >> 8, length & 255]), data])
  })
  return saved(name, Buffer.concat([bytes.subarray(0, 2), ...made, bytes.subarray(2)]))
}
// TIFF header, one entry: 0x0112 (orientation), a short, 6: the left side of the picture is its top.
const EXIF_TURNED = Buffer.from(
  `457869660000${'4d4d002a00000008'}0001${'0112000300000001'}00060000${'00000000'}`,
  'hex',
)
// sRGB and a wide space of power 2.2 (IEC 61966-2-5 with its gamma of 563/256), columns under D50.
const SRGB_COLUMNS = [
  [0.43607, 0.22249, 0.01392],
  [0.38515, 0.71687, 0.09708],
  [0.14307, 0.06061, 0.7141],
]
const WIDE_COLUMNS = [
  [0.60974, 0.31111, 0.01947],
  [0.20528, 0.62567, 0.06087],
  [0.14919, 0.06322, 0.74457],
]
const SRGB_PROFILE = Buffer.from(
  matrixProfile('s', SRGB_COLUMNS, paraTag(3, 2.4, 1 / 1.055, 0.055 / 1.055, 1 / 12.92, 0.04045)),
)
const WIDE_PROFILE = Buffer.from(matrixProfile('House wide', WIDE_COLUMNS, powerTag(563 / 256)))
const iccp = (bytes: Buffer): [string, Buffer] => ['iCCP', Buffer.concat([Buffer.from('x\0\0'), deflateSync(bytes)])]
const app2 = (bytes: Buffer, at: number, of: number): [number, Buffer] => [
  0xe2,
  Buffer.concat([Buffer.from('ICC_PROFILE\0'), Buffer.from([at, of]), bytes]),
]

it('a JPEG whose EXIF says that it was held sideways stands upright', async () => {
  const path = jpeg('turned.jpg', [0xe1, EXIF_TURNED])
  const info = await known(path)
  expect([info.width, info.height]).toEqual([HIGH, WIDE])
  for await (const { data, width, height } of decodeFrames({ type: 'file', path }, info, { first: 0, count: 1 })) {
    const at = (x: number, y: number): number[] =>
      [...data.subarray(3 * (y * width + x), 3 * (y * width + x) + 3)].map((v) => v >> 8)
    expect([width, height]).toEqual([HIGH, WIDE])
    // Turned to the right: what was left lies above, what was above lies right.
    const [red, blue, black] = [at(36, 16), at(36, 48), at(10, 30)]
    expect(red[0]! - red[2]!).toBeGreaterThan(100)
    expect(blue[2]! - blue[0]!).toBeGreaterThan(100)
    expect(Math.max(...black)).toBeLessThan(20)
  }
})

describe('the encoding of a PNG', () => {
  it.each([
    ['cICP', [9, 16, 0, 1], 'pq'],
    ['cICP', [9, 18, 0, 1], 'hlg'],
    ['cICP', [12, 13, 0, 1], 'p3'],
    ['cICP', [1, 8, 0, 1], 'linear'],
    ['sRGB', [0], 'srgb'],
    ['gAMA', [...u32(100_000)], 'linear'],
    ['gAMA', [...u32(45_455)], 'srgb'],
  ] as const)('follows from its chunk %s of %j', async (type, data, encoding) => {
    expect((await known(png('marked.png', [type, Buffer.from(data)]))).encoding).toBe(encoding)
  })

  it('is a power of its own where its gamma is unusual, in its own primaries', async () => {
    const gama: [string, Buffer] = ['gAMA', u32(55_556)]
    const chrm = [31_270, 32_900, 68_000, 32_000, 26_500, 69_000, 15_000, 6000]
    const { profile, encoding } = await known(png('own.png', gama, ['cHRM', Buffer.concat(chrm.map(u32))]))
    expect([profile!.name, encoding]).toEqual(['PNG, gamma 1.80', profile!.id])
    // Light of grey is the code to the power of 1.8; red of P3 lies outside BT.709 (colour science of both: `p3`).
    const own = encodingOf(profile!)
    expect(lightOfColour(own, [0.5, 0.5, 0.5])[1]).toBeCloseTo(0.5 ** 1.8, 4)
    for (const [k, v] of lightOfColour(own, [1, 0, 0]).entries())
      expect(v).toBeCloseTo(lightOfColour(encodingById('p3'), [1, 0, 0])[k]!, 3)
  })

  it('follows the first of its chunks that counts: cICP before iCCP before sRGB before gAMA', async () => {
    const all: [string, Buffer][] = [['gAMA', u32(55_556)], ['sRGB', Buffer.from([0])], iccp(WIDE_PROFILE)]
    expect((await known(png('a.png', ...all, ['cICP', Buffer.from([9, 16, 0, 1])]))).encoding).toBe('pq')
    expect((await known(png('b.png', ...all))).profile!.name).toBe('House wide')
    expect((await known(png('c.png', all[0]!, all[1]!))).encoding).toBe('srgb')
  })
})

describe('a colour profile', () => {
  const tiff = (profile: Buffer): string => {
    const bytes = readFileSync(drawn('plain.tif', '-compression_algo', 'raw'))
    // A directory of its own at the end: the old one's entries and tag 34675.
    const at = bytes.readUInt32LE(4)
    const count = bytes.readUInt16LE(at)
    const entry = Buffer.alloc(12)
    entry.writeUInt16LE(34675, 0)
    entry.writeUInt16LE(7, 2)
    entry.writeUInt32LE(profile.length, 4)
    entry.writeUInt32LE(bytes.length, 8)
    const head = Buffer.alloc(2)
    head.writeUInt16LE(count + 1)
    const directory = Buffer.concat([head, bytes.subarray(at + 2, at + 2 + 12 * count), entry, Buffer.alloc(4)])
    const made = Buffer.concat([bytes, profile, directory])
    made.writeUInt32LE(bytes.length + profile.length, 4)
    return saved('profiled.tif', made)
  }
  const webp = (profile: Buffer): string => {
    const bytes = readFileSync(drawn('plain.webp', '-c:v', 'libwebp', '-lossless', '1'))
    const chunk = (name: string, data: Buffer): Buffer => {
      const size = Buffer.alloc(4)
      size.writeUInt32LE(data.length)
      return Buffer.concat([Buffer.from(name), size, data, Buffer.alloc(data.length % 2)])
    }
    const canvas = Buffer.from([0x20, 0, 0, 0, WIDE - 1, 0, 0, HIGH - 1, 0, 0])
    const body = Buffer.concat([chunk('VP8X', canvas), chunk('ICCP', profile), bytes.subarray(12)])
    const size = Buffer.alloc(4)
    size.writeUInt32LE(body.length + 4)
    return saved('profiled.webp', Buffer.concat([Buffer.from('RIFF'), size, Buffer.from('WEBP'), body]))
  }

  it('is read from PNG, TIFF and WebP, and from a JPEG in pieces in any order', async () => {
    const half = WIDE_PROFILE.length >> 1
    const pieces = [app2(WIDE_PROFILE.subarray(half), 2, 2), app2(WIDE_PROFILE.subarray(0, half), 1, 2)]
    for (const path of [
      png('p.png', iccp(WIDE_PROFILE)),
      jpeg('p.jpg', ...pieces),
      tiff(WIDE_PROFILE),
      webp(WIDE_PROFILE),
    ]) {
      const { profile, encoding } = await known(path)
      expect([profile?.name, encoding], path).toEqual(['House wide', profile?.id])
      expect(lightOfColour(encodingOf(profile!), [0.5, 0.5, 0.5])[1]).toBeCloseTo(0.5 ** (563 / 256), 3)
    }
    expect(await known(jpeg('s.jpg', app2(SRGB_PROFILE, 1, 1)))).toMatchObject({ encoding: 'srgb', guessed: {} })
  })

  it('that cannot be read is told of, and the still is taken in as others are', async () => {
    const info = await known(png('lab.png', iccp(Buffer.from(profileOf([], 'RGB ', 'Lab ')))))
    expect([info.encoding, info.warnings.join(' ')]).toEqual([
      'srgb',
      expect.stringContaining('made of tables; it is not read'),
    ])
    // A torn chunk is a damaged file.
    const torn = png('torn.png', ['iCCP', Buffer.from('x\0\0nothing packed')])
    await expect(known(torn)).rejects.toThrow(
      'a still cannot be decoded: it is damaged or cut short (the decoder stopped)',
    )
  })
})

describe('the transfer of a DPX', () => {
  const dpx = (transfer: number): string => {
    const bytes = readFileSync(drawn('plain.dpx', '-pix_fmt', 'gbrp10be'))
    bytes[801] = transfer
    return saved(`t${transfer}.dpx`, bytes)
  }
  it.each([
    [1, 'printing-density', undefined],
    [2, 'linear', undefined],
    [3, 'printing-density', 'because its header calls it logarithmic'],
    [6, 'bt1886', 'as video usually is'],
  ])('%i is %s', async (transfer, encoding, guessed) => {
    const info = await known(dpx(transfer))
    expect([info.encoding, info.guessed?.['encoding']]).toEqual([encoding, guessed])
  })
})

describe('a shot of a still with a profile', () => {
  let rig: Rig
  beforeAll(async () => void (rig = await makeRig()))
  afterAll(() => rig.close())
  it('has its encoding among one’s own, under the name that it has there', async () => {
    const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Profiles' } })
    const url = `/api/productions/${made.json<{ id: number }>().id}/media`
    const file = { name: 'wide.png', bytes: readFileSync(png('wide.png', iccp(WIDE_PROFILE))) }
    const shot = (await rig.app.inject({ method: 'POST', url, ...multipart([file]) })).json<{ shots: Shot[] }>()
      .shots[0]!
    expect(shot.medium.info.profile).toBeUndefined()
    const list = (await rig.app.inject('/api/encodings')).json<{ definition: { id: string; name: string } }[]>()
    expect(list.map(({ definition: { id, name } }) => [id, name])).toEqual([[shot.encoding, 'House wide']])
    await rig.app.inject({ method: 'POST', url, ...multipart([file]) })
    expect((await rig.app.inject('/api/encodings')).json<object[]>()).toHaveLength(1)
  })
})
