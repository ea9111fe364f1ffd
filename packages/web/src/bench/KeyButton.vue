<script setup lang="ts">
import { keyAt } from '@fogbath/core/line'
import type { Lane } from '@fogbath/core/keys'
import { Key } from '@vicons/tabler'
import { computed } from 'vue'
import { useBenchStore } from '../stores/bench'

/** Sets a key of a value in this frame, or takes away the one that stands here. A still picture has none. */
const props = defineProps<{ name: string; lane: Lane | undefined }>()
const emit = defineEmits<{ toggle: [] }>()
const bench = useBenchStore()
const here = computed(() => props.lane !== undefined && keyAt(props.lane, bench.instant) >= 0)
const title = computed(() =>
  here.value
    ? 'A key stands in this frame: click to take it away'
    : props.lane
      ? 'It changes over the shot: click to set a key in this frame'
      : 'Let it change over the shot: set a first key in this frame',
)
</script>

<template>
  <button
    v-if="bench.instant.length > 1"
    class="key"
    :class="{ lane: lane !== undefined, here }"
    type="button"
    :aria-label="`Key of ${name} in this frame`"
    :aria-pressed="here"
    :title="title"
    @click="emit('toggle')"
  >
    <Key width="14" height="14" aria-hidden="true" />
  </button>
  <span v-else />
</template>

<style scoped>
.key {
  background: none;
  border: 0;
  border-radius: 3px;
  color: var(--quiet);
  cursor: pointer;
  display: grid;
  height: 24px;
  margin: 0 -3px;
  padding: 0;
  place-items: center;
  width: 24px;
}
.key.lane {
  color: var(--accent);
}
.key.here {
  background: var(--accent);
  color: var(--ground);
}
</style>
