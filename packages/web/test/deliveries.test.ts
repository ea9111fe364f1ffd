import { DELIVERY_IDS, SHIPPED_PRESETS, checkDelivery, deliveryOfPreset, type Delivery } from '@fogbath/core/delivery'
import { describe, expect, it } from 'vitest'
import { choicesOf, formatChoices, withField, withFormat, withQuality, withRate } from '../src/bench/render/presets'

describe('a delivery as it is set', () => {
  const full: Delivery = {
    format: 'prores-4444.mov',
    alpha: true,
    handles: 8,
    size: { width: 640, height: 360, fit: 'whole' },
    burnIn: { shot: true },
    names: '{shot}',
  }
  it('keeps with another format what that can be told, whatever it was', () => {
    for (const from of [full, { ...full, format: 'mp4', alpha: undefined, quality: 40 } as never as Delivery])
      for (const format of DELIVERY_IDS) {
        const now = withFormat(from, format)
        expect(now).toMatchObject({ format, handles: 8, names: '{shot}' })
        checkDelivery(now)
      }
    expect(withFormat(full, 'tif')).toMatchObject({ alpha: true, burnIn: { shot: true } })
    expect(withFormat(full, 'exr').size).toEqual({ width: 640, height: 360, fit: 'fill' })
  })
  it('has a field set, or left out', () => {
    expect(withField(full, 'handles', 2).handles).toBe(2)
    expect('handles' in withField(full, 'handles', undefined)).toBe(false)
  })
  it('has a quality or a rate, the one that was set last', () => {
    const rated = withRate({ format: 'mp4', quality: 40 }, 12)
    expect(rated).toEqual({ format: 'mp4', rate: 12 })
    expect(withQuality(rated, 60)).toEqual({ format: 'mp4', quality: 60 })
    expect(withRate(rated, null)).toEqual({ format: 'mp4' })
    expect(withRate({ format: 'mp4', quality: 40 }, null)).toEqual({ format: 'mp4', quality: 40 })
  })
  it('can be any format, and any preset: those that ship first', () => {
    expect(formatChoices.flatMap((group) => group.children.map((c) => c.value)).sort()).toEqual(
      [...DELIVERY_IDS].sort(),
    )
    const stamps = { createdAt: '', updatedAt: '' }
    const own = { id: 4, revision: 1, name: 'House', delivery: full, ...stamps }
    const choices = choicesOf([own])
    expect(choices.slice(0, -1).map((c) => c.delivery)).toEqual(SHIPPED_PRESETS.map(deliveryOfPreset))
    expect(choices.at(-1)).toEqual({ key: 'own 4', name: 'House', delivery: full, kept: own })
  })
})
