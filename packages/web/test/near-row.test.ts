import { mount } from '@vue/test-utils'
import { afterEach, expect, it, vi } from 'vitest'
import { h } from 'vue'
import NearRow from '../src/components/NearRow.vue'

afterEach(() => vi.unstubAllGlobals())

it('a row far away is its name; near, it is made, and stays', async () => {
  let see: (near: boolean) => void = () => undefined
  let watched = 0
  class Watcher {
    constructor(told: (entries: { isIntersecting: boolean }[]) => void) {
      see = (isIntersecting) => told([{ isIntersecting }])
    }
    observe = (): void => void watched++
    disconnect = (): void => void watched--
  }
  vi.stubGlobal('IntersectionObserver', Watcher)
  const made = vi.fn(() => h('article', 'whole'))
  const row = mount(NearRow, { props: { name: 'Dawn', height: 200 }, slots: { default: made } })
  await vi.waitFor(() => expect(watched).toBe(1))
  see(false)
  await row.vm.$nextTick()
  expect([row.text(), made.mock.calls.length, row.element.getAttribute('style')]).toEqual([
    'Dawn',
    0,
    'min-height: 200px;',
  ])
  see(true)
  await row.vm.$nextTick()
  expect(row.text()).toBe('whole')
  expect(row.element.getAttribute('style')).toBeNull()
  expect(watched).toBe(0)
})
