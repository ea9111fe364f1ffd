<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { KeptMask } from '@fogbath/contract'
import { NOTHING, newBath } from '@fogbath/core/line'
import { wordsOf } from '../stores/errors'
import SmallStill from '../components/SmallStill.vue'
import TimeAgo from '../components/TimeAgo.vue'
import { useMaskStore } from '../stores/masks'
import { through } from '../workers/order'
import type { FrameOrder, Wanted } from '../workers/protocol'

/** Masks that were kept for other baths and shots. @prop on the picture that they are shown on */
defineProps<{ on: FrameOrder | null }>()
const masks = useMaskStore()
const problem = ref('')
const tried = async (work: () => Promise<void>): Promise<void> => {
  problem.value = await work().then(() => '', wordsOf)
}
onMounted(() => tried(masks.load))
/** The picture where the mask lets through, dark and without colour elsewhere. */
function seenThrough({ mask }: KeptMask, on: FrameOrder): Wanted {
  const drained = newBath('timing', 'elsewhere', { saturation: 0, exposure: -1.5 })
  return through(on, { ...NOTHING, baths: [{ ...drained, mask: { ...mask, invert: !mask.invert } }] }, 320)
}
const partsOf = ({ mask }: KeptMask): string => mask.parts.map((p) => p.type.replace('-', ' ')).join(', ')
</script>

<template>
  <section v-if="masks.kept.length || problem" aria-label="Masks" class="masks">
    <h2>Masks</h2>
    <p v-if="problem" class="warn" role="alert">{{ problem }}</p>
    <ul>
      <li v-for="m in masks.kept" :key="m.id" :class="{ quiet: m.archived }">
        <SmallStill v-if="on" class="seen" :wanted="seenThrough(m, on)" :name="`${m.name}, on a picture`" />
        <b>{{ m.name }}</b> <span class="quiet">{{ partsOf(m) }}</span> <TimeAgo :time="m.createdAt" />
        <button class="word" type="button" @click="tried(() => masks.change(m, { archived: !m.archived }))">
          {{ m.archived ? 'restore' : 'archive' }}
        </button>
      </li>
    </ul>
  </section>
</template>

<style scoped>
ul {
  display: flex;
  flex-wrap: wrap;
  gap: 12px 24px;
  list-style: none;
  margin: 4px 0;
  padding: 0;
}
li {
  align-content: start;
  align-items: baseline;
  display: flex;
  flex-wrap: wrap;
  gap: 4px 8px;
  width: 176px;
}
.seen {
  width: 100%;
}
</style>
