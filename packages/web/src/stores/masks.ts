import { defineStore } from 'pinia'
import { computed, shallowRef } from 'vue'
import type { Mask } from '@fogbath/core/masks'
import { api } from '../api/client'
import type { KeptMask } from '@fogbath/contract'

/** Masks that are kept for other baths and shots, as the server has them. */
export const useMaskStore = defineStore('masks', () => {
  const kept = shallowRef<readonly KeptMask[]>([])
  const there = computed(() => kept.value.filter((row) => !row.archived))

  const load = async (): Promise<void> => {
    kept.value = await api.masks()
  }
  const keep = async (name: string, mask: Mask): Promise<void> => {
    await api.keepMask({ name, mask })
    await load()
  }
  const change = async (row: KeptMask, what: Partial<Pick<KeptMask, 'name' | 'archived'>>): Promise<void> => {
    await api.changeMask(row.id, { revision: row.revision, ...what }).finally(load)
  }

  return { kept, there, load, keep, change }
})
