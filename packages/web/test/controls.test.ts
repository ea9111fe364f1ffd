import { KINDS, kindById } from '@fogbath/core/baths'
import { newBath, type Bath } from '@fogbath/core/line'
import { newPart, withPart, type Mask } from '@fogbath/core/masks'
import { flushPromises, mount } from '@vue/test-utils'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest'
import { defineComponent, h, nextTick, shallowRef, watch } from 'vue'
import { api } from '../src/api/client'
import type { KeptMask } from '@fogbath/contract'
import MaskPanel from '../src/bench/MaskPanel.vue'
import SettingRow from '../src/bench/SettingRow.vue'
import { useKeys } from '../src/bench/useKeys'
import NamedSlider from '../src/components/NamedSlider.vue'
import { useBenchStore } from '../src/stores/bench'
import { steady } from '../src/stores/steady'
import { stamps } from './fake-server'

beforeEach(() => setActivePinia(createPinia()))
afterEach(() => void (document.body.innerHTML = ''))

describe('a slider', () => {
  const slider = () =>
    mount(NamedSlider, {
      props: { value: 40, min: 0, max: 100, step: 1, name: 'Bleach', unit: '%' },
      attachTo: document.body,
    })
  it('has a name and a value in words for screen readers', async () => {
    const wrapper = slider()
    const handle = wrapper.get('[role="slider"]')
    expect(handle.attributes('aria-label')).toBe('Bleach')
    expect(handle.attributes('aria-valuetext')).toBe('40 %')
    await wrapper.setProps({ value: 55.5 })
    expect(handle.attributes('aria-valuetext')).toBe('55.5 %')
  })
  it('follows the pointer ten times more slowly with Shift, in whole steps', async () => {
    const wrapper = slider()
    Object.defineProperty(wrapper.element, 'clientWidth', { value: 200 })
    const move = (clientX: number) => window.dispatchEvent(new MouseEvent('mousemove', { clientX }))
    await wrapper.get('.n-slider').trigger('mousedown', { shiftKey: true, button: 0, clientX: 500 })
    move(540)
    move(440)
    move(5000)
    window.dispatchEvent(new MouseEvent('mouseup'))
    move(600)
    // A fifth of the way is two steps of the hundred; without end it stops at the end of the range.
    expect(wrapper.emitted('change')!.map(([v]) => v)).toEqual([42, 37, 100])
  })
  it('takes Home, End and the page keys, within its range, and is reset by a double click', async () => {
    const wrapper = slider()
    for (const key of ['Home', 'End', 'PageUp', 'PageDown']) await wrapper.trigger('keydown', { key })
    await wrapper.setProps({ value: 96 })
    await wrapper.trigger('keydown', { key: 'PageUp' })
    expect(wrapper.emitted('change')!.map(([v]) => v)).toEqual([0, 100, 50, 30, 100])
    await wrapper.trigger('dblclick')
    expect(wrapper.emitted('reset')).toHaveLength(1)
  })
})

describe('a setting', () => {
  it.each(KINDS.map((kind) => [kind.id, kind] as const))('of %s is drawn from its schema, with a name', (_, kind) => {
    for (const [name, field] of Object.entries(kind.schema.properties as Record<string, never>)) {
      const { default: value, title } = field as { default: unknown; title: string }
      const row = mount(SettingRow, { props: { name, field, value }, attachTo: document.body })
      expect(row.text()).toContain(title)
      expect(row.html()).toContain(`aria-label="${title}`)
      // At its default there is nothing to reset.
      expect(row.get('button.dot').attributes('disabled')).toBeDefined()
      row.unmount()
    }
  })
  it('marks what differs from the default, and brings it back', async () => {
    const field = kindById('colour-print').schema.properties['bleachPrint'] as never
    const row = mount(SettingRow, { props: { name: 'bleachPrint', field, value: 30 }, attachTo: document.body })
    expect(row.find('.dot i.on').exists()).toBe(true)
    await row.get('button.dot').trigger('click')
    expect(row.emitted('change')).toEqual([[100]])
  })
})

