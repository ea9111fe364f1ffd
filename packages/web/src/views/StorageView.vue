<script setup lang="ts">
import { NButton, NSpin } from 'naive-ui'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api } from '../api/client'
import type { StorageUse } from '../api/types'
import TopBar from '../components/TopBar.vue'
import { wordsOf } from '../components/complain'

/** What lies on the server's disk, what of it can go, and a backup of all there is. */
const use = shallowRef<StorageUse | null>(null)
const problem = ref('')
const said = ref('')

async function load(): Promise<void> {
  try {
    use.value = await api.storage()
    problem.value = ''
  } catch (error) {
    problem.value = wordsOf(error)
  }
}
onMounted(load)

const megabytes = (bytes: number): string =>
  bytes >= 1e9 ? `${(bytes / 1e9).toFixed(2)} GB` : `${(bytes / 1e6).toFixed(1)} MB`
const rows = computed(() => {
  const u = use.value
  if (!u) return []
  return [
    { name: 'Footage', bytes: u.footage, what: 'The files that were brought in, each once, whoever uses it.' },
    {
      name: 'Frames made ready',
      bytes: u.cache,
      what: 'Decoded for looking and playing; kept up to 4 GB, the oldest go first.',
    },
    { name: 'Renders', bytes: u.renders, what: 'Done and half-done; they go when they are deleted in Dispatch.' },
    { name: 'Proofs', bytes: u.proofs, what: 'In the database, with their recipes.' },
    { name: 'Steps of undo', bytes: u.undo, what: 'In the database, up to 100 for each shot.' },
  ]
})
const KINDS: Record<StorageUse['canGo'][number]['kind'], string> = {
  upload: 'uploads that were cut off',
  footage: 'footage that nothing uses any more',
  cache: 'frames of footage that is gone',
  render: 'what cancelled or joined renders left behind',
  import: 'backups that were brought in and not taken',
}
const freed = computed(() => (use.value?.canGo ?? []).reduce((sum, s) => sum + s.bytes, 0))

async function sweep(): Promise<void> {
  try {
    await api.sweep()
    said.value = `${megabytes(freed.value)} removed.`
  } catch (error) {
    problem.value = wordsOf(error)
  }
  await load()
}
</script>

<template>
  <TopBar />
  <main class="page">
    <h1>Storage</h1>
    <p v-if="problem" role="alert" class="warn">
      {{ problem }} <button class="word" type="button" @click="load">Try again</button>
    </p>
    <NSpin v-else-if="!use" aria-label="Loading" />
    <template v-else>
      <table>
        <tbody>
          <tr v-for="row in rows" :key="row.name">
            <th scope="row">{{ row.name }}</th>
            <td class="mono">{{ megabytes(row.bytes) }}</td>
            <td class="quiet">{{ row.what }}</td>
          </tr>
        </tbody>
      </table>
      <h2>What can go</h2>
      <p v-if="use.canGo.length === 0" class="quiet" role="status">{{ said }} Nothing is left over.</p>
      <template v-else>
        <ul>
          <li v-for="s in use.canGo" :key="s.kind">
            {{ KINDS[s.kind] }}: {{ s.count }}, <span class="mono">{{ megabytes(s.bytes) }}</span>
          </li>
        </ul>
        <NButton @click="sweep">Remove {{ megabytes(freed) }}</NButton>
      </template>
      <p class="quiet">It is looked for at every start and once a day as well.</p>
      <h2>Backup</h2>
      <p>
        All productions with their shots, trials, masks, proofs and steps of undo, in one file:
        <a href="/api/backup?media=1" download>with the footage</a> or
        <a href="/api/backup?media=0" download>without it</a>. It is taken in again under Productions, “bring in”.
      </p>
    </template>
  </main>
</template>

<style scoped>
a {
  color: var(--text);
}
table {
  border-collapse: collapse;
  margin: 14px 0 22px;
}
th,
td {
  border-bottom: 1px solid var(--line);
  padding: 7px 22px 7px 0;
  text-align: left;
}
td.mono {
  text-align: right;
}
h2 {
  margin: 22px 0 8px;
}
ul {
  margin: 0 0 12px;
  padding-left: 18px;
}
</style>
