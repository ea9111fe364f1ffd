<script setup lang="ts">
import { computed } from 'vue'
import type { Bath, splitShares } from '@fogbath/core'
import { useBenchStore } from '../../stores/bench'
import HuePad from './HuePad.vue'

/** The two colours of a split tone, side by side as they lie on the wedge. */
const props = defineProps<{ bath: Bath }>()
const bench = useBenchStore()
const settings = computed(() => props.bath.settings as unknown as Parameters<typeof splitShares>[0])
const set = (side: 'darks' | 'lights', hue: number, amount: number): void =>
  bench.setSettings(props.bath.id, { [`${side}Hue`]: hue, [`${side}Amount`]: amount })
</script>

<template>
  <div class="both">
    <div>
      <span class="quiet">Darks</span>
      <HuePad
        :hue="settings.darksHue"
        :amount="settings.darksAmount"
        name="Darks"
        @change="(h, a) => set('darks', h, a)"
      />
    </div>
    <div>
      <span class="quiet">Lights</span>
      <HuePad
        :hue="settings.lightsHue"
        :amount="settings.lightsAmount"
        name="Lights"
        @change="(h, a) => set('lights', h, a)"
      />
    </div>
  </div>
</template>

<style scoped>
.both {
  display: grid;
  gap: 4px;
  grid-template-columns: 1fr 1fr;
  margin-bottom: 8px;
}
.quiet {
  font-size: 12px;
}
</style>
