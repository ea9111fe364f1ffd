import { describe, expect, it } from 'vitest'
import { applies, defaultsOf, KINDS } from '../src/baths'
import { PATCHES } from '../src/charts'
import { chroma, type Triple } from '../src/colour'
import { newBath, plainLine, type Recipe } from '../src/line'
import { PROCESS_RECIPES } from '../src/recipes'
import { grey, labOf, lightOf, luminance, shipped, timedInPart } from './helpers'

const patch = (name: string): Triple => PATCHES.find((p) => p.name === name)!.light
const footage: Recipe = { ...shipped('plain'), baths: [] }

describe('the settings of every kind', () => {
  it.each(KINDS.map((k) => [k.id, k] as const))(
    '%s: a few come first, three to six of a process, each with range, texts and default',
    (_, kind) => {
      const fields = Object.values(kind.schema.properties as Record<string, Record<string, unknown>>)
      const first = fields.filter((f) => f['first'] && applies(f, defaultsOf(kind.schema)))
      expect(first.length).toBeGreaterThanOrEqual(kind.stretch === 'process' ? 3 : 1)
      expect(first.length).toBeLessThanOrEqual(6)
      for (const f of fields) {
        for (const text of ['title', 'description', 'group']) expect(f[text]).toMatch(/\S/)
        if (f['type'] !== 'number') continue
        expect(f['default']).toBeGreaterThanOrEqual(f['minimum'] as number)
        expect(f['default']).toBeLessThanOrEqual(f['maximum'] as number)
        expect(f['step'] ?? 0).toBeLessThan(((f['maximum'] as number) - (f['minimum'] as number)) / 9)
      }
    },
  )
})

describe('timing', () => {
  it.each(
    PROCESS_RECIPES.filter((r) => !['day-for-night', 'faded', 'faded-warm'].includes(r.id) && !timedInPart(r)).map(
      (r) => [r.id, r] as const,
    ),
  )('%s holds mid grey within 1 %%', (_, recipe) => {
    expect(Math.abs(luminance(lightOf(plainLine(recipe), grey(0.18))) / 0.18 - 1)).toBeLessThan(0.01)
  })
})

describe('combining processes', () => {
  it('shows the order, and what a bath takes', () => {
    const sepia = newBath('black-and-white', 'bath-1', { toner1: 'sulphide' })
    const old = newBath('aged-print', 'bath-2', { fadeCyan: 60 })
    const line = (baths: Recipe['baths']): Recipe => ({ ...footage, baths })
    const one = labOf(line([sepia, { ...old, takes: 'line' }]), grey(0.1))
    const two = labOf(
      line([
        { ...old, takes: 'line' },
        { ...sepia, takes: 'line' },
      ]),
      grey(0.1),
    )
    expect(Math.abs(one[1] - two[1]) + Math.abs(one[2] - two[2])).toBeGreaterThan(3)
    expect(chroma(labOf(line([sepia, { ...old, takes: 'camera' }]), patch('sky')))).toBeGreaterThan(0)
  })
  it('day for night is dark, blue, and pulls the lights down further than the shadows', () => {
    const night = shipped('day-for-night')
    const drop = (light: number) => labOf(footage, grey(light))[0] - labOf(night, grey(light))[0]
    expect(labOf(night, grey(0.18))[2]).toBeLessThan(-5)
    expect(drop(0.6)).toBeGreaterThan(drop(0.02))
    expect(drop(0.18)).toBeGreaterThan(10)
  })
})
