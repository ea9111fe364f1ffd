<script setup lang="ts">
import { onMounted, ref, shallowRef } from 'vue'
import { api } from '../api/client'
import type { KeptMask } from '../api/types'
import { wordsOf } from '../components/complain'
import TimeAgo from '../components/TimeAgo.vue'

/** Masks that were kept for other baths and shots. */
const masks = shallowRef<readonly KeptMask[]>([])
const problem = ref('')
const load = async (): Promise<void> => {
  try {
    masks.value = await api.masks()
    problem.value = ''
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
onMounted(load)
const archive = async (mask: KeptMask): Promise<void> => {
  await api
    .changeMask(mask.id, { revision: mask.revision, archived: !mask.archived })
    .catch((error: unknown) => (problem.value = wordsOf(error)))
  await load()
}
const partsOf = ({ mask }: KeptMask): string => mask.parts.map((p) => p.type.replace('-', ' ')).join(', ')
</script>

<template>
  <section v-if="masks.length || problem" aria-label="Masks" class="masks">
    <h2>Masks</h2>
    <p v-if="problem" class="warn" role="alert">{{ problem }}</p>
    <ul>
      <li v-for="m in masks" :key="m.id" :class="{ quiet: m.archived }">
        <b>{{ m.name }}</b> <span class="quiet">{{ partsOf(m) }}</span> <TimeAgo :time="m.createdAt" />
        <button class="word" type="button" @click="archive(m)">{{ m.archived ? 'restore' : 'archive' }}</button>
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
