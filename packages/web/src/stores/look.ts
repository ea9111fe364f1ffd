import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import type { ThemeName } from '../theme/theme'
import type { Painter } from '../workers/protocol'

/** How the interface looks on this machine. */
export const useLookStore = defineStore('look', () => {
  const theme = useStorage<ThemeName>('fogbath.theme', 'dark')
  const surround = useStorage<'dark' | 'mid' | 'light'>('fogbath.surround', 'mid')
  /** Who draws while something moves. */
  const painter = useStorage<Painter>('fogbath.painter', 'auto')
  return { theme, surround, painter }
})
