import { flushPromises, mount } from '@vue/test-utils'
import { NMessageProvider } from 'naive-ui'
import { createPinia } from 'pinia'
import { afterEach, expect, it, vi } from 'vitest'
import { h } from 'vue'
import { createMemoryHistory, createRouter } from 'vue-router'
import ErrorBox from '../src/components/ErrorBox.vue'
import ComponentsView from '../src/dev/ComponentsView.vue'

afterEach(() => void (document.body.innerHTML = ''))

it('every component stands in its states on the page for developers, without a warning', async () => {
  const warned = vi.spyOn(console, 'warn').mockImplementation(() => {})
  const router = createRouter({
    history: createMemoryHistory(),
    routes: [{ path: '/:rest(.*)', component: ComponentsView }],
  })
  const page = () => h(NMessageProvider, () => h(ErrorBox, () => h(ComponentsView)))
  // Drawings need a canvas, which is not here.
  const global = { plugins: [createPinia(), router], stubs: { BathViews: true } }
  const wrapper = mount(page, { attachTo: document.body, global })
  await flushPromises()
  expect(wrapper.findAll('[data-setting]').map((row) => row.find('.dot i').classes('on'))).toEqual(
    Array.from({ length: 10 }, (_, i) => i % 2 === 1),
  )
  const tile = (id: string) => wrapper.get(`[data-bath="${id}"]`)
  expect(tile('print').classes()).toContain('chosen')
  expect(tile('half').classes()).toContain('marked')
  expect(tile('idle').get('.note').text()).toMatch(/^Changes nothing here: /)
  await tile('out').get('[aria-label$="put back"]').trigger('click')
  expect(tile('out').classes()).not.toContain('out')
  await wrapper
    .findAll('button')
    .find((b) => b.text() === 'fail')!
    .trigger('click')
  await flushPromises()
  expect(document.body.textContent).toContain('This is how a failure out of sight is told.')
  expect(warned.mock.calls).toEqual([])
  wrapper.unmount()
})
