import type { Component } from 'vue'
import BalancePanel from './BalancePanel.vue'
import CdlPanel from './CdlPanel.vue'
import CurvesPanel from './CurvesPanel.vue'
import HuesPanel from './HuesPanel.vue'
import LutPanel from './LutPanel.vue'
import MixerPanel from './MixerPanel.vue'
import StrandPanel from './StrandPanel.vue'
import TonedWedge from './TonedWedge.vue'

/** Kinds whose settings, or some of them, are better seen than typed; each is given its bath. */
export const DRAWN: Readonly<Record<string, Component>> = {
  balance: BalancePanel,
  cdl: CdlPanel,
  curves: CurvesPanel,
  'hue-response': HuesPanel,
  'input-lut': LutPanel,
  mixer: MixerPanel,
  ranges: TonedWedge,
  'split-by-hand': TonedWedge,
  strand: StrandPanel,
}
