<script setup lang="ts">
import { NButton } from 'naive-ui'
import { computed } from 'vue'
import SheetDialog from '../components/SheetDialog.vue'
import { useBenchStore } from '../stores/bench'

/** The same thing was changed in another window: nothing is written until it is decided whose change stays. */
const bench = useBenchStore()
const text = computed(() =>
  bench.conflict?.what === 'shot'
    ? 'The preparation or the marks of this shot were changed in another window.'
    : 'This trial was changed in another window.',
)
</script>

<template>
  <SheetDialog :show="bench.conflict !== null" title="Changed elsewhere" :width="520" :closable="false">
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
  </SheetDialog>
</template>

<style scoped>
.do {
  display: flex;
  gap: 10px;
  margin-top: 16px;
}
</style>
