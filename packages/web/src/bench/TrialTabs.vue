<script setup lang="ts">
import { MOST_LETTERS, NOTHING } from '@fogbath/core/line'
import { NDropdown, NInput, useMessage } from 'naive-ui'
import { computed, ref } from 'vue'
import type { Trial } from '@fogbath/contract'
import SheetDialog from '../components/SheetDialog.vue'
import { useBenchStore } from '../stores/bench'
import MatchDialog from './MatchDialog.vue'
import { nextTrialName } from '../components/trialNames'
import type { useProofs } from './useProofs'

/** Trials of the shot: choose, add as a copy or empty, rename, delete. */
defineProps<{ proofs: ReturnType<typeof useProofs> }>()
const bench = useBenchStore()
const message = useMessage()
const renaming = ref<Trial | null>(null)
const name = ref('')

const say = (work: Promise<unknown>): void =>
  void work.catch((e: unknown) => message.error(e instanceof Error ? e.message : String(e)))
const add = (key: string): void =>
  say(
    bench.addTrial(
      nextTrialName(bench.shot!.trials),
      key === 'copy' ? bench.line : { recipe: { ...NOTHING, id: 'untitled', name: 'Untitled' }, after: [] },
    ),
  )

function act(key: string, trial: Trial): void {
  if (key === 'remove') say(bench.removeTrial(trial.id))
  if (key !== 'rename') return
  renaming.value = trial
  name.value = trial.name
}
function finish(): void {
  if (renaming.value && name.value.trim()) say(bench.renameTrial(renaming.value.id, name.value.trim()))
  renaming.value = null
}
const matching = ref(false)
const menu = computed(() => [
  { key: 'rename', label: 'Rename' },
  { key: 'remove', label: 'Delete', disabled: (bench.shot?.trials.length ?? 0) < 2 },
])
</script>

<template>
  <nav v-if="bench.shot" class="trials" aria-label="Trials">
    <span class="quiet" title="A trial: one of several looks that are kept for this shot; V changes to the one before"
      >Trial</span
    >
    <template v-for="t in bench.shot.trials" :key="t.id">
      <button
        class="word"
        type="button"
        :aria-current="t.id === bench.trial?.id"
        @click="t.id !== bench.trial?.id && bench.chooseTrial(t)"
      >
        {{ t.name }}
      </button>
      <NDropdown v-if="t.id === bench.trial?.id" trigger="click" :options="menu" @select="(k: string) => act(k, t)">
        <button class="word" type="button" :aria-label="`More for trial ${t.name}`">▾</button>
      </NDropdown>
    </template>
    <NDropdown
      trigger="click"
      :options="[
        { key: 'copy', label: 'Copy of this trial' },
        { key: 'empty', label: 'Empty line' },
        { key: 'match', label: 'Fitted to a reference ...' },
      ]"
      @select="(key: string) => (key === 'match' ? (matching = true) : add(key))"
    >
      <button class="word" type="button" aria-label="Add a trial">+</button>
    </NDropdown>
    <MatchDialog v-model:show="matching" :proofs="proofs" />
    <SheetDialog :show="renaming !== null" title="Name of the trial" :width="320" @update:show="renaming = null">
      <NInput
        v-model:value="name"
        :maxlength="MOST_LETTERS.trial"
        :input-props="{ 'aria-label': 'Name of the trial' }"
        @keyup.enter="finish"
      />
    </SheetDialog>
  </nav>
</template>

<style scoped>
.trials {
  align-items: center;
  display: flex;
  gap: 8px;
}
</style>
