<script setup lang="ts">
import { NO_TRIMS, TrimsSchema, type Trims } from '@fogbath/core'
import { computed, ref } from 'vue'
import { useBenchStore } from '../stores/bench'
import SettingRow from './SettingRow.vue'

/** The shot's own corrections; they stay when the recipe changes. */
const bench = useBenchStore()
const open = ref(false)
const fields = Object.entries(TrimsSchema.properties)
const trims = computed(() => bench.shot?.trims ?? NO_TRIMS)
const changed = computed(() => Object.values(trims.value).filter((v) => v !== 0).length)
</script>

<template>
  <section class="trims" aria-label="Trims">
    <button class="word" type="button" :aria-expanded="open" @click="open = !open">
      Trims of this shot {{ changed ? `(${changed})` : '' }} {{ open ? '▾' : '▸' }}
    </button>
    <div v-if="open">
      <SettingRow
        v-for="[name, field] in fields"
        :key="name"
        :name="name"
        :field="field as never"
        :value="trims[name as keyof Trims]"
        @change="(v) => bench.setTrims({ ...trims, [name]: v as number })"
      />
    </div>
  </section>
</template>

<style scoped>
.trims {
  border-bottom: 1px solid var(--line);
  padding: 6px 14px;
}
</style>
