<script setup lang="ts">
import type { Production } from '../api/types'
import SheetDialog from './SheetDialog.vue'

/** One production into a file. */
const production = defineModel<Production | null>('production', { required: true })
const addressOf = (p: Production, media: 0 | 1): string => `/api/productions/${p.id}/along?media=${media}`
</script>

<template>
  <SheetDialog
    :show="production !== null"
    :title="`Take ${production?.name ?? ''} along`"
    :width="520"
    @update:show="production = null"
  >
    <template v-if="production">
      <p>
        One file with all its shots, trials, masks, proofs and steps of undo. Bring it in again on this or another
        machine; what is there stays as it is.
      </p>
      <p class="ways">
        <a :href="addressOf(production, 1)" download @click="production = null">with its footage</a>
        <a :href="addressOf(production, 0)" download @click="production = null">without footage</a>
      </p>
      <p class="quiet">Without footage the file is small, but the same footage must be there where it is brought in.</p>
    </template>
  </SheetDialog>
</template>

<style scoped>
a {
  color: var(--text);
}
.ways {
  display: flex;
  gap: 24px;
  margin: 14px 0;
}
</style>
