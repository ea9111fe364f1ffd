<script setup lang="ts">
import { NProgress } from 'naive-ui'
import { useIntervalFn } from '@vueuse/core'
import { onMounted, ref, shallowRef } from 'vue'
import { api } from '../api/client'
import type { Import } from '@fogbath/contract'
import ImportSheet from '../components/ImportSheet.vue'

/** Backups that were brought in and what goes on with them, whoever brought them. */
const imports = shallowRef<readonly Import[]>([])
const EVERY = 2000
async function look(): Promise<void> {
  // While the server is away the list stays as it was.
  imports.value = await api.imports().catch(() => imports.value)
}
onMounted(look)
useIntervalFn(() => void (document.visibilityState === 'visible' && look()), EVERY)

const open = ref(false)
const seen = shallowRef<Import | null>(null)
const see = (one: Import): void => void ([open.value, seen.value] = [true, one])

const WORDS: Record<Import['state'], string> = {
  proving: 'every part of it is checked',
  waiting: 'waits to be taken in',
  taking: 'is being taken in',
  taken: 'was taken in',
  failed: 'was refused',
}
const share = ({ done, of }: Import): number => (of > 0 ? Math.floor((100 * done) / of) : 0)
const names = (one: Import): string => one.preview?.productions.map((p) => p.name).join(', ') ?? ''
</script>

<template>
  <ul v-if="imports.length" aria-label="Backups brought in">
    <li v-for="one in imports" :key="one.key">
      <b>{{ one.name }}</b> <span class="quiet">{{ WORDS[one.state] }}</span> {{ names(one) }}
      <NProgress v-if="one.state === 'proving'" :percentage="share(one)" :aria-label="`Checking ${one.name}`" />
      <button v-if="one.state === 'waiting'" class="word" type="button" @click="see(one)">look at it</button>
      <span v-if="one.message" class="warn">{{ one.message }}</span>
    </li>
  </ul>
  <ImportSheet v-model:show="open" v-model:start="seen" @done="look" />
</template>

<style scoped>
ul {
  list-style: none;
  margin: 8px 0 0;
  padding: 0;
}
li {
  border-bottom: 1px solid var(--line);
  padding: 5px 0;
}
</style>
