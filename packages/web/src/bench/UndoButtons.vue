<script setup lang="ts">
import { NDropdown } from 'naive-ui'
import { ArrowBackUp, ArrowForwardUp, History } from '@vicons/tabler'
import { ref } from 'vue'
import IconButton from '../components/IconButton.vue'
import { useBenchStore } from '../stores/bench'
import { shortcutOf } from './keys'

/** Undo, redo, and the list of steps, each with what it changed; a click goes there. */
const bench = useBenchStore()
interface Entry {
  readonly key: number
  readonly label: string
}
const list = ref<readonly Entry[]>([])
/** Further ones are reached from there. */
const MOST = 40

function fill(shown: boolean): void {
  if (!shown) return
  const { past, future } = bench.stepNames()
  const redo = future.slice(0, MOST).map((name, i) => ({ key: i + 1, label: `redo: ${name}` }))
  list.value = [
    ...redo.reverse(),
    { key: 0, label: 'here now' },
    ...past.slice(0, MOST).map((name, i) => ({ key: -i - 1, label: name })),
  ]
}
/** Undoes, or does again, so many steps. */
async function go(steps: number): Promise<void> {
  for (let i = 0; i < Math.abs(steps); i++) await (steps < 0 ? bench.undo() : bench.redo())
}
</script>

<template>
  <IconButton
    :icon="ArrowBackUp"
    name="Undo"
    :title="`Undo (${shortcutOf('undo')})`"
    :disabled="!bench.history.past.length"
    @click="bench.undo"
  />
  <IconButton
    :icon="ArrowForwardUp"
    name="Redo"
    :title="`Redo (${shortcutOf('redo')})`"
    :disabled="!bench.history.future.length"
    @click="bench.redo"
  />
  <NDropdown
    trigger="click"
    scrollable
    class="steps"
    :options="[...list]"
    @update:show="fill"
    @select="(steps: number) => void go(steps)"
  >
    <IconButton
      :icon="History"
      name="Steps"
      title="Steps of undo: what each changed; a click takes back down to it"
      :disabled="bench.history.past.length + bench.history.future.length === 0"
    />
  </NDropdown>
</template>
