import type { Page, Proof } from '@fogbath/contract'
import { createPinia, setActivePinia } from 'pinia'
import { afterEach, beforeEach, expect, it, vi } from 'vitest'
import { effectScope, type EffectScope } from 'vue'
import { ApiError, api } from '../src/api/client'
import { useProofs } from '../src/bench/useProofs'
import { usePages } from '../src/components/usePages'
import { useBenchStore } from '../src/stores/bench'
import { fakeServer, shotOf } from './fake-server'

let scope: EffectScope
beforeEach(() => {
  setActivePinia(createPinia())
  scope = effectScope()
})
afterEach(() => {
  scope.stop()
  vi.restoreAllMocks()
})

/** Pages of three, the newest first, of rows that may grow meanwhile. */
function paged() {
  const rows = [6, 5, 4, 3, 2, 1].map((id) => ({ id }))
  const fetch = async (before = Infinity): Promise<Page<{ id: number }>> => {
    const left = rows.filter(({ id }) => id < before)
    return { items: left.slice(0, 3), more: left.length > 3 }
  }
  return { rows, fetch }
}
const idsOf = (list: readonly { id: number }[] | null) => list?.map(({ id }) => id)

it('pages are joined without a gap and without anything twice', async () => {
  const { rows, fetch } = paged()
  const asked = vi.fn(fetch)
  const pages = usePages(asked)
  expect(pages.items.value).toBeNull()
  await pages.refresh()
  await Promise.all([pages.older(), pages.older()])
  expect(idsOf(pages.items.value)).toEqual([6, 5, 4, 3, 2, 1])
  expect(pages.more.value).toBe(false)
  rows.unshift({ id: 7 })
  await pages.refresh()
  expect(idsOf(pages.items.value)).toEqual([7, 6, 5, 4, 3, 2, 1])
  asked.mockRejectedValueOnce(new ApiError(0, 'The server does not answer.'))
  await pages.refresh()
  expect(pages.problem.value).toBe('The server does not answer.')
  expect(pages.items.value).toHaveLength(7)
})

it('proofs that could not be loaded are not said to be none', async () => {
  fakeServer([shotOf(1)])
  const load = vi.spyOn(api, 'proofs').mockRejectedValueOnce(new ApiError(500, 'Something went wrong in the server.'))
  const proofs = scope.run(() => useProofs(() => undefined as never))!
  await useBenchStore().open(1)
  await vi.waitFor(() => expect(proofs.problem.value).toBe('Something went wrong in the server.'))
  load.mockResolvedValueOnce([{ id: 3 } as Proof])
  await proofs.load()
  expect([proofs.problem.value, idsOf(proofs.list.value)]).toEqual(['', [3]])
})
