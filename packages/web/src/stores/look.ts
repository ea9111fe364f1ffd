import { useStorage } from '@vueuse/core'
import { defineStore } from 'pinia'
import type { ThemeName } from '../theme/theme'
import type { Painter } from '../workers/protocol'

interface PanelLook {
  width: number | null
  folded: boolean
  /** Whether they are open. */
  readings: boolean
}

/** How the interface looks on this machine. */
export const useLookStore = defineStore('look', () => {
  const theme = useStorage<ThemeName>('fogbath.theme', 'dark')
  const surround = useStorage<'dark' | 'mid' | 'light'>('fogbath.surround', 'mid')
  /** Who draws while something moves. */
  const painter = useStorage<Painter>('fogbath.painter', 'auto')
  /** The panels at the right of the bench: their width in pixels, or null for their own; what is folded away. */
  const panel = useStorage<PanelLook>('fogbath.panel', { width: null, folded: false, readings: true })
  /** Sound is not heard while clips play. */
  const muted = useStorage('fogbath.muted', false)
  /** The tour of the bench was taken, or declined. */
  const toured = useStorage('fogbath.toured', false)
  return { theme, surround, painter, panel, muted, toured }
})