describe('the mask’s settings', () => {
  const bath = (mask: Mask | null): Bath => ({ ...newBath('colour-print', 'bath-1'), mask })
  beforeEach(() => void vi.spyOn(api, 'masks').mockResolvedValue([]))
  function panel(mask: Mask | null) {
    const bench = useBenchStore()
    const set = vi.spyOn(bench, 'setMask').mockImplementation(() => undefined)
    const setPart = vi.spyOn(bench, 'setPartSettings').mockImplementation(() => undefined)
    const wrapper = mount(MaskPanel, { props: { bath: bath(mask) }, attachTo: document.body })
    const word = (text: string) => wrapper.findAll('button').find((b) => b.text() === text)!
    return { bench, set, setPart, wrapper, word, last: () => set.mock.lastCall![1] as Mask | null }
  }
  it('begin with what the bath can be limited by', async () => {
    const { set, word, last, bench } = panel(null)
    await word('ellipse').trigger('click')
    expect(set).toHaveBeenCalledTimes(1)
    expect(last()).toMatchObject({ reads: 'footage', grow: 0, parts: [{ type: 'ellipse', join: 'add' }] })
    expect(bench.part).toBe(0)
    expect(bench.picking).toBe(false)
    await word('colours').trigger('click')
    expect(bench.picking).toBe(true)
  })
  it('show the settings of the chosen part, and what the mask reads only where it reads a picture', async () => {
    const shapes = withPart(withPart(null, newPart('ellipse')), newPart('gradient'))
    const { wrapper, bench } = panel(shapes)
    bench.part = 1
    await nextTick()
    expect(wrapper.find('[data-setting="x0"]').exists()).toBe(true)
    expect(wrapper.find('[data-setting="turn"]').exists()).toBe(false)
    expect(wrapper.find('[data-setting="reads"]').exists()).toBe(false)
    await wrapper.setProps({ bath: bath(withPart(shapes, newPart('tone'))) })
    expect(wrapper.find('[data-setting="reads"]').exists()).toBe(true)
    await wrapper.findAll('.parts .name')[2]!.trigger('click')
    expect(bench.part).toBe(2)
    expect(wrapper.find('[data-setting="channel"]').exists()).toBe(true)
  })
  it('take parts away, the last one with the mask', async () => {
    const two = withPart(withPart(null, newPart('ellipse')), newPart('tone'))
    const both = panel(two)
    await both.wrapper.get('[aria-label="Remove part 1"]').trigger('click')
    expect(both.last()!.parts.map((p) => p.type)).toEqual(['tone'])
    const single = panel(withPart(null, newPart('outline')))
    await single.wrapper.get('[aria-label="Remove part 1"]').trigger('click')
    expect(single.last()).toBeNull()
    expect(single.bench.part).toBeNull()
  })
  it('can be made while the server does not answer; kept masks are read again on a click', async () => {
    const kept: KeptMask = {
      id: 1,
      key: 'k',
      name: 'Lamp',
      revision: 0,
      archived: false,
      ...stamps,
      mask: withPart(null, newPart('ellipse')),
    }
    vi.spyOn(api, 'masks').mockRejectedValueOnce(new Error('no connection')).mockResolvedValue([kept])
    const { word, set } = panel(null)
    await flushPromises()
    await word('gradient').trigger('click')
    expect(set).toHaveBeenCalledTimes(1)
    await word('read kept masks again').trigger('click')
    await flushPromises()
    expect(word('read kept masks again')).toBeUndefined()
    expect(word('kept mask')).toBeDefined()
  })
  it('show picked colours as they look, each removed by a click', async () => {
    const picks = [
      [53.2, 80.1, 67.2],
      [100, 0, 0],
    ]
    const { wrapper, bench, setPart } = panel(withPart(null, newPart('colour', { picks })))
    bench.part = 0
    await nextTick()
    const swatches = wrapper.findAll('.pick')
    // sRGB red and white in CIE L*a*b* under D65.
    const colours = swatches.map((s) => (s.attributes('style') ?? '').match(/\d+/g)!.map(Number))
    expect(colours[0]![0]).toBeGreaterThanOrEqual(254)
    expect(Math.max(colours[0]![1]!, colours[0]![2]!)).toBeLessThan(6)
    for (const v of colours[1]!) expect(v).toBeGreaterThanOrEqual(254)
    await swatches[0]!.trigger('click')
    expect(setPart).toHaveBeenLastCalledWith(0, { picks: [picks[1]] }, 'picks')
  })
})

describe('keys', () => {
  function keyboard() {
    const actions = Object.fromEntries(['play', 'mask', 'undo', 'redo', 'escape', 'hold'].map((a) => [a, vi.fn()]))
    const [choose, release] = [vi.fn(), vi.fn()]
    const page = defineComponent({
      setup: () => (useKeys(actions, choose, { hold: release }), () => h('div', [h('input'), h('button', 'b')])),
    })
    const wrapper = mount(page, { attachTo: document.body })
    const press = (key: string, more: object = {}, on: EventTarget = window) =>
      on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }))
    return { actions, choose, release, wrapper, press }
  }
  it('do what the help sheet says; digits choose baths', () => {
    const { actions, choose, press, wrapper } = keyboard()
    press('b')
    press('Z', { ctrlKey: true, shiftKey: true })
    press('z', { ctrlKey: true })
    press('3')
    press('Escape')
    expect(
      [actions['mask'], actions['redo'], actions['undo'], actions['escape']].map((f) => f!.mock.calls.length),
    ).toEqual([1, 1, 1, 1])
    expect(choose).toHaveBeenCalledWith(2)
    wrapper.unmount()
    press('b')
    expect(actions['mask']).toHaveBeenCalledTimes(1)
  })
  it('leave fields their letters and buttons their space bar', () => {
    const { actions, press, wrapper } = keyboard()
    press('b', {}, wrapper.get('input').element)
    press(' ', {}, wrapper.get('button').element)
    expect(actions['mask']).not.toHaveBeenCalled()
    expect(actions['play']).not.toHaveBeenCalled()
    press(' ')
    expect(actions['play']).toHaveBeenCalledTimes(1)
  })
  it('are let go as well as pressed', () => {
    const { actions, release, press } = keyboard()
    press('f')
    window.dispatchEvent(new KeyboardEvent('keyup', { key: 'f' }))
    expect(actions['hold']).toHaveBeenCalledTimes(1)
    expect(release).toHaveBeenCalledTimes(1)
  })
})

describe('a value that is watched', () => {
  it('is another one only when something in it is', async () => {
    const [one, two, other] = [shallowRef(1), shallowRef({ a: [1] }), shallowRef(0)]
    const work = vi.fn()
    const value = steady(() => ({ one: one.value, two: two.value, big: other.value > 10 }))
    watch(value, work)
    const before = value.value
    other.value = 5
    two.value = { a: [1] }
    await flushPromises()
    expect(work).not.toHaveBeenCalled()
    expect(value.value).toBe(before)
    two.value = { a: [2] }
    await flushPromises()
    other.value = 11
    await flushPromises()
    expect(work).toHaveBeenCalledTimes(2)
    expect(value.value).toEqual({ one: 1, two: { a: [2] }, big: true })
  })
})
