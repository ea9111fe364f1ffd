<script setup lang="ts">
import { onMounted, ref } from 'vue'
import type { KeptMask } from '@fogbath/contract'
import { wordsOf } from '../stores/errors'
import TimeAgo from '../components/TimeAgo.vue'
import { useMaskStore } from '../stores/masks'

/** Masks that were kept for other baths and shots. */
const masks = useMaskStore()
const problem = ref('')
const tried = async (work: () => Promise<void>): Promise<void> => {
  problem.value = await work().then(() => '', wordsOf)
}
onMounted(() => tried(masks.load))
const partsOf = ({ mask }: KeptMask): string => mask.parts.map((p) => p.type.replace('-', ' ')).join(', ')
</script>

<template>
  <section v-if="masks.kept.length || problem" aria-label="Masks" class="masks">
    <h2>Masks</h2>
    <p v-if="problem" class="warn" role="alert">{{ problem }}</p>
    <ul>
      <li v-for="m in masks.kept" :key="m.id" :class="{ quiet: m.archived }">
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
  gap: 4px 24px;
  list-style: none;
  margin: 4px 0;
  padding: 0;
}
li {
  align-items: baseline;
  display: flex;
  gap: 8px;
}
</style>
