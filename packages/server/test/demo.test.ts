import { join } from 'node:path'
import { bt709ToLab, ciede2000, displayLight, type Triple } from '@fogbath/core/colour'
import { NOTHING_AROUND } from '@fogbath/core/line'
import { SHIPPED_RECIPES } from '@fogbath/core/recipes'
import { Treatment } from '@fogbath/core/treat'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { Medium, Proof, Shot, Trial } from '../src/db/models'
import { loadDemo } from '../src/demo'
import { decodeFrames } from '../src/media/decode'
import { makeRig, type Rig } from './helpers'

let rig: Rig
beforeAll(async () => {
  rig = await makeRig()
  await loadDemo(rig.context.db, rig.context.store, join(import.meta.dirname, '../../../demo'))
})
afterAll(() => rig.close())

describe('the demo', () => {
  it('has five shots with five recipes, three trials each, a mask and two proofs', async () => {
    const shots = await Shot.findAll({ order: [['position', 'ASC']] })
    const chosen = await Promise.all(shots.map((s) => Trial.findByPk(s.trialId!)))
    expect(new Set(chosen.map((t) => t!.recipe.id)).size).toBe(5)
    for (const shot of shots) expect(await Trial.count({ where: { shotId: shot.id } })).toBe(3)
    expect(chosen.filter((t) => t!.recipe.baths.some((b) => b.mask))).toHaveLength(1)
    const proofs = await Proof.findAll()
    expect(proofs.map((p) => [p.shotId, p.width, p.picture.toString('latin1', 1, 4)])).toEqual([
      [shots[0]!.id, 960, 'PNG'],
      [shots[0]!.id, 960, 'PNG'],
    ])
    expect(proofs[0]!.picture.equals(proofs[1]!.picture)).toBe(false)
    // It is loaded into an empty database only.
    expect(await loadDemo(rig.context.db, rig.context.store, 'nowhere')).toBe(false)
  })
})

describe('the plain print hands display footage back', () => {
  const plain = SHIPPED_RECIPES.find((r) => r.id === 'plain')!
  /** Differences between a frame and its plain print, CIEDE2000, in rising order. */
  async function differences(name: string): Promise<number[]> {
    const shot = (await Shot.findOne({ where: { name } }))!
    const medium = (await Medium.findByPk(shot.mediumId))!
    const size = { width: 320, height: 180 }
    const treatment = new Treatment()
    const found: number[] = []
    const options = { first: shot.still, count: 1, ...size }
    for await (const { data } of decodeFrames(rig.context.store.sourceOf(medium), medium.info, options)) {
      const { pixels } = treatment.run(
        { data, format: 'u16', ...size, frame: 0 },
        { recipe: plain, ...NOTHING_AROUND, encoding: shot.encoding },
      )
      for (let i = 0; i < size.width * size.height; i++) {
        const lab = (code: (k: 0 | 1 | 2) => number): Triple =>
          bt709ToLab([displayLight(code(0)), displayLight(code(1)), displayLight(code(2))])
        found.push(
          ciede2000(
            lab((k) => data[3 * i + k]! / 65535),
            lab((k) => pixels[4 * i + k]!),
          ),
        )
      }
    }
    return found.sort((a, b) => a - b)
  }
  it.each([
    // Fog, faces and meadows are within reach of the dyes; some of the bunting's pure colours are not.
    ['Dawn fog', 0.1, 0.5],
    ['Keeper and apprentice', 0.1, 1],
    ['Regatta bunting', 0.8, 5],
  ])('%s', async (name, mean, most) => {
    const found = await differences(name)
    expect(found.reduce((a, b) => a + b) / found.length).toBeLessThan(mean)
    expect(found[Math.floor(0.99 * found.length)]).toBeLessThan(most)
  })
})
