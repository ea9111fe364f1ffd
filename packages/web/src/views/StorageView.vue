<script setup lang="ts">
import { NButton, NSpin } from 'naive-ui'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { api } from '../api/client'
import { ROUTES, addressOf, type StorageUse } from '@fogbath/contract'
import TopBar from '../components/TopBar.vue'
import { wordsOf } from '../stores/errors'
import { sizeWords } from '../storage/bytes'
import FootageLists from '../storage/FootageLists.vue'
import ProxyList from '../storage/ProxyList.vue'
import RestoreList from '../storage/RestoreList.vue'

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
    {
      name: 'Proxies',
      bytes: u.proxies.bytes,
      what: `Small copies for looking, of footage that decodes slower than it plays; kept up to ${sizeWords(u.proxies.budget)} in ${u.proxies.folder}.`,
    },
    { name: 'Renders', bytes: u.renders, what: 'Done and half-done; they go when they are deleted in Dispatch.' },
    { name: 'Proofs', bytes: u.proofs, what: 'In the database, with their recipes.' },
    { name: 'Steps of undo', bytes: u.undo, what: 'In the database, up to 100 for each shot.' },
  ]
})
const KINDS: Record<StorageUse['canGo'][number]['kind'], string> = {
  upload: 'uploads that were cut off',
  cache: 'frames of footage that is gone',
  render: 'what cancelled or joined renders left behind',
  import: 'backups that were brought in and not taken',
  backup: 'what was read for a backup that nobody fetched',
}
const freed = computed(() => (use.value?.canGo ?? []).reduce((sum, s) => sum + s.bytes, 0))

async function sweep(): Promise<void> {
  try {
    await api.sweep()
    said.value = `${sizeWords(freed.value)} removed.`
  } catch (error) {
    problem.value = wordsOf(error)
  }
  await load()
}
/** Address of a backup with the footage, or without it. */
const backupWith = (media: '0' | '1'): string => addressOf(ROUTES.backup, { query: { media } })
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
            <td class="mono">{{ sizeWords(row.bytes) }}</td>
            <td class="quiet">{{ row.what }}</td>
          </tr>
        </tbody>
      </table>
      <ProxyList :proxies="use.proxies.list" @changed="load" />
      <h2>What can go</h2>
      <p v-if="use.canGo.length === 0" class="quiet" role="status">{{ said }} Nothing is left over.</p>
      <template v-else>
        <ul>
          <li v-for="s in use.canGo" :key="s.kind">
            {{ KINDS[s.kind] }}: {{ s.count }}, <span class="mono">{{ sizeWords(s.bytes) }}</span>
          </li>
        </ul>
        <NButton @click="sweep">Remove {{ sizeWords(freed) }}</NButton>
      </template>
      <p class="quiet">
        Only what the program itself made and can make again. It is looked for at every start and once a day as well.
      </p>
      <FootageLists :use="use" @changed="load" />
      <h2>Backups</h2>
      <p>
        All productions with their shots, trials, masks, proofs and steps of undo, in one file:
        <a :href="backupWith('1')" download>with the footage</a> or <a :href="backupWith('0')" download>without it</a>.
        It is taken in again under Productions, “import”.
      </p>
      <p v-if="use.backups.reading + use.backups.waiting" role="status" class="quiet">
        {{ use.backups.reading }} being read for a backup, {{ use.backups.waiting }} waiting for that.
      </p>
      <RestoreList />
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
