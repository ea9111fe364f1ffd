<script setup lang="ts">
import { NButton, NSelect } from 'naive-ui'
import { ref, watch } from 'vue'
import SheetDialog from '../components/SheetDialog.vue'
import type { ShelfEntry } from './entries'

/** Which shots a recipe is put on. */
const props = defineProps<{ entry: ShelfEntry | null; shots: readonly { value: number; label: string }[] }>()
const emit = defineEmits<{ put: [shots: number[]]; close: [] }>()
const chosen = ref<number[]>([])
watch(
  () => props.entry,
  () => (chosen.value = []),
)
</script>

<template>
  <SheetDialog :show="entry !== null" :title="`Put ${entry?.name ?? ''} on`" :width="480" @update:show="emit('close')">
    <NSelect
      v-model:value="chosen"
      multiple
      filterable
      :options="[...shots]"
      placeholder="Shots"
      aria-label="Shots that it is put on"
    />
    <div class="row">
      <NButton type="primary" :disabled="chosen.length === 0" @click="emit('put', chosen)"
        >Put on {{ chosen.length }} {{ chosen.length === 1 ? 'shot' : 'shots' }}</NButton
      >
      <button class="word" type="button" @click="chosen = shots.map((s) => s.value)">all of them</button>
      <span class="quiet">as a new trial of each</span>
    </div>
  </SheetDialog>
</template>

<style scoped>
.row {
  align-items: center;
  display: flex;
  gap: 12px;
  margin-top: 12px;
}
</style>
