<script setup lang="ts">
import { NButton, NModal } from 'naive-ui'
import { computed } from 'vue'
import { useBenchStore } from '../stores/bench'

/** The same thing was changed in another window: nothing is written until it is decided whose change stays. */
const bench = useBenchStore()
const text = computed(() =>
  bench.conflict?.what === 'shot'
    ? 'The trims or marks of this shot were changed in another window.'
    : 'This trial was changed in another window.',
)
</script>

<template>
  <NModal
    :show="bench.conflict !== null"
    preset="card"
    title="Changed elsewhere"
    :closable="false"
    :mask-closable="false"
    :close-on-esc="false"
    :style="{ width: '520px' }"
    role="dialog"
    aria-label="Changed elsewhere"
  >
    <p>
      {{ text }}
      {{
        bench.conflict?.merged
          ? 'The two touch different things and can be brought together.'
          : 'Both touch the same thing: one of the two must give way.'
      }}
    </p>
    <div class="do">
      <NButton v-if="bench.conflict?.merged" type="primary" @click="bench.settle('both')">Keep both changes</NButton>
      <NButton @click="bench.settle('theirs')">Take theirs</NButton>
      <NButton @click="bench.settle('mine')">Keep mine</NButton>
    </div>
  </NModal>
</template>

<style scoped>
.do {
  display: flex;
  gap: 10px;
  margin-top: 16px;
}
</style>
