<script setup lang="ts">
import type { Shot } from '@fogbath/contract'
import { likelyOthers } from '@fogbath/core/encodings'
import { NOTHING } from '@fogbath/core/line'
import { computed } from 'vue'
import { encodingOfRow, ownEncodings, refOf } from '../api/encodings'
import SmallStill from '../components/SmallStill.vue'
import WaveformStill from '../components/WaveformStill.vue'
import { frameOrder } from '../workers/order'
import type { Wanted } from '../workers/protocol'

/** A frame as its shot is read now, and as two likely other encodings would have it, each with its waveform. */
const props = defineProps<{ shot: Shot }>()
const emit = defineEmits<{ choose: [encoding: string] }>()

const tiles = computed(() => {
  const { encoding, medium } = props.shot
  const own = ownEncodings.value.map(({ definition }) => encodingOfRow(definition.id))
  const others = likelyOthers(encodingOfRow(encoding), { ...medium.info, reach: medium.info.reach ?? null }, own)
  const untreated = frameOrder(props.shot, { preparation: [], recipe: NOTHING, after: [] })
  return [encoding, ...others].map((id) => {
    const wanted: Wanted = { ...untreated, width: 320, order: { ...untreated.order, encoding: refOf(id) } }
    return { id, label: encodingOfRow(id).label, wanted }
  })
})
</script>

<template>
  <div class="tiles" role="group" aria-label="Encoding: as it is, and two others">
    <button
      v-for="(t, i) in tiles"
      :key="t.id"
      type="button"
      :aria-pressed="i === 0"
      @click="i > 0 && emit('choose', t.id)"
    >
      <SmallStill :wanted="t.wanted" :name="`As ${t.label}`" />
      <WaveformStill :wanted="t.wanted" :name="`Waveform as ${t.label}`" />
      <span>{{ t.label }}</span>
      <span class="quiet">{{ i === 0 ? 'as it is read now' : 'read it so' }}</span>
    </button>
  </div>
</template>

<style scoped>
.tiles {
  display: grid;
  gap: 12px;
  grid-template-columns: repeat(3, 1fr);
}
button {
  background: none;
  border: 1px solid var(--line);
  color: var(--text);
  cursor: pointer;
  display: flex;
  flex-direction: column;
  font: inherit;
  gap: 2px;
  padding: 6px;
  text-align: left;
}
button[aria-pressed='true'] {
  border-color: var(--accent);
  cursor: default;
}
button:hover {
  border-color: var(--text);
}
</style>
