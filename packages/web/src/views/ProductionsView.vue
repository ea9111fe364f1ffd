<script setup lang="ts">
import { MOST_LETTERS } from '@fogbath/core/line'
import { NButton, NInput, NSpin, useDialog, useMessage } from 'naive-ui'
import { onMounted, ref, shallowRef } from 'vue'
import { useRouter } from 'vue-router'
import { api } from '../api/client'
import type { ListedProduction, Production, Shot } from '@fogbath/contract'
import BringIn from '../components/BringIn.vue'
import ShotStill from '../components/ShotStill.vue'
import TakeAlong from '../components/TakeAlong.vue'
import TopBar from '../components/TopBar.vue'
import { usePages } from '../components/usePages'
import { wordsOf } from '../stores/errors'

const { items: productions, more, problem, refresh, older, drop } = usePages(api.productions)
const name = ref('')
const router = useRouter()
const dialog = useDialog()
const message = useMessage()
onMounted(refresh)

async function attempt(work: () => Promise<unknown>): Promise<void> {
  try {
    await work()
  } catch (error) {
    message.error(wordsOf(error))
  }
  await refresh()
}
async function create(): Promise<void> {
  if (!name.value.trim()) return
  await attempt(async () => router.push(`/productions/${(await api.createProduction(name.value.trim())).id}`))
}
function remove(p: ListedProduction): void {
  dialog.warning({
    title: `Delete ${p.name}?`,
    content: `Its ${p.shotCount} shots and all their trials go with it. Renders that are done stay in Dispatch.`,
    positiveText: 'Delete',
    negativeText: 'Keep',
    onPositiveClick: () =>
      attempt(async () => {
        await api.deleteProduction(p)
        drop(p.id)
      }),
  })
}
/** The production that is about to be taken along. */
const along = shallowRef<Production | null>(null)
/** The footage is shown as it came in. */
const untreated = ref(false)
const lineOf = (s: Shot) => s.trials.find((t) => t.id === s.trialId)?.recipe
const benchOf = (p: Production): string => (p.shots[0] ? `/bench/${p.shots[0].id}` : `/productions/${p.id}`)
</script>

<template>
  <TopBar />
  <main class="page">
    <div class="head">
      <h1>Productions</h1>
      <button
        v-if="productions?.length"
        class="word"
        type="button"
        :aria-pressed="untreated"
        title="Show all shots without their treatment"
        @click="untreated = !untreated"
      >
        see the footage
      </button>
      <BringIn @done="refresh" />
      <form @submit.prevent="create">
        <NInput
          v-model:value="name"
          placeholder="Name of a new production"
          :maxlength="MOST_LETTERS.production"
          :input-props="{ 'aria-label': 'Name of a new production' }"
        />
        <NButton type="primary" attr-type="submit" :disabled="!name.trim()">Make</NButton>
      </form>
    </div>
    <p v-if="problem" role="alert" class="warn">
      {{ problem }} <button class="word" type="button" @click="refresh">Try again</button>
    </p>
    <NSpin v-else-if="!productions" aria-label="Loading" />
    <p v-else-if="productions.length === 0" class="quiet">
      No production yet. Name one above, then bring in its footage.
    </p>
    <article v-for="p in productions ?? []" :key="p.id" class="production">
      <div class="title">
        <h2>
          <RouterLink :to="benchOf(p)">{{ p.name }}</RouterLink>
        </h2>
        <span class="quiet">{{ p.shotCount }} {{ p.shotCount === 1 ? 'shot' : 'shots' }}</span>
        <span class="actions">
          <RouterLink class="word" :to="benchOf(p)">bench</RouterLink>
          <RouterLink class="word" :to="`/productions/${p.id}`">intake</RouterLink>
          <button class="word" type="button" @click="attempt(() => api.copyProduction(p.id))">copy</button>
          <button class="word" type="button" title="Into one file, for another machine" @click="along = p">
            export
          </button>
          <button class="word" type="button" @click="remove(p)">delete</button>
        </span>
      </div>
      <p v-if="p.notes" class="quiet">{{ p.notes }}</p>
      <div class="sheet">
        <RouterLink v-for="s in p.shots" :key="s.id" :to="`/bench/${s.id}`" :title="s.name"
          ><ShotStill :shot="s" :width="260" :recipe="untreated ? undefined : lineOf(s)" /><span>{{ s.name }}</span
          ><span class="quiet carries">{{ lineOf(s)?.name }}</span></RouterLink
        >
        <RouterLink v-if="p.shotCount > p.shots.length" class="word rest" :to="`/productions/${p.id}`"
          >{{ p.shotCount - p.shots.length }} more</RouterLink
        >
      </div>
    </article>
    <NButton v-if="more" @click="older">Older productions</NButton>
    <TakeAlong v-model:production="along" />
  </main>
</template>

<style scoped>
.head,
.title {
  align-items: baseline;
  display: flex;
  gap: 14px;
}
.head {
  margin-bottom: 18px;
}
form {
  display: flex;
  gap: 8px;
  margin-left: auto;
  width: 380px;
}
.carries {
  display: block;
  font-size: 13px;
}
.production {
  border-top: 1px solid var(--line);
  padding: 14px 0 20px;
}
h2 a,
.sheet a {
  color: var(--text);
  text-decoration: none;
}
.actions {
  display: flex;
  gap: 14px;
  margin-left: auto;
}
.actions a {
  text-decoration: none;
}
.sheet .rest {
  align-self: center;
  color: var(--quiet);
}
.sheet {
  display: grid;
  gap: 10px;
  grid-template-columns: repeat(auto-fill, minmax(200px, 1fr));
  margin-top: 10px;
}
</style>
