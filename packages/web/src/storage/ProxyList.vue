<script setup lang="ts">
import type { StorageUse } from '@fogbath/contract'
import { useIntervalFn } from '@vueuse/core'
import { computed } from 'vue'
import { api } from '../api/client'
import { report } from '../stores/errors'
import { sizeWords } from './bytes'

type ProxyRow = StorageUse['proxies']['list'][number]
/** Proxies, made and on their way; those that are removed come back when their footage is looked at. */
const props = defineProps<{ proxies: readonly ProxyRow[] }>()
const emit = defineEmits<{ changed: [] }>()

const coming = computed(() => props.proxies.some((p) => p.state !== 'made'))
useIntervalFn(() => coming.value && emit('changed'), 2000)
async function remove(key: string): Promise<void> {
  await api.removeProxy(key).catch(report)
  emit('changed')
}
const progress = ({ state, share, bytes }: ProxyRow): string =>
  state === 'made' ? sizeWords(bytes) : state === 'waiting' ? 'waits' : `made to ${Math.round(100 * share)} %`
</script>

<template>
  <details v-if="proxies.length">
    <summary>{{ proxies.length }} {{ proxies.length === 1 ? 'proxy' : 'proxies' }}</summary>
    <ul aria-label="Proxies">
      <li v-for="p in proxies" :key="p.key">
        <span>{{ p.name }}</span>
        <span class="mono">{{ progress(p) }}</span>
        <button
          class="word"
          type="button"
          :disabled="p.state !== 'made'"
          :aria-label="`Remove the proxy of ${p.name}`"
          @click="remove(p.key)"
        >
          remove
        </button>
      </li>
    </ul>
  </details>
</template>

<style scoped>
summary {
  cursor: pointer;
  line-height: 24px;
}
ul {
  margin: 0 0 16px;
  padding: 0;
}
li {
  align-items: baseline;
  display: grid;
  gap: 14px;
  grid-template-columns: 320px 110px 70px;
  list-style: none;
}
</style>
