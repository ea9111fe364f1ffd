import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import type { ThemeName } from '../theme/theme'

/** How the interface looks on this machine. */
export const useLookStore = defineStore('look', () => {
  const theme = useStorage<ThemeName>('fogbath.theme', 'dark')
  const surround = useStorage<'dark' | 'mid' | 'light'>('fogbath.surround', 'mid')
  return { theme, surround }
})
