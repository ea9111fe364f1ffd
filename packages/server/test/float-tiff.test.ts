import { execFileSync } from 'node:child_process'
import { mkdtempSync, readFileSync, rmSync, writeFileSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import type { Shot } from '@fogbath/contract'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { makeRig, multipart, type Rig } from './helpers'
import { PROGRAM } from './program'

const [WIDE, HIGH] = [32, 16]
const written = (name: string) => ({ name, bytes: readFileSync(join(import.meta.dirname, 'exr', name)) })
const folder = mkdtempSync(join(tmpdir(), 'fogbath-tiff-'))
let rig: Rig
let production: number
beforeAll(async () => {
  rig = await makeRig()
  const made = await rig.app.inject({ method: 'POST', url: '/api/productions', payload: { name: 'Floats' } })
  production = made.json<{ id: number }>().id
})
afterAll(async () => {
  await rig.close()
  rmSync(folder, { recursive: true, force: true })
})
const bring = (files: { name: string; bytes: Buffer }[], to = 'media') =>
  rig.app.inject({ method: 'POST', url: `/api/productions/${production}/${to}`, ...multipart(files) })

/** Of a half float (IEEE 754, binary16), above zero. */
const half = (bits: number): number => {
  const [exponent, part] = [bits >> 10, bits & 1023]
  return exponent === 0 ? part / 2 ** 24 : 2 ** (exponent - 15) * (1 + part / 1024)
}

describe('a TIFF of floats', () => {
  it.each(['float.tif', 'lzw.tif'])('is kept as EXR with the same light: %s', async (name) => {
    const reply = await bring([written(name)])
    expect(reply.statusCode).toBe(201)
    const shot = reply.json<{ shots: Shot[] }>().shots.at(-1)!
    // Packed in another way the same numbers are the same footage.
    expect(shot.medium.name).toBe('float.tif')
    expect(shot.medium.info).toMatchObject({
      kind: 'still',
      width: WIDE,
      height: HIGH,
      float: true,
      encoding: 'linear',
    })
    expect(shot.medium.info.warnings).toContain(
      'It came as a TIFF of floats, and is kept as EXR with the same numbers.',
    )
    const { rawPayload } = await rig.app.inject(`/api/media/${shot.mediumId}/frames/0?width=${WIDE}`)
    for (const [x, y] of [
      [0, 0],
      [31, 0],
      [5, 9],
      [31, 15],
    ] as const) {
      const at = 6 * (y * WIDE + x)
      const found = [0, 2, 4].map((k) => half(rawPayload.readUInt16LE(at + k)))
      // As exr/README.md says; 1.94 has eleven bits in a half.
      expect(found).toEqual([x / 16, y / 8, 0.25 + 0.5 * Math.floor(x / 8)])
    }
  })

  it('is known again, though it is kept as another file', async () => {
    const [first, second] = [await bring([written('float.tif')]), await bring([written('float.tif')])]
    const media = [first, second].map((r) => r.json<{ shots: Shot[] }>().shots.at(-1)!.mediumId)
    expect(media[0]).toBe(media[1])
  })

  it('that is damaged, or one of a sequence, is refused by name', async () => {
    const { bytes } = written('float.tif')
    const cut = bytes.subarray(0, bytes.length - 60)
    expect((await bring([{ name: 'cut.tif', bytes: cut }])).json<{ message: string }>().message).toMatch(/^cut\.tif /)
    const stills = [1, 2, 3].map((n) => ({ name: `gate.${n}.tif`, bytes }))
    expect((await bring(stills, 'sequence')).json<{ message: string }>().message).toMatch(
      /gate\.1\.tif is a TIFF of floats, which is read as one still and in no sequence; save it as EXR/,
    )
  })

  it('goes through a recipe on the command line', () => {
    writeFileSync(join(folder, 'in.tif'), written('float.tif').bytes)
    const out = execFileSync(process.execPath, [PROGRAM, 'probe', 'in.tif', '--json'], {
      cwd: folder,
      encoding: 'utf8',
    })
    expect(JSON.parse(out)).toMatchObject({ codec: 'exr', width: WIDE, float: true })
    execFileSync(process.execPath, [PROGRAM, 'process', 'in.tif', '--recipe', 'plain', '-o', 'out.png'], {
      cwd: folder,
    })
    expect(readFileSync(join(folder, 'out.png')).length).toBeGreaterThan(100)
  })
})
